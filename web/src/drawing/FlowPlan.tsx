import { contours } from "d3-contour";
import { useMemo } from "react";
import type { FlowMap, Infusion } from "../api/client";
import { fixed, short } from "../format";
import { useShop } from "../shop";
import { Drag } from "./Drag";
import { frontMinutes, inRoom, PADDED, type Point, sAt, sGel, spreadOut } from "./flow";
import { useWidth } from "./useWidth";

const MOST_HIGH = 410;
const [PAD_X, PAD_Y] = [54, 36];
const STEP_M = 0.01;
/** Where along the feed the labels of the fronts begin. */
const LABELLED_AT = 0.75;
const LABEL_APART = 22;
/** The words at a last place take so much room. */
const LAST_APART = 42;

type Line = Infusion["lines"][number];

/** Lines as minutes are said on the part. */
const minuteWords = (minutes: number) => short(fixed(minutes, minutes < 1 ? 2 : 1));

/** How old resin is where it stands, of the time it has: fresh amber to what no longer flows. */
function aged(share: number): string {
  const along = Math.min(1, Math.max(0, share));
  const mix = (from: string, to: string, part: number) =>
    `color-mix(in oklab, var(--color-${to}) ${Math.round(100 * part)}%, var(--color-${from}))`;
  return along < 0.6 ? mix("fresh", "mid", along / 0.6) : mix("mid", "resin-dark", (along - 0.6) / 0.4);
}

