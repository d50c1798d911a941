import { scaleLinear } from "d3-scale";
import type { LabLevel, LabResult } from "../api/client";
import { minutes } from "../format";
import { useShop } from "../shop";
import { Levels } from "./Levels";
import { useWidth } from "./useWidth";

const HEIGHT = 330;
const [LEFT, TOP, BOTTOM] = [48, 16, 286];
const NAMES = 30;
/** Past this nothing more is read off: it smokes. */
const MOST_C = 200;
const LOOKS = [
  { stroke: "var(--color-mid)", width: 3 },
  { stroke: "var(--color-ink)", width: 2 },
  { stroke: "var(--color-ink)", width: 2, dash: "7 4" },
];
/** Pots through time: thick the centre, thin the surface; a ring where each gels. */
export function HeatCurve({
  results,
  levels,
  names,
}: {
  results: LabResult[];
  /** Where a builder must act, and what becomes of things. */
  levels: LabLevel[];
  names: string[];
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const axis = units.axis("temperature");
  const right = width - NAMES;
  const lastMin = Math.max(
    10,
    ...results.map((result) => Math.max(result.life_min, Math.min(result.peak_min, 3 * result.life_min)) * 1.15),
  );
  const all = results.flatMap((result) => result.centre_c);
  const high = Math.min(MOST_C, Math.max(50, ...all) * 1.05);
  const low = Math.min(...all) - 3;
  const x = scaleLinear([0, lastMin], [LEFT, right]);
  const y = scaleLinear([axis.shown(low), axis.shown(high)], [BOTTOM, TOP]);
  const at = (celsius: number) => y(axis.shown(Math.min(high, celsius)));
  const path = (result: LabResult, series: number[]) =>
    result.minutes
      .map((minute, place) => [minute, series[place] ?? 0] as const)
      .filter(([minute]) => minute <= lastMin)
      .map(([minute, celsius], place) => `${place ? "L" : "M"}${x(minute).toFixed(1)} ${at(celsius).toFixed(1)}`)
      .join("");
  const between = (result: LabResult, minute: number) => {
    const place = result.minutes.findIndex((other) => other >= minute);
    const [a, b] = [result.minutes[place - 1] ?? 0, result.minutes[place] ?? 1];
    const [p, q] = [result.centre_c[place - 1] ?? result.centre_c[0] ?? 0, result.centre_c[place] ?? 0];
    return p + ((q - p) * (minute - a)) / Math.max(1e-9, b - a);
  };
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="w-full"
      role="img"
      aria-label={results
        .map(
          (result, place) =>
            `Pot ${names[place]} gels after ${minutes(result.life_min)} minutes and peaks at ${result.peak_words}`,
        )
        .join("; ")}
    >
      <Levels ticks={y.ticks(6)} y={y} left={LEFT} right={right} />
      <text x={LEFT - 8} y={TOP - 2} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        {axis.unit}
      </text>
      {x.ticks(8).map((tick) => (
        <g key={tick}>
          <path d={`M${x(tick)} ${BOTTOM}v5`} stroke="var(--color-ink-soft)" />
          <text
            x={x(tick)}
            y={BOTTOM + 22}
            textAnchor="middle"
            fontSize="14"
            fill="var(--color-ink-soft)"
            className="fig"
          >
            {tick}
          </text>
        </g>
      ))}
      <text x={right} y={BOTTOM + 40} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        minutes from when the parts touch
      </text>
      {levels
        .filter(({ celsius }) => celsius < high)
        .map(({ celsius, words }) => (
          <g key={celsius}>
            <path
              d={`M${LEFT} ${at(celsius)}H${right}`}
              stroke="var(--color-kick)"
              strokeDasharray="3 4"
              opacity=".7"
            />
            <text x={LEFT + 8} y={at(celsius) - 5} fontSize="13" fill="var(--color-kick)">
              {units.threshold(celsius)}: {words}
            </text>
          </g>
        ))}
      {results.map((result, place) => {
        const look = LOOKS[place];
        const gelled = Math.min(result.life_min, lastMin);
        return (
          <g key={names[place]}>
            <path
              d={path(result, result.surface_c)}
              fill="none"
              stroke={look?.stroke}
              strokeWidth="1"
              strokeDasharray={look?.dash}
              opacity=".8"
            />
            <path
              d={path(result, result.centre_c)}
              fill="none"
              stroke={look?.stroke}
              strokeWidth={look?.width}
              strokeDasharray={look?.dash}
              strokeLinejoin="round"
            />
            <circle
              cx={x(gelled)}
              cy={at(between(result, gelled))}
              r="6"
              fill="var(--color-sheet)"
              stroke={look?.stroke}
              strokeWidth="2.4"
            />
            <text
              x={x(gelled) - 12}
              y={at(between(result, gelled)) - 9}
              textAnchor="end"
              fontSize="15"
              fontWeight="700"
              fill="var(--color-ink)"
            >
              {names[place]}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
