import { scaleLinear, scaleLog } from "d3-scale";
import type { Chemistry } from "../api/client";
import { minutes } from "../format";
import { useShop } from "../shop";
import { Drag } from "./Drag";
import { GelMark } from "./GelMark";
import { Levels } from "./Levels";
import { useWidth } from "./useWidth";

const HEIGHT = 500;
const LEFT = 50;
/** Room for the names of the lines. */
const NAMES = 84;
const TOP = 14;
const BOTTOM = 450;

/** Gel time, on a log axis, against the room's temperature: a line a hardener or a dose, and today's point. */
export function GelChart({
  chemistry,
  roomC,
  onTry,
  onMove,
  onRemove,
}: {
  chemistry: Chemistry;
  roomC: number;
  /** Today's point was dragged to a temperature. */
  onTry?: (room_c: number) => void;
  /** A time of the label was dragged: its row, where to. */
  onMove?: (row: number, to: { temperature_c: number; minutes: number }) => void;
  onRemove?: (row: number) => void;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units, shop } = useShop();
  const axis = units.axis("temperature");
  const RIGHT = width - NAMES;
  const { chart } = chemistry;
  const today = shop.facts.day;
  const all = chart.lines.flatMap((line) => line.minutes);
  const low = Math.max(2, Math.min(...all) * 0.85);
  const high = Math.max(...all) * 1.1;
  const first = chart.temperatures_c[0] ?? 5;
  const last = chart.temperatures_c.at(-1) ?? 35;
  const x = scaleLinear([first, last], [LEFT, RIGHT]).clamp(true);
  const y = scaleLog([low, high], [BOTTOM, TOP]);
  const ticks = [2, 5, 10, 20, 30, 60, 120, 240, 480, 960].filter((tick) => tick > low && tick < high);
  const chosen = chart.lines.find((line) => line.chosen);
  const onChart = roomC >= first && roomC <= last;
  const path = (values: number[], from = first, to = last) =>
    chart.temperatures_c
      .map((t, at) => ({ t, m: values[at] ?? 1 }))
      .filter(({ t }) => t >= from && t <= to)
      .map(({ t, m }, at) => `${at ? "L" : "M"}${x(t).toFixed(1)} ${y(m).toFixed(1)}`)
      .join("");
  const area = (upper: number[], lower: number[]) => {
    const edge = (values: number[]) => chart.temperatures_c.map((t, at) => [t, values[at] ?? 1] as const);
    const round = [...edge(upper), ...edge(lower).reverse()];
    return `M${round.map(([t, m]) => `${x(t).toFixed(1)} ${y(Math.min(high, Math.max(low, m))).toFixed(1)}`).join("L")}Z`;
  };
  const at = (values: number[], t: number) => {
    const clamped = Math.min(last, Math.max(first, t));
    const right = chart.temperatures_c.findIndex((other) => other >= clamped);
    const [a, b] = [chart.temperatures_c[Math.max(0, right - 1)] ?? first, chart.temperatures_c[right] ?? last];
    const [m, n] = [values[Math.max(0, right - 1)] ?? 1, values[right] ?? 1];
    const share = b > a ? (clamped - a) / (b - a) : 0;
    return Math.exp(Math.log(m) + share * (Math.log(n) - Math.log(m)));
  };
  // Read off the chosen line, so that the point follows the hand before the answer is here.
  const now = chosen && chart.life_at_room_min != null ? at(chosen.minutes, roomC) : null;
  const needed = chemistry.needed_min;
  /** Where on the chart a pointer is. */
  const under = (event: React.PointerEvent<SVGElement>) => {
    const frame = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!frame) return { temperature_c: roomC, minutes: now ?? 1 };
    const scale = width / frame.width;
    return {
      temperature_c: Math.round(x.invert((event.clientX - frame.left) * scale) * 2) / 2,
      minutes: y.invert(Math.min(BOTTOM, Math.max(TOP, (event.clientY - frame.top) * scale))),
    };
  };
  let lowest = Number.POSITIVE_INFINITY;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with things to drag in it
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="w-full"
      role="group"
      aria-label={`Gel time against temperature, ${chart.lines.length} lines${now ? `; ${minutes(now)} minutes today` : ""}`}
    >
      <defs>
        <pattern id="needed" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v6" stroke="var(--color-cool)" strokeWidth="1.2" opacity=".55" />
        </pattern>
      </defs>
      <Levels ticks={ticks} y={y} left={LEFT} right={RIGHT} />
      <text x={LEFT - 8} y={BOTTOM + 5} textAnchor="end" fontSize="13" fill="var(--color-ink-soft)">
        min
      </text>
      {today && (
        <g>
          <rect
            x={x(today.coldest_c)}
            y={TOP}
            width={Math.max(0, x(today.warmest_c) - x(today.coldest_c))}
            height={BOTTOM - TOP}
            fill="var(--color-rule)"
            opacity=".45"
          />
          <text
            x={(x(today.coldest_c) + x(today.warmest_c)) / 2}
            y={TOP + 16}
            textAnchor="middle"
            fontSize="13"
            fill="var(--color-ink)"
          >
            today {units.number("temperature", today.coldest_c)} to {units.number("temperature", today.warmest_c)}
          </text>
        </g>
      )}
      {scaleLinear([axis.shown(first), axis.shown(last)], [0, 1])
        .ticks(7)
        .map((mark) => ({ mark, t: axis.value(mark) }))
        .map(({ mark, t }) => (
          <g key={mark}>
            <path d={`M${x(t)} ${TOP}V${BOTTOM}`} stroke="var(--color-rule-faint)" />
            <text
              x={x(t)}
              y={BOTTOM + 24}
              textAnchor="middle"
              fontSize="14"
              fill="var(--color-ink-soft)"
              className="fig"
            >
              {mark}
            </text>
          </g>
        ))}
      <text x={RIGHT} y={BOTTOM + 44} textAnchor="end" fontSize="13" fill="var(--color-ink-soft)">
        room {axis.unit}
      </text>
      {needed && needed < high && needed > low && (
        <g>
          <rect
            x={LEFT}
            y={TOP}
            width={RIGHT - LEFT}
            height={Math.max(0, y(needed) - TOP)}
            fill="url(#needed)"
            opacity=".28"
          />
          <path d={`M${LEFT} ${y(needed)}H${RIGHT}`} stroke="var(--color-cool)" strokeDasharray="6 4" />
        </g>
      )}
      {[...chart.lines]
        .map((line, place) => ({ line, place, end: y(line.minutes.at(-1) ?? 1) }))
        .sort((a, b) => b.end - a.end)
        .map(({ line, place, end }) => {
          const label = Math.min(end + 5, lowest - 18);
          lowest = label;
          const ink = line.chosen ? "var(--color-mid)" : "var(--color-ink-soft)";
          const { band_low_c: from, band_high_c: to } = line;
          const [band, below] = [line.high_min ?? [], line.low_min ?? []];
          return (
            <g key={place}>
              {band.length > 0 && <path d={area(band, below)} fill="var(--color-fresh)" opacity=".3" />}
              <path d={path(line.minutes)} fill="none" stroke={ink} strokeWidth={line.chosen ? 3 : 1.2} />
              {from != null && to != null && (
                <path
                  d={`M${x(from)} ${y(at(line.minutes, from))}L${x(to)} ${y(at(line.minutes, to))}`}
                  fill="none"
                  stroke={line.chosen ? "var(--color-mid)" : "var(--color-ink)"}
                  strokeWidth={line.chosen ? 7 : 4.5}
                />
              )}
              <text
                x={RIGHT + 8}
                y={label}
                fontSize="15"
                fill={line.chosen ? "var(--color-resin-ink)" : "var(--color-ink)"}
                fontWeight={line.chosen ? 700 : 500}
              >
                {line.name}
              </text>
            </g>
          );
        })}
      {needed && needed < high && needed > low && (
        <text
          x={LEFT + 8}
          y={y(needed) + 20}
          fontSize="13.5"
          fill="var(--color-cool)"
          stroke="var(--color-floor)"
          strokeWidth="5"
          paintOrder="stroke"
        >
          this pot needs {minutes(needed)} min or more
        </text>
      )}
      {chart.points?.map((point, place) => (
        <GelMark
          // biome-ignore lint/suspicious/noArrayIndexKey: two times of a label may be the same
          key={place}
          point={point}
          x={x(point.temperature_c)}
          y={y(Math.min(high, Math.max(low, point.minutes)))}
          words={`${units.text("temperature", point.temperature_c)}, ${minutes(point.minutes)} min`}
          under={under}
          onMove={onMove}
          onRemove={onRemove}
        />
      ))}
      {now && onChart && (
        <g>
          <path
            d={`M${LEFT} ${y(now)}H${x(roomC)}V${BOTTOM}`}
            fill="none"
            stroke="var(--color-ink)"
            strokeDasharray="2 3"
            strokeWidth="1.4"
          />
          <Drag
            label="Today's point on the chart"
            edits={false}
            words={`${units.text("temperature", roomC)}, ${minutes(now)} min`}
            value={roomC}
            least={first}
            most={last}
            onDrag={onTry && ((event) => onTry(Math.min(last, Math.max(first, under(event).temperature_c))))}
            onEnds={onTry && ((end) => onTry(end === "least" ? first : last))}
            onStep={onTry && ((steps) => onTry(Math.min(last, Math.max(first, roomC + steps / 2))))}
          >
            <circle cx={x(roomC)} cy={y(now)} r="22" fill="transparent" />
            <circle
              cx={x(roomC)}
              cy={y(now)}
              r="9"
              fill="var(--color-sheet)"
              stroke="var(--color-ink)"
              strokeWidth="2.6"
            />
          </Drag>
        </g>
      )}
      {!onChart || !now ? (
        <text x={LEFT + 12} y={BOTTOM - 14} fontSize="15" fill="var(--color-kick)" fontWeight="600">
          no hardener of this family for {units.text("temperature", roomC)}
        </text>
      ) : null}
    </svg>
  );
}
