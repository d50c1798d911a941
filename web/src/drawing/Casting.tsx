import { useRef } from "react";
import type { PourHours, Casting as Told } from "../api/client";
import { useShop } from "../shop";
import { Drag } from "./Drag";
import { Hatch, WoodGrain } from "./hatches";
import { heatTint } from "./heat";
import { useWidth } from "./useWidth";

const [LEFT, RIGHT, TOP, WORDS] = [62, 132, 30, 30];
const MOST_HIGH = 190;
/** Wider than so many times its depth, a casting is shown broken off. */
const SHOWN_WIDE = 9;
const WALL_MM = 22;
const MOST_MM = 300;
/** The least a lift's number stands from the next. */
const APART = 17;

const inside = (mm: number) => Math.min(MOST_MM, Math.max(1, Math.round(mm)));

/** A casting cut across, to scale: what it lies in, its lifts, and how warm each height is at a moment. Its depth is dragged. */
export function Casting({
  told,
  hours,
  moment,
  depthMm,
  liesIn,
  onDepth,
  onDone,
}: {
  told: Told;
  hours: PourHours | null;
  /** Which of the moments is shown. */
  moment: number;
  /** The depth as it stands under the hand. */
  depthMm: number;
  liesIn: string;
  onDepth: (mm: number) => void;
  onDone: () => void;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  // Where the hand took hold, and at what depth and scale: the drawing grows with what is dragged.
  const held = useRef<{ at: number; mm: number; pxPerMm: number } | null>(null);
  const groundMm = told.ground_mm;
  const wideMm = Math.min(told.across_mm, SHOWN_WIDE * Math.max(depthMm, 8));
  const broken = wideMm < told.across_mm;
  const scale = Math.min(
    (width - LEFT - RIGHT) / (wideMm + (broken ? 1 : 2) * WALL_MM),
    MOST_HIGH / (depthMm + groundMm),
  );
  const [deep, ground, wall] = [depthMm * scale, groundMm * scale, WALL_MM * scale];
  const floor = TOP + deep;
  const [from, to] = [LEFT + wall, LEFT + wall + wideMm * scale];
  const y = (mm: number) => floor - (mm * deep) / depthMm;
  const wood = liesIn === "softwood" || liesIn === "hardwood" || liesIn === "board";
  const fill = wood ? "url(#form)" : liesIn === "foam" ? "var(--color-core)" : "var(--color-mould)";
  const row = hours?.temperatures_c[moment] ?? [];
  const cells = hours ? hours.heights_mm.length : 0;
  const groundCells = hours ? hours.ground_heights_mm.length : 0;
  const resin = row.slice(groundCells);
  // While it is dragged the heat of the depth before is stretched over it.
  const edge = (at: number) => {
    const heights = hours?.heights_mm ?? [];
    const whole = hours?.lifts_mm.at(-1) ?? depthMm;
    const mm = at <= 0 ? 0 : at >= cells ? whole : ((heights[at - 1] ?? 0) + (heights[at] ?? 0)) / 2;
    return (mm * depthMm) / whole;
  };
  const ends: number[] = [];
  for (const lift of told.lifts) ends.push((ends.at(-1) ?? 0) + lift.depth_mm);
  const scaleTo = depthMm / Math.max(1e-9, ends.at(-1) ?? depthMm);
  const hottest = resin.reduce<number>((most, each, at) => ((each ?? -99) > (resin[most] ?? -99) ? at : most), 0);
  const wave = `l5 ${deep / 4} -9 ${deep / 4} 9 ${deep / 4} -5 ${deep / 4}`;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with something to drag in it
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${floor + ground + WORDS}`}
      className="w-full"
      role="group"
      aria-label={`${told.name || "The casting"} cut across, ${units.words("size", depthMm)} deep in ${told.lifts.length === 1 ? "one pour" : `${told.lifts.length} lifts`}`}
    >
      <WoodGrain id="form" />
      <Hatch id="stirred-in" architecture="chopped tow" fibre={/carbon/i.test(told.fill_name) ? "carbon" : "E-glass"} />
      <path
        d={`M${LEFT} ${TOP - 8}H${from}V${floor}H${to}${broken ? "" : `V${TOP - 8}H${to + wall}`}V${floor + ground}H${LEFT}Z`}
        fill={fill}
        stroke="var(--color-ink)"
        strokeWidth="1.4"
      />
      <path d={`M${from} ${TOP}H${to}V${floor}H${from}Z`} fill="var(--color-sheet)" />
      {hours &&
        resin.map((celsius, at) =>
          celsius == null ? null : (
            <rect
              // biome-ignore lint/suspicious/noArrayIndexKey: a height is its place
              key={at}
              x={from}
              width={to - from}
              y={y(edge(at + 1))}
              height={y(edge(at)) - y(edge(at + 1)) + 0.6}
              fill={heatTint(celsius, hours.room_c, told.most_peak_c)}
            />
          ),
        )}
      {!hours && <rect x={from} width={to - from} y={TOP} height={deep} fill="var(--color-wetted)" />}
      {broken && <path d={`M${to} ${TOP}${wave}`} fill="none" stroke="var(--color-ink)" strokeWidth="1.4" />}
      {ends.map((end, at) => {
        const top = y(end * scaleTo);
        const under = y((ends[at - 1] ?? 0) * scaleTo);
        const lift = told.lifts[at];
        return (
          <g key={end}>
            {(lift?.fill_g ?? 0) > 0 && (
              <rect x={from} width={to - from} y={top} height={under - top} fill="url(#stirred-in)" opacity=".75" />
            )}
            <path d={`M${from} ${top}H${to}`} stroke="var(--color-ink)" strokeWidth={at === ends.length - 1 ? 2 : 1} />
            {(under - top > APART || at === ends.length - 1) && lift && (
              <text
                x={from - wall - 8}
                y={(top + under) / 2 + 5}
                textAnchor="end"
                fontSize="15"
                fill="var(--color-ink)"
                className="fig"
              >
                {units.words("size", lift.depth_mm * scaleTo)}
              </text>
            )}
          </g>
        );
      })}
      {hours && resin.some((each) => each != null) && (
        <>
          <path
            d={`M${to + (broken ? 8 : wall + 2)} ${y((edge(hottest) + edge(hottest + 1)) / 2)}h14`}
            stroke="var(--color-ink)"
          />
          <text
            x={to + (broken ? 26 : wall + 20)}
            y={y((edge(hottest) + edge(hottest + 1)) / 2) + 6}
            fontSize="17"
            fontWeight="700"
            fill="var(--color-ink)"
            className="fig"
          >
            {units.text("temperature", hours.hottest_c[moment] ?? 0)}
          </text>
          <text
            x={to + (broken ? 26 : wall + 20)}
            y={y((edge(hottest) + edge(hottest + 1)) / 2) + 22}
            fontSize="12.5"
            fill="var(--color-ink-soft)"
          >
            hottest here
          </text>
        </>
      )}
      <text x={LEFT} y={floor + ground + 19} fontSize="12.5" fill="var(--color-ink-soft)">
        {units.words("size", groundMm)} of {liesIn} beneath{broken ? "; shown broken off" : ""}, to scale
      </text>
      <Drag
        label="Depth"
        words={units.words("size", depthMm)}
        value={Math.round(10 * depthMm) / 10}
        least={1}
        most={MOST_MM}
        onDrag={(event) => {
          const drawn = box.current?.getBoundingClientRect();
          if (!drawn) return;
          held.current ??= { at: event.clientY, mm: depthMm, pxPerMm: (scale * drawn.width) / width };
          const { at, mm, pxPerMm } = held.current;
          onDepth(inside(mm + (at - event.clientY) / pxPerMm));
        }}
        onStep={(steps) => onDepth(inside(depthMm + steps))}
        onDone={() => {
          held.current = null;
          onDone();
        }}
      >
        <rect x={(from + to) / 2 - 40} y={TOP - 22} width="80" height="44" fill="transparent" />
        <circle
          cx={(from + to) / 2}
          cy={TOP}
          r="7"
          fill="var(--color-sheet)"
          stroke="var(--color-ink)"
          strokeWidth="3"
        />
        <text
          x={(from + to) / 2}
          y={TOP - 13}
          textAnchor="middle"
          fontSize="15"
          fontWeight="700"
          fill="var(--color-ink)"
        >
          {units.words("size", depthMm)}
        </text>
      </Drag>
    </svg>
  );
}
