import { fixed } from "../format";
import type { Units } from "../units";

/** Three pots to one scale: a beginner's, one's own, the shop's largest. Cups of one shape, so that their mass goes by the cube of their width. */
export function PotGrowth({ pots, units }: { pots: { name: string; grams: number }[]; units: Units }) {
  const most = Math.max(...pots.map((pot) => pot.grams));
  return (
    <svg
      viewBox="0 0 420 196"
      role="img"
      aria-label={pots.map((pot) => `${pot.name} ${fixed(pot.grams, 0)} g`).join(", ")}
      className="w-full max-w-[460px]"
    >
      <path d="M4 150h412" stroke="var(--color-ink)" strokeWidth="2" />
      {pots.map((pot, at) => {
        const size = 104 * Math.cbrt(pot.grams / most);
        const x = 72 + at * 138;
        const [rim, foot] = [size * 0.5, size * 0.4];
        const level = 0.3;
        const at_level = rim - (rim - foot) * level;
        return (
          <g key={pot.name}>
            <path
              d={`M${x - at_level} ${150 - size * (1 - level)}H${x + at_level}L${x + foot} 149H${x - foot}Z`}
              fill={at === 1 ? "var(--color-mid)" : "var(--color-fresh)"}
            />
            <path
              d={`M${x - rim} ${150 - size}L${x - foot} 150H${x + foot}L${x + rim} ${150 - size}`}
              fill="none"
              stroke="var(--color-ink)"
              strokeWidth={at === 1 ? 3.5 : 2}
            />
            <text x={x} y="171" textAnchor="middle" fontSize="19" className="fig" fill="var(--color-ink)">
              {units.text("mass", pot.grams)}
            </text>
            <text x={x} y="189" textAnchor="middle" fontSize="13" fill="var(--color-ink-soft)">
              {pot.name}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
