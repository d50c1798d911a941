import { Popover } from "radix-ui";
import { Link } from "react-router";
import type { Caution } from "../api/client";

const words = { stop: "Stop", care: "Care", note: "Note" } as const;

export function CautionLine({ caution, open = false }: { caution: Caution; open?: boolean }) {
  return (
    <details open={open} className={`caution-${caution.severity} px-3 py-2`}>
      <summary className="cursor-pointer list-none leading-snug">
        <strong className={caution.severity === "stop" ? "text-stop" : ""}>{words[caution.severity]}:</strong>{" "}
        {caution.message}. <span className="link whitespace-nowrap text-[13px]">Why, and what to do</span>
      </summary>
      <p className="mt-2 text-[14px]">{caution.reason}</p>
      <p className="mt-1.5 text-[14px]">{caution.do}</p>
      <p className="lab mt-1.5">Source: {caution.source}</p>
    </details>
  );
}

/** The tally: it says what there is, and opens into the list. */
export function CautionTally({ cautions, jobId }: { cautions: Caution[]; jobId: string }) {
  const count = (severity: Caution["severity"]) => cautions.filter((caution) => caution.severity === severity).length;
  const tally = (["stop", "care", "note"] as const).filter((severity) => count(severity));
  if (!tally.length) return <span className="lab">no cautions</span>;
  return (
    <Popover.Root>
      <Popover.Trigger className="flex min-h-9 items-center gap-2 rounded-(--radius) border border-rule bg-sheet px-2.5 text-[14px] whitespace-nowrap hover:border-ink">
        {tally.map((severity) => (
          <span key={severity} className={severity === "stop" ? "font-semibold text-stop" : ""}>
            <span className="fig">{count(severity)}</span> {words[severity].toLowerCase()}
          </span>
        ))}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-40 max-h-[75dvh] w-[min(560px,94vw)] space-y-2 overflow-auto rounded-(--radius) border border-ink bg-sheet p-3"
        >
          {cautions.map((caution) => (
            <div key={caution.id + caution.path + caution.message}>
              <CautionLine caution={caution} />
              <Link to={`/jobs/${jobId}/${caution.step}`} className="lab link ml-3">
                go to {caution.step}
              </Link>
            </div>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The cautions that belong to a step, most severe first. */
export function StepCautions({ cautions, step }: { cautions: Caution[]; step: Caution["step"] }) {
  const mine = cautions.filter((caution) => caution.step === step);
  if (!mine.length) return null;
  return (
    <div className="space-y-2">
      {mine.map((caution) => (
        <CautionLine key={caution.id + caution.path + caution.message} caution={caution} />
      ))}
    </div>
  );
}
