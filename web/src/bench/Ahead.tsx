import { useWidth } from "../drawing/useWidth";
import { useShop } from "../shop";
import { lanesOf } from "./Pots";
import { shiftOf } from "./toDo";
import { useBench } from "./useBench";

const BACK_MIN = 25;
const LEAST_AHEAD_MIN = 90;
const MOST_AHEAD_MIN = 150;
const MOST_LANES = 4;
const ROW = 46;
const NAMES = 190;
// Half as wide as an hour is printed.
const HALF_AN_HOUR_PX = 24;

/** The hours around now: what is laid and until when it takes the next, what ages, what is planned. */
export function Ahead() {
  const { state, now_min, at } = useBench();
  const { clock } = useShop();
  const [box, width] = useWidth<HTMLDivElement>();
  const shift = shiftOf(state, now_min);
  const planned = state.card.pots.filter((_, n) => state.pots[n]?.state === "planned");
  const lastPlanned = Math.max(0, ...planned.map((pot) => pot.planned_touch_min + shift - now_min));
  const ahead = Math.min(MOST_AHEAD_MIN, Math.max(LEAST_AHEAD_MIN, lastPlanned + 20));
  const [from, to] = [now_min - BACK_MIN, now_min + ahead];
  // Lanes on which something is or comes within these hours.
  const lanes = lanesOf(state)
    .filter((lane) =>
      lane.layers.some((id) => {
        const n = state.card.layers.findIndex((each) => each.id === id);
        const [layer, now] = [state.card.layers[n], state.layers[n]];
        if (!layer || !now) return false;
        if (now.laid_min !== null) return (now.closes_min ?? now.laid_min) > from;
        const ends = layer.planned_laid_min + shift;
        return ends >= now_min && ends <= to;
      }),
    )
    .slice(0, MOST_LANES);
  const names = width < 640 ? 0 : NAMES;
  const x = (minute: number) =>
    names + ((Math.min(to, Math.max(from, minute)) - from) / (to - from)) * (width - names - 4);
  const step = ahead > 200 ? 60 : 30;
  // Ticks stand at whole half hours of the clock.
  const ticks: number[] = [];
  const first = Math.ceil(at(from) / (step * 60_000)) * step * 60_000;
  for (let ms = first; ms < at(to); ms += step * 60_000) ticks.push((ms - at(0)) / 60_000);
  // One whose hour would run off the side is left out.
  while (ticks.length && width - x(ticks.at(-1) ?? 0) < HALF_AN_HOUR_PX) ticks.pop();
  const height = 64 + lanes.length * ROW + 26;
  return (
    <div ref={box} className="mt-8 max-sm:hidden">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width={width}
        height={height}
        role="img"
        aria-label="The hours around now"
      >
        {ticks.map((minute) => (
          <g key={minute}>
            <path d={`M${x(minute)} 0V${height - 24}`} stroke="var(--color-rule-faint)" strokeWidth="1.5" />
            <text
              x={x(minute)}
              y={height - 6}
              textAnchor="middle"
              fontSize="15"
              fill="var(--color-ink-soft)"
              className="fig"
            >
              {clock(at(minute))}
            </text>
          </g>
        ))}
        {names > 0 && (
          <text x="0" y="38" fontSize="16" fill="var(--color-ink-soft)">
            Pots
          </text>
        )}
        {state.pots.map((pot, n) => {
          const card = state.card.pots[n];
          if (!card) return null;
          if (pot.touched_min !== null) {
            const ends = pot.ended_min ?? pot.gels_min ?? now_min;
            if (ends < from) return null;
            const use = Math.min(pot.use_by_min ?? ends, ends);
            const [x0, x1, x2] = [x(pot.touched_min), x(use), x(ends)];
            return (
              <g key={pot.number}>
                <path d={`M${x0} 14H${x0 + (x1 - x0) * 0.45}L${x1} 42V46H${x0}Z`} fill="var(--color-mid)" />
                {pot.state === "live" && (
                  <path d={`M${x1} 45H${x2}`} stroke="var(--color-kick)" strokeWidth="3" strokeDasharray="3 4" />
                )}
                <text x={x0 + 3} y="10" fontSize="15" className="fig" fill="var(--color-ink)">
                  {pot.number}
                </text>
              </g>
            );
          }
          const begins = card.planned_touch_min + shift;
          if (pot.state !== "planned" || begins > to || begins < now_min) return null;
          return (
            <g key={pot.number}>
              <path
                d={`M${x(begins)} 14H${Math.max(x(begins + card.use_by_min), x(begins) + 6)}V46H${x(begins)}Z`}
                fill="none"
                stroke="var(--color-ink-soft)"
                strokeDasharray="4 3"
                strokeWidth="1.5"
              />
              <text x={x(begins) + 3} y="10" fontSize="15" className="fig" fill="var(--color-ink-soft)">
                {pot.number}
              </text>
            </g>
          );
        })}
        {lanes.map((lane, row) => {
          const y = 62 + row * ROW;
          return (
            <g key={lane.id}>
              {names > 0 && (
                <text x="0" y={y + 26} fontSize="16" fill="var(--color-ink-soft)">
                  {lane.name.length > 24 ? `${lane.name.slice(0, 23)}…` : lane.name}
                </text>
              )}
              {lane.layers.map((id) => {
                const n = state.card.layers.findIndex((each) => each.id === id);
                const [layer, now] = [state.card.layers[n], state.layers[n]];
                if (!layer || !now) return null;
                if (now.laid_min === null) {
                  const ends = layer.planned_laid_min + shift;
                  const touch =
                    state.card.pots.find((pot) => pot.number === layer.first_pot)?.planned_touch_min ?? ends;
                  if (ends < now_min || touch + shift > to) return null;
                  return (
                    <path
                      key={id}
                      d={`M${x(touch + shift)} ${y + 8}H${Math.max(x(ends), x(touch + shift) + 8)}V${y + 34}H${x(touch + shift)}Z`}
                      fill="none"
                      stroke="var(--color-ink-soft)"
                      strokeWidth="1.5"
                      strokeDasharray="4 3"
                    />
                  );
                }
                const [laid, opens, closes] = [
                  now.laid_min,
                  now.opens_min ?? now.laid_min,
                  now.closes_min ?? now.laid_min,
                ];
                return (
                  <g key={id}>
                    <path
                      d={`M${x(laid)} ${y + 8}H${x(opens)}V${y + 34}H${x(laid)}Z`}
                      fill="var(--color-fresh)"
                      opacity=".55"
                    />
                    <path
                      d={`M${x(opens)} ${y + 8}H${x(closes)}V${y + 34}H${x(opens)}Z`}
                      fill="var(--color-cool)"
                      opacity=".55"
                    />
                    {closes < to && closes > from && (
                      <path d={`M${x(closes)} ${y + 2}V${y + 40}`} stroke="var(--color-ink)" strokeWidth="3" />
                    )}
                  </g>
                );
              })}
            </g>
          );
        })}
        <path d={`M${x(now_min)} 0V${height - 24}`} stroke="var(--color-ink)" strokeWidth="3" />
      </svg>
      <p className="mt-1 text-[1rem] text-ink-soft">
        Amber: wet. Blue: takes the next layer. Dashed: planned, moved to where the day is now.
      </p>
    </div>
  );
}
