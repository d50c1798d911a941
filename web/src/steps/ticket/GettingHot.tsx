import type { Caution } from "../../api/client";

export const RUNAWAY = "people.runaway_pot";

/** What to do with a pot that runs away: always one tap away. */
export function GettingHot({ cautions }: { cautions: Caution[] }) {
  const runaway = cautions.find((caution) => caution.id === RUNAWAY);
  if (!runaway) return null;
  return (
    <details className="border-2 border-kick">
      <summary className="min-h-12 cursor-pointer list-none px-3 py-3 text-center text-[1.0625rem] font-semibold text-kick">
        Pot getting hot?
      </summary>
      <div className="space-y-2 px-3 pb-3 text-[0.9688rem]">
        {runaway.do.split(/(?<=\.) /).map((sentence) => (
          <p key={sentence}>{sentence}</p>
        ))}
      </div>
    </details>
  );
}
