import { useShop } from "../shop";
import type { PotHeard } from "./heard";
import { useBench } from "./useBench";

const [WIDE, HIGH, LEFT, BELOW] = [520, 210, 52, 30];
const HEADROOM_C = 10;

/** The surface of a pot as it was read, a line, beside the band its label lets one expect; and when it gels. */
export function SurfaceLine({ told }: { told: PotHeard }) {
  const { now_min } = useBench();
  const { units } = useShop();
  const expected = told.expected ?? [];
  const surface = told.surface ?? [];
  const first = expected[0];
  const last = expected.at(-1);
  if (!first || !last) return null;
  const from = first.at_min;
  const to = Math.max(last.at_min, now_min);
  // What it may come to at its gel would leave no room for what it is now.
  const all = [...expected.slice(0, -4).map((each) => each.middle_c), ...surface.map((each) => each.surface_c)];
  const top = Math.max(...all) + HEADROOM_C;
  const line = surface.map((each): [number, number] => [each.at_min, each.surface_c]);
  const bottom = Math.min(...expected.map((each) => each.low_c), ...surface.map((each) => each.surface_c));
  const [least, most] = [Math.floor(bottom / 10) * 10, Math.ceil(top / 10) * 10];
  const x = (minute: number) => LEFT + ((minute - from) / (to - from)) * (WIDE - LEFT - 8);
  const y = (c: number) => 8 + ((most - Math.min(c, most)) / (most - least)) * (HIGH - BELOW - 8);
  const path = (points: [number, number][]) => points.map(([at, c], n) => `${n ? "L" : "M"}${x(at)} ${y(c)}`).join("");
  const band = `${path(expected.map((each) => [each.at_min, each.low_c]))}${path(
    [...expected].reverse().map((each) => [each.at_min, each.high_c]),
  ).replace("M", "L")}Z`;
  const step = to - from > 90 ? 30 : to - from > 30 ? 10 : 5;
  const marks = Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, n) => n * step);
  const words = `Surface of pot ${told.number}: ${units.text("temperature", surface.at(-1)?.surface_c ?? 0)} now`;
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="mt-2 w-full max-w-[640px]" role="img" aria-label={words}>
      {[least, (least + most) / 2, most].map((c) => (
        <g key={c}>
          <path d={`M${LEFT} ${y(c)}H${WIDE - 8}`} stroke="var(--color-rule-faint)" />
          <text x={LEFT - 6} y={y(c) + 5} textAnchor="end" fontSize="15" className="fig" fill="var(--color-ink-soft)">
            {units.threshold(c)}
          </text>
        </g>
      ))}
      {marks.map((minute) => (
        <text
          key={minute}
          x={x(from + minute)}
          y={HIGH - 8}
          textAnchor="middle"
          fontSize="15"
          className="fig"
          fill="var(--color-ink-soft)"
        >
          {minute ? minute : "0 min"}
        </text>
      ))}
      <path d={band} fill="var(--color-resin-pale)" />
      <path
        d={path(expected.map((each) => [each.at_min, each.middle_c]))}
        fill="none"
        stroke="var(--color-mid)"
        strokeDasharray="6 6"
        strokeWidth="2"
      />
      <path
        d={`M${x(told.gels_low_min)} 8V${HIGH - BELOW}M${x(Math.min(to, told.gels_high_min))} 8V${HIGH - BELOW}`}
        stroke="var(--color-kick)"
        strokeWidth="2"
        strokeDasharray="3 5"
      />
      {surface.length > 1 ? (
        <path d={path(line)} fill="none" stroke="var(--color-ink)" strokeWidth="3.5" strokeLinejoin="round" />
      ) : (
        line.map(([at, c]) => <circle key={at} cx={x(at)} cy={y(c)} r="5" fill="var(--color-ink)" />)
      )}
    </svg>
  );
}
