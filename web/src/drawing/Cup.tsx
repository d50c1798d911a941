import type { Ticket } from "../api/client";
import { asRead } from "../format";

const [RESIN, HARDENER] = ["var(--color-mid)", "var(--color-fresh)"];

/** The cup filling towards its lines, each layer in proportion to what is poured. */
export function Cup({ ticket }: { ticket: Ticket }) {
  // Drawn up or counted, a dose has another unit than what is in the cup.
  const amounts = ticket.pours.map((pour) => pour.amount * pour.unit_is);
  const total = amounts.reduce((sum, amount) => sum + amount, 0);
  const [top, bottom] = [70, 282];
  const shade = ticket.b_first ? [HARDENER, RESIN] : [RESIN, HARDENER];
  const half = (y: number) => 62 + ((bottom - y) / (bottom - 20)) * 22;
  let level = bottom;
  return (
    <svg viewBox="0 0 210 300" className="h-full max-h-[330px] w-full" role="img" aria-label="The cup with its lines">
      {ticket.pours.map((pour, at) => {
        const high = Math.max(((amounts[at] ?? 0) / total) * (bottom - top), 10);
        const [y1, y0] = [level - high, level];
        level = y1;
        const tall = high > 26;
        return (
          <g key={pour.what}>
            <path
              d={`M${105 - half(y0)} ${y0}H${105 + half(y0)}L${105 + half(y1)} ${y1}H${105 - half(y1)}Z`}
              fill={shade[at]}
            />
            {tall && (
              <text
                x="105"
                y={(y0 + y1) / 2 + 6}
                textAnchor="middle"
                fontSize="17"
                className="fig"
                fill="var(--color-on-resin)"
              >
                {asRead(pour.amount)} {pour.tool === "numbered cup" ? "" : pour.unit}
              </text>
            )}
            <path
              d={`M${105 - half(y1) - 6} ${y1}H${105 + half(y1) + 10}`}
              stroke="var(--color-ink)"
              strokeDasharray="5 4"
              strokeWidth="1.6"
            />
          </g>
        );
      })}
      <path
        d={`M${105 - half(20)} 20L${105 - half(bottom)} ${bottom}H${105 + half(bottom)}L${105 + half(20)} 20`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="3"
      />
    </svg>
  );
}