/** The part in plan with its front by minutes: amber ages to its gel, what stays dry is hatched. Lines are dragged. */
export function FlowPlan({
  told,
  map,
  roomC,
  minute,
  second,
  onLines,
  onDone,
}: {
  told: Infusion;
  map: FlowMap;
  roomC: number;
  /** The front at this minute is drawn as a line of its own. */
  minute: number | null;
  /** Where one more feed helps most, in a line or several. */
  second: readonly (readonly (readonly number[])[])[];
  onLines: (lines: Line[]) => void;
  onDone: () => void;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const xs = told.outline.map(([x = 0]) => x);
  const ys = told.outline.map(([, y = 0]) => y);
  const [left, low] = [Math.min(...xs), Math.min(...ys)];
  const [wide, tall] = [Math.max(...xs) - left, Math.max(...ys) - low];
  const scale = Math.min((width - 2 * PAD_X) / wide, (MOST_HIGH - 2 * PAD_Y) / tall);
  const height = tall * scale + 2 * PAD_Y;
  const shift = (width - wide * scale) / 2;
  const px = (x: number) => shift + (x - left) * scale;
  const py = (y: number) => PAD_Y + (y - low) * scale;
  const room = inRoom(told, roomC);
  const gelS = sGel(told, room);
  const field = useMemo(() => spreadOut(map), [map]);
  const outline = `${ringPath(told.outline)}${told.holes.map(ringPath).join("")}`;
  const until = room.full_min ?? room.sets_min;
  const minutes = frontMinutes(until);
  const bands = minutes.map((each) => ({ minute: each, s: sAt(told, room, each) }));
  const shape = contours().size([field.columns, field.rows]).smooth(true);
  const pathOf = (s: number) =>
    shape
      .contour(field.values, s)
      .coordinates.flat()
      .map((ring) => `M${ring.map(([x = 0, y = 0]) => `${gx(x)} ${gy(y)}`).join("L")}Z`)
      .join("");
  const share = (each: number) => each / room.sets_min;

  function gx(x: number) {
    return px(map.left_m + (x - PADDED) * map.width_m).toFixed(1);
  }
  function gy(y: number) {
    return py(map.low_m + (y - PADDED) * map.height_m).toFixed(1);
  }
  function ringPath(ring: number[][]) {
    return `M${ring.map(([x = 0, y = 0]) => `${px(x).toFixed(1)} ${py(y).toFixed(1)}`).join("L")}Z`;
  }
  /** A label for each front, each beside the last: so they walk from the feed outward, round holes as the resin does. */
  function labels(): Point[] {
    const feed = told.lines.find((line) => line.does === "feeds")?.points ?? [[left, low]];
    const [a = [left, low], b = feed[0] ?? a] = [feed[0], feed.at(-1)];
    let before: Point = [
      (a[0] ?? 0) + LABELLED_AT * ((b[0] ?? 0) - (a[0] ?? 0)),
      (a[1] ?? 0) + LABELLED_AT * ((b[1] ?? 0) - (a[1] ?? 0)),
    ];
    return bands.map(({ s }) => {
      const off = map.at_s.map((value) => (value == null ? Number.POSITIVE_INFINITY : Math.abs(value - s)));
      const near = Math.max(Math.min(...off), 0.015 * told.full_s);
      let best: Point = before;
      let nearest = Number.POSITIVE_INFINITY;
      off.forEach((each, at) => {
        if (each > near) return;
        const x = map.left_m + ((at % map.columns) + 0.5) * map.width_m;
        const y = map.low_m + (Math.floor(at / map.columns) + 0.5) * map.height_m;
        const away = Math.hypot(x - before[0], y - before[1]);
        if (away < nearest) [best, nearest] = [[x, y], away];
      });
      before = best;
      return best;
    });
  }
  const held = (point: readonly number[]): [number, number] => [
    Math.min(left + wide, Math.max(left, point[0] ?? 0)),
    Math.min(low + tall, Math.max(low, point[1] ?? 0)),
  ];
  const move = (id: string, points: number[][]) =>
    onLines(told.lines.map((line) => (line.id === id ? { ...line, points: points.map(held) } : line)));
  const drawn = minute == null ? null : sAt(told, room, minute);

  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with lines to drag in it
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="group"
      aria-label={`${told.name} in plan: ${room.full_min == null ? "it does not fill" : `full after ${fixed(room.full_min, 0)} minutes`}`}
    >
      <defs>
        <clipPath id="flow-part">
          <path d={outline} clipRule="evenodd" />
        </clipPath>
        <pattern id="flow-dry" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="9" height="9" fill="var(--color-sheet)" />
          <path d="M0 0V9" stroke="var(--color-stop)" strokeWidth="5" />
        </pattern>
      </defs>
      <g clipPath="url(#flow-part)">
        <rect x="0" y="0" width={width} height={height} fill={aged(share((minutes[0] ?? until) / 2))} />
        {bands.map((band, at) => (
          <path
            key={band.minute}
            d={pathOf(band.s)}
            fillRule="evenodd"
            fill={aged(share((band.minute + (minutes[at + 1] ?? until)) / 2))}
            stroke="var(--color-ink)"
            strokeOpacity="0.7"
            strokeWidth="1.3"
          />
        ))}
        {gelS < told.full_s && (
          <path
            d={pathOf(gelS)}
            fillRule="evenodd"
            fill="url(#flow-dry)"
            stroke="var(--color-stop)"
            strokeWidth="2.5"
            data-dry=""
          />
        )}
        {drawn != null && drawn > 0 && (
          <path d={pathOf(drawn)} fill="none" stroke="var(--color-sheet)" strokeWidth="7" strokeOpacity="0.85" />
        )}
        {drawn != null && drawn > 0 && (
          <path d={pathOf(drawn)} fill="none" stroke="var(--color-cool)" strokeWidth="3.5" />
        )}
      </g>
      <path d={outline} fillRule="evenodd" fill="none" stroke="var(--color-ink)" strokeWidth="1.6" />
      {second.map((points) => (
        <path
          key={points.join(" ")}
          d={points.map(([x = 0, y = 0], at) => `${at ? "L" : "M"}${px(x)} ${py(y)}`).join("")}
          fill="none"
          stroke="var(--color-sheet)"
          strokeWidth="4"
          strokeDasharray="9 7"
          data-second=""
        />
      ))}
      {labels().map(([x, y], at, every) => {
        const [beforeX, beforeY] = every[at - 1] ?? [Number.NEGATIVE_INFINITY, 0];
        // One that would lie on the last is left out: the lines are near enough to count.
        if (Math.hypot(px(x) - px(beforeX), py(y) - py(beforeY)) < LABEL_APART) return null;
        if (told.last_places.some((place) => Math.hypot(px(x) - px(place.x_m), py(y) - py(place.y_m)) < LAST_APART))
          return null;
        return (
          <text
            key={bands[at]?.minute}
            x={px(x)}
            y={py(y) + 5}
            textAnchor="middle"
            fontSize="15"
            fontWeight="600"
            className="fig"
            fill="var(--color-on-resin)"
            stroke="var(--color-fresh)"
            strokeWidth="4"
            paintOrder="stroke"
          >
            {minuteWords(bands[at]?.minute ?? 0)}
          </text>
        );
      })}
      {told.last_places.map((place, at) => (
        <g key={`${place.x_m} ${place.y_m}`}>
          <path
            d={`M${px(place.x_m) - 7} ${py(place.y_m) - 7}l14 14m0 -14l-14 14`}
            stroke={place.shut_in ? "var(--color-stop)" : "var(--color-ink)"}
            strokeWidth="2.4"
          />
          <text
            x={px(place.x_m) + (place.x_m > left + wide * 0.7 ? -12 : 12)}
            y={py(place.y_m) + (place.y_m > low + tall * 0.85 ? -12 : 20)}
            textAnchor={place.x_m > left + wide * 0.7 ? "end" : "start"}
            fontSize="13.5"
            fontWeight="600"
            fill="var(--color-on-resin)"
            stroke="var(--color-fresh)"
            strokeWidth="3"
            paintOrder="stroke"
          >
            {place.shut_in ? "air shut in" : at === 0 ? "last" : ""}
          </text>
        </g>
      ))}
      {told.marks.map((mark) => (
        <g key={mark.number}>
          <circle
            cx={px(mark.x_m)}
            cy={py(mark.y_m)}
            r="10"
            fill="var(--color-fresh)"
            stroke="var(--color-on-resin)"
            strokeWidth="1.6"
          />
          <text
            x={px(mark.x_m)}
            y={py(mark.y_m) + 5}
            textAnchor="middle"
            fontSize="13"
            fontWeight="700"
            fill="var(--color-on-resin)"
          >
            {mark.number}
          </text>
        </g>
      ))}
      {told.lines.map((line) => (
        <FlowLineMark
          key={line.id}
          line={line}
          px={px}
          py={py}
          far={Math.max(wide, tall)}
          words={wordsOf(line)}
          onMove={(points) => move(line.id, points)}
          metresOf={(event) => {
            const at = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
            const ratio = at ? width / at.width : 1;
            return [
              left + ((event.clientX - (at?.left ?? 0)) * ratio - shift) / scale,
              low + ((event.clientY - (at?.top ?? 0)) * ratio - PAD_Y) / scale,
            ];
          }}
          onDone={onDone}
        />
      ))}
    </svg>
  );

  function wordsOf(line: Line) {
    const middle = middleOf(line.points);
    const comes = line.at_min == null || line.does === "feeds" ? "" : `, resin after ${fixed(line.at_min, 0)} minutes`;
    return `${units.text("length", middle[0] - left)} along, ${units.text("length", middle[1] - low)} across${comes}`;
  }
}

