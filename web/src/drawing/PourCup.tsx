import type { PourTask } from "../api/client";
import { asRead } from "../format";

const [TOP, BOTTOM, HALF] = [60, 392, 92];

/** The cup that is poured into, to scale: resin below, hardener above it, the stream while it runs, and marks where it has them. */
export function PourCup({
  task,
  a,
  b,
  runs,
  aged,
}: {
  task: PourTask;
  a: number;
  b: number;
  runs: "A" | "B" | null;
  /** How far it is on its way to its gel. */
  aged: number;
}) {
  // It is drawn as full as what is asked for makes it, with room for what runs over.
  const asked = (task.in_a + task.wanted_a) * (1 + task.b_per_a);
  const most = task.ways?.length ? task.holds : Math.min(task.holds, 1.8 * asked);
  const y = (amount: number) => BOTTOM - Math.min(1, amount / most) * (BOTTOM - TOP);
  // In a straight cup by marks the second lies on the first; on a scale nobody sees them apart for long.
  const level = y(a + b);
  const marks = task.unit === "ml" ? Array.from({ length: Math.floor(most / 20) }, (_, at) => 20 * (at + 1)) : [];
  const mixed =
    aged > 0
      ? `color-mix(in oklab, var(--color-fresh), var(--color-kick) ${Math.round(100 * Math.min(1, aged))}%)`
      : null;
  return (
    <svg
      viewBox="0 0 300 420"
      role="img"
      aria-label={`The cup with ${asRead(Math.round(a))} of resin and ${asRead(Math.round(b))} of hardener`}
      className="max-h-[56dvh] w-full"
    >
      {runs && (
        <rect
          x={runs === "A" ? 118 : 170}
          y="0"
          width={runs === "A" ? 13 : 9}
          height={Math.max(0, level)}
          fill={runs === "A" ? "var(--color-mid)" : "var(--color-fresh)"}
        />
      )}
      {mixed ? (
        <rect x={150 - HALF} y={level} width={2 * HALF} height={BOTTOM - level} fill={mixed} />
      ) : (
        <>
          <rect x={150 - HALF} y={y(a)} width={2 * HALF} height={BOTTOM - y(a)} fill="var(--color-mid)" />
          <rect x={150 - HALF} y={level} width={2 * HALF} height={y(a) - level} fill="var(--color-fresh)" />
        </>
      )}
      <path
        d={`M${150 - HALF} ${TOP - 22}V${BOTTOM}H${150 + HALF}V${TOP - 22}`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="4"
      />
      {marks.map((mark) => (
        <g key={mark}>
          <path d={`M${150 + HALF} ${y(mark)}h-22`} stroke="var(--color-ink)" strokeWidth="2" />
          <path d={`M${150 + HALF} ${y(mark - 10)}h-12`} stroke="var(--color-ink)" strokeWidth="1.5" />
          <text x={150 + HALF + 8} y={y(mark) + 5} fontSize="15" className="fig" fill="var(--color-ink)">
            {mark}
          </text>
        </g>
      ))}
      {task.unit === "g" && (
        <path d="M34 402h232M60 402v12h180v-12" fill="none" stroke="var(--color-ink)" strokeWidth="4" />
      )}
    </svg>
  );
}
