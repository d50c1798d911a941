import { Popover } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Caution } from "../api/client";
import { Button } from "../ui/Button";
import { CautionLine, severityWords } from "../ui/Cautions";
import { useJob } from "./context";
import { useOverrides } from "./useOverrides";

const keyOf = (caution: Caution) => caution.id + caution.path + caution.message;
const severities = ["stop", "care", "note"] as const;

function tallyOf(cautions: Caution[]): [string, number, boolean][] {
  const standing = cautions.filter((caution) => !caution.override);
  const counts = severities.map((severity): [string, number, boolean] => [
    severityWords[severity].toLowerCase(),
    standing.filter((caution) => caution.severity === severity).length,
    severity === "stop",
  ]);
  return [...counts, ["overridden", cautions.length - standing.length, false] as [string, number, boolean]].filter(
    ([, count]) => count,
  );
}

/** The tally: it counts, names the worst, and opens into the list, each line pointing at its thing. */
export function CautionTally() {
  const { plan, job } = useJob();
  const overriding = useOverrides();
  const [open, setOpen] = useState(false);
  const go = useNavigate();
  const cautions = plan.cautions ?? [];
  const tally = tallyOf(cautions);
  const worst = cautions.find((caution) => !caution.override);
  if (!cautions.length) return <span className="lab">no cautions</span>;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="min-h-11 max-w-[230px] rounded-(--radius) border border-rule bg-sheet px-2.5 py-1 text-left text-[0.875rem] leading-tight hover:border-ink max-md:max-w-[150px]">
        <span className="flex gap-2.5 whitespace-nowrap">
          {tally.map(([words, count, stops], at) => (
            <span key={words} className={`${stops ? "font-semibold text-stop" : ""} ${at ? "max-md:hidden" : ""}`}>
              <span className="fig">{count}</span> {words}
              {count > 1 && (words === "stop" || words === "note") ? "s" : ""}
            </span>
          ))}
          {tally.length > 1 && <span className="md:hidden">+ {cautions.length - (tally[0]?.[1] ?? 0)}</span>}
        </span>
        {worst && <span className="lab block truncate text-[0.7812rem] max-md:hidden">{worst.message}</span>}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          aria-label="Cautions, most severe first"
          className="z-40 max-h-[75dvh] w-[min(560px,94vw)] overflow-auto rounded-(--radius) border border-ink bg-sheet p-3"
        >
          <ul className="space-y-2">
            {cautions.map((caution) => (
              <li key={keyOf(caution)}>
                <CautionLine caution={caution} overriding={overriding} />
                <Button
                  look="text"
                  className="ml-3 text-[0.8125rem]"
                  onClick={() => {
                    setOpen(false);
                    go(`/jobs/${job.id}/${caution.step}`, { state: { at: caution.path } });
                  }}
                >
                  show me where, under {caution.step}
                </Button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The cautions that belong to a step, most severe first. */
export function StepCautions({ step }: { step: Caution["step"] }) {
  const { plan } = useJob();
  const mine = plan.cautions?.filter((caution) => caution.step === step) ?? [];
  if (!mine.length) return null;
  return (
    <div className="space-y-2">
      {mine.map((caution) => (
        <JobCaution key={keyOf(caution)} caution={caution} />
      ))}
    </div>
  );
}

/** A caution of the job in hand, which can be overridden in it. */
export function JobCaution({ caution }: { caution: Caution }) {
  return <CautionLine caution={caution} overriding={useOverrides()} />;
}
