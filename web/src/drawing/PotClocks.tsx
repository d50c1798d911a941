import type { PotResult } from "../api/client";
import { fixed, minutes } from "../format";
import { useShop } from "../shop";
import { Worked } from "../ui/Worked";
import { useWidth } from "./useWidth";

const TOP = 40;

function shortLabels(labels: string[]): string {
  const words = labels.length > 1 ? labels.map((label) => label.split(",")[0]).join(", ") : (labels[0] ?? "");
  return words.length > 26 ? `${words.slice(0, 25)}…` : words;
}

/** Each kind of pot on one clock from the moment the parts touch: mixed, spread, its limit for use, its gel. */
export function PotClocks({ pots, contactMin }: { pots: PotResult[]; contactMin: number }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const narrow = width < 560;
  const LEFT = narrow ? 8 : 172;
  const RIGHT = width - 14;
  const ROW = narrow ? 118 : 82;
  const below = narrow ? 40 : 0;
  const longest = Math.max(...pots.map((pot) => pot.life_min)) * 1.06;
  const x = (min: number) => LEFT + (min / longest) * (RIGHT - LEFT);
  const step = [1, 2, 5, 10, 20, 30, 60].find((other) => longest / other <= (narrow ? 5 : 9)) ?? 120;
  const height = TOP + pots.length * ROW + below + 10;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with buttons in it is a group; an image may hold none
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="group"
      aria-label={`${pots.length} kinds of pot against their clocks`}
    >
      <defs>
        <linearGradient id="ageing" gradientUnits="userSpaceOnUse" x1={x(0)} x2={x(longest / 1.06)} y1="0" y2="0">
          <stop offset="0" stopColor="var(--color-fresh)" />
          <stop offset=".55" stopColor="var(--color-mid)" />
          <stop offset="1" stopColor="var(--color-kick-fill)" />
        </linearGradient>
      </defs>
      {Array.from({ length: Math.floor(longest / step) + 1 }, (_, mark) => mark * step).map((mark) => (
        <g key={mark}>
          <path d={`M${x(mark)} ${TOP - 12}V${height}`} stroke="var(--color-rule)" />
          <text
            x={x(mark)}
            y={TOP - 18}
            textAnchor="middle"
            fontSize="13.5"
            fill="var(--color-ink-soft)"
            className="fig"
          >
            {mark === 0 ? (narrow ? "0" : "parts touch") : `${mark} min`}
          </text>
        </g>
      ))}
      {pots.map((pot, at) => {
        const y = TOP + at * ROW + below;
        const done = Math.min(contactMin + pot.spread_min, pot.life_min);
        const tall = 44;
        return (
          <g key={pot.id}>
            <foreignObject x="0" y={narrow ? y - 42 : y} width={narrow ? 104 : 170} height="36">
              <div className={`fig leading-[34px] whitespace-nowrap ${narrow ? "text-[22px]" : "text-[27px]"}`}>
                <Worked about={`pot:${pot.id}`}>
                  {pot.count > 1 ? `${fixed(pot.count, 0)} × ` : ""}
                  {units.number("mass", pot.mass_g)}{" "}
                  <span className="text-[15px] font-normal text-ink-soft">{units.unit("mass", pot.mass_g)}</span>
                </Worked>
              </div>
            </foreignObject>
            <text x={narrow ? 108 : 0} y={narrow ? y - 24 : y + 46} fontSize="13" fill="var(--color-ink)">
              {pot.owner_name.length > 24 ? `${pot.owner_name.slice(0, 23)}…` : pot.owner_name}
            </text>
            <text x={narrow ? 108 : 0} y={narrow ? y - 8 : y + 62} fontSize="13" fill="var(--color-ink-soft)">
              {shortLabels(pot.labels)}
            </text>
            <path
              d={`M${x(0)} ${y + tall}V${y + 4}H${x(contactMin)}L${x(done)} ${y + tall - 5}V${y + tall}Z`}
              fill="url(#ageing)"
              stroke="var(--color-ink)"
            />
            <path
              d={`M${x(done)} ${y + tall - 2}H${x(pot.life_min)}`}
              stroke="var(--color-kick)"
              strokeDasharray="2 3"
              strokeWidth="2"
            />
            <path d={`M${x(pot.life_min)} ${y + tall - 16}v22`} stroke="var(--color-kick)" strokeWidth="3" />
            <path d={`M${x(pot.use_by_min)} ${y + 2}v${tall + 4}`} stroke="var(--color-ink)" strokeWidth="1.6" />
            <text x={x(pot.use_by_min) + 5} y={y + 15} fontSize="13" fill="var(--color-ink)" className="fig">
              {narrow ? "by" : "on the work by"} {minutes(pot.use_by_min)}
            </text>
            <text
              x={x(pot.life_min)}
              y={y + tall + 20}
              textAnchor="end"
              fontSize="13"
              fill="var(--color-kick)"
              className="fig"
            >
              kicks {minutes(pot.life_min)}
            </text>
            <text x={x(0)} y={y + tall + 16} fontSize="12.5" fill="var(--color-ink-soft)" className="fig">
              spread in {minutes(pot.spread_min)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
