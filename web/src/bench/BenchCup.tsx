import type { CardPot } from "../api/client";
import { asRead } from "../format";

const [RESIN, HARDENER] = ["var(--color-mid)", "var(--color-fresh)"];
const [TOP, BOTTOM] = [40, 470];

/** The cup with what is in it and the line to stop at, filled to scale; amounts are as the tools read them. */
export function BenchCup({
  card,
  amounts,
  line,
  words,
}: {
  card: CardPot;
  /** What is in, by the order of the pours, as far as it is. */
  amounts: (number | null)[];
  /** Where the part in hand is to end. */
  line: number;
  words: string;
}) {
  const shades = card.b_first ? [HARDENER, RESIN] : [RESIN, HARDENER];
  const size = (at: number, amount: number) => amount * (card.pours[at]?.unit_is ?? 1);
  const planned = card.pours.reduce((sum, pour, at) => sum + size(at, pour.amount), 0);
  const most = Math.max(planned, line) * 1.25;
  const half = (y: number) => 78 + ((BOTTOM - y) / (BOTTOM - TOP)) * 26;
  const yOf = (grams: number) => BOTTOM - Math.min(1, grams / most) * (BOTTOM - TOP);
  let filled = 0;
  const y = yOf(line);
  return (
    <svg viewBox="0 0 260 490" className="h-full max-h-[56dvh] w-full" role="img" aria-label={`The cup: ${words}`}>
      {amounts.map((amount, at) => {
        if (!amount) return null;
        const [y0, y1] = [yOf(filled), yOf(filled + size(at, amount))];
        filled += size(at, amount);
        return (
          <g key={card.pours[at]?.what}>
            <path
              d={`M${115 - half(y0)} ${y0}H${115 + half(y0)}L${115 + half(y1)} ${y1}H${115 - half(y1)}Z`}
              fill={shades[at]}
            />
            {y0 - y1 > 30 && (
              <text
                x="115"
                y={(y0 + y1) / 2 + 8}
                textAnchor="middle"
                fontSize="24"
                className="fig"
                fill="var(--color-on-resin)"
              >
                {card.pours[at]?.part} {asRead(amount)} {card.pours[at]?.unit}
              </text>
            )}
          </g>
        );
      })}
      <path
        d={`M${115 - half(TOP)} ${TOP}L${115 - half(BOTTOM)} ${BOTTOM}H${115 + half(BOTTOM)}L${115 + half(TOP)} ${TOP}`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="4"
      />
      <path
        d={`M${115 - half(y)} ${y}H${115 + half(y) + 20}`}
        stroke="var(--color-ink)"
        strokeWidth="4"
        strokeDasharray="11 8"
      />
      <text x={115} y={y - 12} textAnchor="middle" fontSize="24" className="fig" fill="var(--color-ink)">
        {words}
      </text>
    </svg>
  );
}
