import { useId } from "react";
import type { FinishResult } from "../api/client";
import { fixed } from "../format";

type Step = FinishResult["steps"][number];
const fills: Record<Step["kind"], string> = {
  trim: "bg-glass",
  wash: "bg-cool-pale",
  fill: "bg-core",
  grit: "bg-resin-light",
  coat: "bg-cool",
  polish: "bg-fresh",
  fittings: "bg-mould",
};
// The coarsest grain is drawn so wide, px; all others beside it to scale.
const WIDEST = 13;

/** The steps of a finish, one under the other along their minutes; beside each grit its grains, to one scale. */
export function FinishLadder({ finish }: { finish: FinishResult }) {
  const whole = Math.max(
    1,
    finish.steps.reduce((sum, step) => sum + step.minutes, 0),
  );
  const coarsest = Math.max(1, ...finish.steps.map((step) => step.grain_um ?? 0));
  let done = 0;
  return (
    <ol aria-label="Steps of the finish" className="space-y-2.5">
      {finish.steps.map((step, at) => {
        const from = done;
        done += step.minutes;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a step is where it stands in the order of the work
          <li key={at} className="grid grid-cols-[4rem_1fr] items-center gap-x-3 max-sm:grid-cols-1">
            <div className="h-8 max-sm:hidden">
              {step.grain_um != null && <Grains um={step.grain_um} coarsest={coarsest} />}
            </div>
            <div className="min-w-0">
              <p className="text-[1rem] leading-snug">
                {step.words}{" "}
                <span className="fig whitespace-nowrap text-ink-soft">
                  {fixed(step.minutes, 0)} min
                  {(step.wait_h ?? 0) > 0 &&
                    at < finish.steps.length - 1 &&
                    `, then wait ${fixed(step.wait_h ?? 0, 0)} h`}
                </span>
              </p>
              <div aria-hidden="true" className="mt-1 h-3.5 border-b border-rule">
                <div
                  className={`h-3.5 min-w-0.5 border border-ink ${fills[step.kind]}`}
                  style={{ marginLeft: `${(100 * from) / whole}%`, width: `${(100 * step.minutes) / whole}%` }}
                />
              </div>
            </div>
          </li>
        );
      })}
    </ol>
  );
}

/** Grains, each as wide beside the coarsest as it is. */
function Grains({ um, coarsest }: { um: number; coarsest: number }) {
  const id = useId();
  const wide = (um / coarsest) * WIDEST;
  const step = wide * 1.3;
  return (
    <svg width="64" height="32" aria-hidden="true">
      <pattern id={id} width={step} height={step} patternUnits="userSpaceOnUse">
        <path
          d={`M0 ${wide / 2}l${wide / 2} ${-wide / 2}l${wide / 2} ${wide / 2}l${-wide / 2} ${wide / 2}z`}
          fill="var(--color-ink-soft)"
        />
      </pattern>
      <rect width="64" height="32" fill={`url(#${id})`} />
    </svg>
  );
}
