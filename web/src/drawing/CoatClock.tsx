import { scaleLinear } from "d3-scale";
import type { CoatResult, RunSheet } from "../api/client";
import { useShop } from "../shop";
import { useWidth } from "./useWidth";

const [LEFT, TOP, ROW] = [150, 26, 30];
const RIGHT = 14;
const SHOWN_ON_MIN = 180;

/** The coats of a job on one clock: when each is laid, and the stretch in which it takes the next. */
export function CoatClock({ sheet, coats }: { sheet: RunSheet; coats: CoatResult[] }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { hourMark } = useShop();
  const names = new Map(coats.map((coat) => [coat.ply_id, coat]));
  const rows = sheet.layers
    .map((layer) => ({ layer, coat: layer.item_ids.map((id) => names.get(id)).find(Boolean) }))
    .filter((row) => row.coat);
  if (!rows.length) return null;
  const first = Math.min(...rows.map(({ layer }) => layer.from_min));
  // A window that stays open long after all is laid runs off the picture.
  const last = Math.max(...rows.map(({ layer }) => layer.to_min)) + SHOWN_ON_MIN;
  const left = width < 500 ? 96 : LEFT;
  const x = scaleLinear([first, Math.max(last, first + 60)], [left, width - RIGHT]);
  const hours = (minute: number) => (sheet.start_minute_of_day + minute) / 60;
  const every = [1, 2, 3, 6, 12, 24].find((step) => (last - first) / 60 / step < (width < 500 ? 5 : 9)) ?? 24;
  const marks: number[] = [];
  for (let hour = Math.ceil(hours(first) / every) * every; hour <= hours(last); hour += every) marks.push(hour);
  const bottom = TOP + rows.length * ROW;
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${bottom + 8}`}
      className="w-full"
      role="img"
      aria-label={rows
        .map(
          ({ layer }) =>
            `${layer.words}: next from ${spoken(hours(layer.opens_min))}, before ${spoken(hours(layer.closes_min))}`,
        )
        .join("; ")}
    >
      {marks.map((hour) => (
        <g key={hour}>
          <path d={`M${x(hour * 60 - sheet.start_minute_of_day)} ${TOP - 6}V${bottom}`} stroke="var(--color-rule)" />
          <text
            x={x(hour * 60 - sheet.start_minute_of_day)}
            y={TOP - 11}
            textAnchor="middle"
            fontSize="13"
            fill="var(--color-ink-soft)"
            className="fig"
          >
            {hourMark(hour % 24)}
          </text>
        </g>
      ))}
      {rows.map(({ layer, coat }, at) => {
        const y = TOP + at * ROW;
        const end = Math.min(layer.closes_min, last);
        return (
          <g key={`${layer.lane}-${layer.first_pot}-${layer.short}-${layer.bay}`}>
            <text x={left - 8} y={y + 18} textAnchor="end" fontSize="13" fill="var(--color-ink)">
              {short(layer.short || coat?.name || "", left > 100 ? 21 : 13)}
              {layer.bay > 0 ? `, area ${layer.bay}` : ""}
            </text>
            <rect
              x={x(layer.from_min)}
              y={y + 5}
              width={Math.max(3, x(layer.to_min) - x(layer.from_min))}
              height={18}
              fill="var(--color-fresh)"
              stroke="var(--color-ink)"
            />
            {layer.opens_min < end && (
              <rect
                x={x(Math.max(layer.opens_min, layer.to_min))}
                y={y + 5}
                width={Math.max(0, x(end) - x(Math.max(layer.opens_min, layer.to_min)))}
                height={18}
                fill="var(--color-cool-pale)"
                stroke="var(--color-cool)"
              />
            )}
          </g>
        );
      })}
    </svg>
  );

  function spoken(hour: number): string {
    return Number.isFinite(hour) ? hourMark(Math.round(hour) % 24) : "later";
  }
}

const short = (words: string, most: number) => (words.length > most ? `${words.slice(0, most - 1)}…` : words);