const middleOf = (points: readonly (readonly number[])[]): [number, number] => [
  points.reduce((sum, [x = 0]) => sum + x, 0) / points.length,
  points.reduce((sum, [, y = 0]) => sum + y, 0) / points.length,
];

/** A feed, filled, or a vent, open: each of its points is dragged, and by its name all of it. */
function FlowLineMark({
  line,
  px,
  py,
  far,
  words,
  onMove,
  metresOf,
  onDone,
}: {
  line: Line;
  px: (x: number) => number;
  py: (y: number) => number;
  far: number;
  words: string;
  onMove: (points: number[][]) => void;
  metresOf: (event: React.PointerEvent<SVGGElement>) => [number, number];
  onDone: () => void;
}) {
  const feeds = line.does === "feeds";
  const path = line.points.map(([x = 0, y = 0], at) => `${at ? "L" : "M"}${px(x)} ${py(y)}`).join("");
  const middle = middleOf(line.points);
  const by = (steps: number, key: string): [number, number] =>
    key === "ArrowUp" || key === "ArrowDown" || key.startsWith("Page") ? [0, -steps * STEP_M] : [steps * STEP_M, 0];
  const shifted = (dx: number, dy: number) => line.points.map(([x = 0, y = 0]) => [x + dx, y + dy]);
  const several = line.points.length > 1;
  const below = !feeds;
  return (
    <g>
      {several && <path d={path} fill="none" stroke="var(--color-sheet)" strokeWidth="11" strokeLinecap="round" />}
      {several && (
        <path
          d={path}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="6"
          strokeLinecap="round"
          strokeDasharray={line.waits ? "2 10" : undefined}
        />
      )}
      {several && !feeds && (
        <path d={path} fill="none" stroke="var(--color-sheet)" strokeWidth="2.4" strokeLinecap="round" />
      )}
      <Drag
        label={line.name}
        words={words}
        value={Math.round(middle[0] * 1000)}
        least={0}
        most={Math.round(far * 1000)}
        onDrag={(event) => {
          const [x, y] = metresOf(event);
          onMove(shifted(x - middle[0], y - middle[1]));
        }}
        onStep={(steps, key) => onMove(shifted(...by(steps, key)))}
        onDone={onDone}
      >
        <circle cx={px(middle[0])} cy={py(middle[1])} r="24" fill="transparent" />
        <circle
          cx={px(middle[0])}
          cy={py(middle[1])}
          r="13"
          fill={feeds ? "var(--color-ink)" : "var(--color-sheet)"}
          stroke={feeds ? "var(--color-sheet)" : "var(--color-ink)"}
          strokeWidth="3"
        />
        <path
          d={feeds ? "m-5 -2l5 5l5 -5" : "m-5 2l5 -5l5 5"}
          transform={`translate(${px(middle[0])} ${py(middle[1])})`}
          fill="none"
          stroke={feeds ? "var(--color-sheet)" : "var(--color-ink)"}
          strokeWidth="2.6"
        />
        <text
          x={px(middle[0])}
          y={py(middle[1]) + (below ? 30 : -19)}
          textAnchor="middle"
          fontSize="14"
          fontWeight="600"
          fill="var(--color-ink)"
          stroke="var(--color-floor)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {line.name}
        </text>
      </Drag>
      {several &&
        line.points.map(([x = 0, y = 0], at) => (
          <Drag
            // biome-ignore lint/suspicious/noArrayIndexKey: a point is known by its place on its line
            key={at}
            label={`${line.name}, point ${at + 1}`}
            words={words}
            value={Math.round(x * 1000)}
            least={0}
            most={Math.round(far * 1000)}
            onDrag={(event) => {
              const to = metresOf(event);
              onMove(line.points.map((point, other) => (other === at ? to : point)));
            }}
            onStep={(steps, key) => {
              const [dx, dy] = by(steps, key);
              onMove(line.points.map((point, other) => (other === at ? [x + dx, y + dy] : point)));
            }}
            onDone={onDone}
          >
            <circle cx={px(x)} cy={py(y)} r="22" fill="transparent" />
            <circle cx={px(x)} cy={py(y)} r="7" fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="3" />
          </Drag>
        ))}
    </g>
  );
}
