import { useState } from "react";
import type { PourTask } from "../api/client";
import { Pour } from "./Pour";
import { usePractice } from "./usePractice";

const kinds = ["weigh", "rescue-pour", "marks", "hot"] as const;

/** Pots poured on the screen: by the scale, with too much in, by the marks of a cup, against the clock. */
export function Pours() {
  const { training, standing, more } = usePractice();
  const [kind, setKind] = useState<string>("weigh");
  const [done, setDone] = useState<string[]>([]);
  const left = training.pours.filter((task) => task.kind === kind && !done.includes(task.id));
  const task = left[0];
  const titles = new Map(training.pours.map((each) => [each.kind, each.title]));
  const next = (poured: PourTask) => {
    setDone([...done, poured.id]);
    if (left.length === 1) void more();
  };
  return (
    <main className="px-4 py-5 lg:px-8">
      <h1 className="sr-only">Pouring</h1>
      <fieldset className="flex flex-wrap gap-1.5">
        <legend className="sr-only">Which pour</legend>
        {kinds.map((id) => {
          const stands = standing.tasks.find((each) => each.id === id);
          return (
            <button
              key={id}
              type="button"
              aria-pressed={kind === id}
              onClick={() => setKind(id)}
              className="min-h-11 rounded-(--radius) border border-rule bg-sheet px-3 text-left text-[0.875rem] hover:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
            >
              {titles.get(id)}
              {stands && (
                <span className="ml-2 text-[0.8125rem] opacity-80">
                  {stands.passed ? "passed" : `${stands.in_a_row} of ${stands.of}`}
                </span>
              )}
            </button>
          );
        })}
      </fieldset>
      {task ? (
        <Pour key={task.id} task={task} next={() => next(task)} />
      ) : (
        <p className="mt-6">The next one is being made. Out of the server’s reach there are no more of these.</p>
      )}
    </main>
  );
}
