import { scaleLinear } from "d3-scale";
import type { Day } from "../api/client";
import { useShop } from "../shop";
import { Levels } from "./Levels";
import { useWidth } from "./useWidth";

const TOP = 14;
const CURVE = 168;
const HOURS = 22;

/** A line through the middles between points, bent at each: no corner where the table behind it has one. */
function smooth(points: [number, number][]): string {
  const [first, ...rest] = points;
  const last = rest.at(-1);
  if (!first || !last) return "";
  const bends = rest.slice(0, -1).map(([px, py], n) => {
    const [qx, qy] = rest[n + 1] ?? last;
    return `Q${px.toFixed(1)} ${py.toFixed(1)} ${((px + qx) / 2).toFixed(1)} ${((py + qy) / 2).toFixed(1)}`;
  });
  return `M${first[0]} ${first[1]}${bends.join("")}L${last[0]} ${last[1]}`;
}

/** The room through today: expected and read, over the dew point; beneath it the good hours of each resin in use. */
export function DayCurve({ day }: { day: Day }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units, hour, hourMark } = useShop();
  const axis = units.axis("temperature");
  const narrow = width < 520;
  const bar = narrow ? 40 : 23;
  const ROW = bar + 25;
  const [left, right] = [40, width - (narrow ? 10 : 74)];
  const x = scaleLinear([0, 24], [left, right]);
  const dewC = day.dew?.point_c;
  const all = day.moments.flatMap((moment) => [moment.room_c, moment.surface_c]);
  const low = Math.min(...all, dewC ?? all[0] ?? 0) - 1;
  const high = Math.max(...all) + 1;
  const y = scaleLinear([axis.shown(low), axis.shown(high)], [TOP + CURVE, TOP]);
  const at = (celsius: number) => y(axis.shown(celsius));
  const line = (of: (moment: Day["moments"][number]) => number) =>
    smooth(day.moments.map((moment) => [x(moment.hour), at(of(moment))]));
  const last = day.moments.at(-1);
  const floor = TOP + CURVE;
  const height = floor + HOURS + day.resins.length * ROW + 4;
  const hours = narrow ? [0, 6, 12, 18, 24] : [0, 3, 6, 9, 12, 15, 18, 21, 24];
  const surfaceApart = last && Math.abs(at(last.room_c) - at(last.surface_c)) > 13;
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`The room through today. ${day.resins.map((resin) => `${resin.resin_name}: ${resin.words}`).join(". ")}`}
    >
      <defs>
        <pattern id="passed" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v7" stroke="var(--color-rule)" strokeWidth="2" />
        </pattern>
      </defs>
      <Levels ticks={y.ticks(4)} y={y} left={left} right={right} />
      <text x={left - 8} y={TOP - 2} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        {axis.unit}
      </text>
      {hours.map((at) => (
        <g key={at}>
          <path d={`M${x(at)} ${floor}v5`} stroke="var(--color-ink-soft)" />
          <text x={x(at)} y={floor + 18} textAnchor="middle" fontSize="13" fill="var(--color-ink-soft)" className="fig">
            {hourMark(at)}
          </text>
        </g>
      ))}
      <path d={`M${left} ${floor}H${right}`} stroke="var(--color-ink-soft)" />
      {dewC != null && (
        <path d={`M${left} ${at(dewC)}H${right}`} stroke="var(--color-cool)" strokeDasharray="5 4" strokeWidth="1.4" />
      )}
      <path d={line((moment) => moment.surface_c)} fill="none" stroke="var(--color-ink-soft)" strokeWidth="1.2" />
      <path d={line((moment) => moment.room_c)} fill="none" stroke="var(--color-ink)" strokeWidth="3" />
      {!narrow && last && (
        <g fontSize="13.5">
          <text x={right + 8} y={Math.round(at(last.room_c)) + 4} fill="var(--color-ink)" fontWeight="600">
            room
          </text>
          {surfaceApart && (
            <text x={right + 8} y={Math.round(at(last.surface_c)) + 4} fill="var(--color-ink-soft)">
              surface
            </text>
          )}
          {dewC != null && (
            <text x={right + 8} y={Math.round(at(dewC)) + 4} fill="var(--color-cool)">
              dew point
            </text>
          )}
        </g>
      )}
      {day.readings.map((reading) => (
        <path
          key={`${reading.hour} ${reading.room_c}`}
          d={`M${x(reading.hour) - 5} ${at(reading.room_c) - 5}l10 10m0-10l-10 10`}
          stroke="var(--color-ink)"
          strokeWidth="2"
        />
      ))}
      {day.resins.map((resin, row) => {
        const top = floor + HOURS + row * ROW;
        return (
          <g key={resin.resin_id}>
            <text x={left} y={top + 17} fontSize="13.5" fill="var(--color-ink)">
              <tspan fontWeight="600">{resin.resin_name}</tspan>
              {narrow ? (
                <tspan x={left} dy="17" fill="var(--color-ink-soft)">
                  {resin.words}
                </tspan>
              ) : (
                <tspan fill="var(--color-ink-soft)"> · {resin.words}</tspan>
              )}
            </text>
            <rect x={left} y={top + bar} width={right - left} height="20" fill="none" stroke="var(--color-rule)" />
            {resin.spans.map((span) => {
              const wide = x(span.to_h) - x(span.from_h);
              // Its name stands in what is left of it.
              const from = x(Math.max(span.from_h, Math.min(day.now_h, span.to_h)));
              const room = x(span.to_h) - from;
              return (
                <g key={span.from_h}>
                  <rect
                    x={x(span.from_h)}
                    y={top + bar}
                    width={wide}
                    height="20"
                    fill="var(--color-cool-pale)"
                    stroke="var(--color-cool)"
                  />
                  {room > span.what.length * 6.6 + 10 && (
                    <text
                      x={from + room / 2}
                      y={top + bar + 15}
                      textAnchor="middle"
                      fontSize="13"
                      fill="var(--color-ink)"
                    >
                      {span.what}
                    </text>
                  )}
                  <title>{`${span.what}, ${hour(span.from_h)} to ${hour(span.to_h)}`}</title>
                </g>
              );
            })}
            <rect x={left} y={top + bar} width={x(day.now_h) - left} height="20" fill="url(#passed)" opacity=".8" />
            <path d={`M${x(day.now_h)} ${top + bar - 3}v26`} stroke="var(--color-ink)" strokeWidth="1.6" />
          </g>
        );
      })}
      <path d={`M${x(day.now_h)} ${TOP - 8}V${floor}`} stroke="var(--color-ink)" strokeWidth="1.6" />
      <text
        x={x(day.now_h) + (day.now_h > 21 ? -5 : 5)}
        y={TOP - 1}
        textAnchor={day.now_h > 21 ? "end" : "start"}
        fontSize="12.5"
        fontWeight="600"
        fill="var(--color-ink)"
      >
        now
      </text>
    </svg>
  );
}
