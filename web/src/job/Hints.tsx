import type { Preferences } from "../api/client";
import { useSession } from "../session";
import { useJob } from "./context";

type Hint = Preferences["hints_closed"][number];
const hints: readonly (readonly [Hint, string, string])[] = [
  ["scrub", "Move the weather", "Drag the ring on the ruler above. Hardener, pots and cautions answer as it moves."],
  [
    "quick line",
    "Write a stack as you would say it",
    "Under Stack, type 2x 450 csm, 600 biax 45. It is drawn as you type.",
  ],
  ["working", "Ask any number", "A dotted line under a figure: press it, and it shows how it was worked out."],
];

/** Three short hints on the sample job. One that was closed never comes back. */
export function Hints() {
  const { job } = useJob();
  const { preferences, prefer } = useSession();
  const left = hints.filter(([id]) => !preferences.hints_closed.includes(id));
  if (!job.is_sample || !left.length) return null;
  return (
    <aside aria-label="Hints" className="border-b border-rule bg-cool-pale">
      <div className="mx-auto flex max-w-[1280px] items-center gap-x-6 px-4 max-md:flex-wrap">
        <ul className="grid flex-1 gap-x-6 md:grid-cols-3">
          {left.map(([id, title, words], at) => (
            <li key={id} className={`flex items-start gap-2 py-2 ${at ? "max-md:hidden" : ""}`}>
              <p className="min-w-0 flex-1 text-[0.8438rem] leading-snug">
                <b className="font-semibold">{title}.</b> {words}
              </p>
              <button
                type="button"
                aria-label={`Close the hint: ${title}`}
                className="min-h-8 min-w-8 rounded-(--radius) text-[1.0625rem] leading-none hover:bg-sheet"
                onClick={() => prefer({ hints_closed: [...preferences.hints_closed, id] })}
              >
                ×
              </button>
            </li>
          ))}
        </ul>
        {left.length > 1 && (
          <button
            type="button"
            className="link min-h-8 text-[0.8438rem]"
            onClick={() => prefer({ hints_closed: hints.map(([id]) => id) })}
          >
            Close all hints
          </button>
        )}
      </div>
    </aside>
  );
}
