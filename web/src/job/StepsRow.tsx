import { useEffect, useRef } from "react";
import { Link } from "react-router";
import type { StepResult } from "../api/client";
import { fixed, plural } from "../format";
import { useJob } from "./context";
import { names } from "./stepNames";
import { useReady } from "./useBeforePot";

/** The steps this job has, in the order of the work. */
export function useSteps(): StepResult[] {
  const { plan, job } = useJob();
  const { data: ready } = useReady();
  return (plan.steps ?? []).map((step) => {
    switch (step.step) {
      case "log":
        return { ...step, headline: job.run_count ? plural(job.run_count, "run") : "no runs" };
      case "cut":
        return ready?.cut_count ? done(step, "cut", ready.cut_count, plan.piece_count) : step;
      case "prepare":
        return ready?.signed_count ? done(step, "done", ready.signed_count, plan.prepare_count) : step;
      default:
        return step;
    }
  });
}

/** How many of a step's things are done, which the plan does not know: it is about what is meant. */
const done = (step: StepResult, word: string, count: number, of: number): StepResult => ({
  ...step,
  headline: count >= of ? `all ${fixed(of, 0)} ${word}` : `${fixed(count, 0)} of ${fixed(of, 0)} ${word}`,
  state: count >= of ? "ready" : step.state,
});

/** Each step with its own headline and its state, so that the row reads as the plan in one line. */
export function StepsRow({ step: current }: { step: string }) {
  const row = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the current step moves, and the row follows
  useEffect(() => {
    window.scrollTo(0, 0);
    const tab = row.current?.querySelector<HTMLElement>("[aria-current]");
    if (tab && row.current) row.current.scrollLeft = tab.offsetLeft - (row.current.clientWidth - tab.clientWidth) / 2;
  }, [current]);
  const { job } = useJob();
  return (
    <nav
      ref={row}
      aria-label="Steps"
      className="relative flex snap-x overflow-x-auto border-b border-rule md:flex-wrap md:overflow-visible"
    >
      {useSteps().map(({ step, headline, state }) => (
        <Link
          key={step}
          to={`/jobs/${job.id}/${step}`}
          aria-current={step === current ? "step" : undefined}
          className="min-w-[8.25rem] flex-1 snap-center border-r border-rule px-3.5 py-2 lg:min-w-[6.5rem] lg:max-xl:px-2 last:border-r-0 hover:bg-sheet aria-[current]:bg-sheet aria-[current]:shadow-[inset_0_-3px_0_var(--color-ink)]"
        >
          <span className="flex items-center justify-between gap-2">
            <span className="lab">{names[step]}</span>
            <State state={state} />
          </span>
          <span className="fig block truncate text-[1rem] lg:max-xl:text-[0.8438rem]">{headline}</span>
        </Link>
      ))}
    </nav>
  );
}

/** Blue is good to go; what stops or waits says so in a word. */
function State({ state }: { state: StepResult["state"] }) {
  switch (state) {
    case "stop":
      return <span className="text-[0.7812rem] font-semibold text-stop">stop</span>;
    case "to do":
      return <span className="text-[0.7812rem] text-resin-ink">to do</span>;
    case "ready":
      return (
        <span className="dot dot-on h-2.5 w-2.5 shrink-0 rounded-full bg-cool">
          <span className="sr-only">ready</span>
        </span>
      );
    default:
      return <span className="dot h-2.5 w-2.5 shrink-0 rounded-full border-[1.5px] border-rule" />;
  }
}
