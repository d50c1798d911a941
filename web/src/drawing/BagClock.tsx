import { scaleLinear } from "d3-scale";
import type { BagResult, RunSheet } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import { useWidth } from "./useWidth";

const [TOP, ROW, LEFT, RIGHT] = [34, 62, 10, 22];

/** Each bag on the clock: laid, bagged, pulled down, and the moment at which its first pot has gelled. */
export function BagClock({ bag, sheet }: { bag: BagResult; sheet: RunSheet }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { hourMark } = useShop();
  const days = bag.on_day ?? [];
  if (!days.length) return null;
  const first = Math.min(...days.map((day) => day.first_touch_min)) - 6;
  const last = Math.max(...days.map((day) => Math.max(day.gels_min, day.down_min))) + 12;
  const x = scaleLinear([first, last], [LEFT, width - RIGHT]);
  const hours = (minute: number) => (sheet.start_minute_of_day + minute) / 60;
  const every = [0.25, 0.5, 1, 2, 3, 6].find((step) => (last - first) / 60 / step < 9) ?? 12;
  const marks: number[] = [];
  for (let hour = Math.ceil(hours(first) / every) * every; hour <= hours(last); hour += every) marks.push(hour);
  const names = new Map(sheet.lanes.map((lane) => [lane.id, lane.which || lane.name]));
  const bottom = TOP + days.length * ROW;
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${bottom + 22}`}
      className="w-full"
      role="img"
      aria-label={days
        .map(
          (day) =>
            `${names.get(day.lane) ?? bag.name}: bag down ${fixed(Math.abs(day.gels_min - day.down_min), 0)} minutes ${day.down_min > day.gels_min ? "too late" : "in time"}`,
        )
        .join("; ")}
    >
      {marks.map((hour) => {
        const at = x(hour * 60 - sheet.start_minute_of_day);
        const minutes = Math.round((hour % 1) * 60);
        return (
          <g key={hour}>
            <path d={`M${at} ${TOP - 8}V${bottom}`} stroke="var(--color-rule)" />
            <text x={at} y={TOP - 14} textAnchor="middle" fontSize="13" fill="var(--color-ink-soft)" className="fig">
              {minutes ? `:${String(minutes).padStart(2, "0")}` : hourMark(Math.floor(hour) % 24)}
            </text>
          </g>
        );
      })}
      {days.map((day, at) => {
        const y = TOP + at * ROW;
        const late = day.down_min > day.gels_min;
        const bar = (from: number, to: number, fill: string, stroke: string) => (
          <rect x={x(from)} y={y + 20} width={Math.max(2, x(to) - x(from))} height={20} fill={fill} stroke={stroke} />
        );
        return (
          <g key={day.lane}>
            <text x={LEFT + 2} y={y + 13} fontSize="13.5" fontWeight="600" fill="var(--color-ink)">
              {names.get(day.lane) ?? bag.name}
            </text>
            <rect
              x={x(day.down_min)}
              y={y + 20}
              width={Math.max(0, x(day.gels_min) - x(day.down_min))}
              height={20}
              fill="var(--color-cool-pale)"
            />
            {bar(day.first_touch_min, day.laid_min, "var(--color-fresh)", "var(--color-ink)")}
            {!bag.infused && bar(day.laid_min, day.bagged_min, "var(--color-glass)", "var(--color-ink)")}
            {!bag.infused && bar(day.bagged_min, day.down_min, "var(--color-cool)", "var(--color-cool)")}
            <path
              d={`M${x(day.gels_min)} ${y + 8}V${y + 48}`}
              stroke="var(--color-kick)"
              strokeWidth="3"
              strokeDasharray={late ? undefined : "5 3"}
            />
            <text
              x={x(day.gels_min) - 5}
              y={y + 13}
              textAnchor="end"
              fontSize="13"
              fontWeight="600"
              fill="var(--color-kick)"
            >
              first pot gelled
            </text>
            {late && (
              <text
                x={x(day.down_min)}
                y={y + 56}
                textAnchor="end"
                fontSize="13"
                fontWeight="600"
                fill="var(--color-stop)"
              >
                bag down too late
              </text>
            )}
          </g>
        );
      })}
      <text x={LEFT} y={bottom + 15} fontSize="12.5" fill="var(--color-ink-soft)">
        amber: laid{bag.infused ? "" : ", green: bag put on, blue: pulled down and to spare"}
      </text>
    </svg>
  );
}
