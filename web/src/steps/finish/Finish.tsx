import { useState } from "react";
import { Link } from "react-router";
import type { FinishResult } from "../../api/client";
import { FinishLadder } from "../../drawing/FinishLadder";
import { fixed } from "../../format";
import { useJob } from "../../job/context";
import { StepCautions } from "../../job/JobCautions";
import { usePointedPath } from "../../job/usePointing";
import { useSheetClock } from "../../job/useSheetClock";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Figure } from "../../ui/Figure";
import { Split, Title } from "../Split";
import { FinishFields } from "./FinishFields";

/** How a part is finished: its grits and coats in the order of the work, drawn with the minutes they take. */
export function FinishStep() {
  const { document, job, plan } = useJob();
  const pointed = usePointedPath();
  const parts = document.parts.filter((part) => part.finish?.to);
  const [, at = ""] = pointed.match(/^parts\.(\d+)/) ?? [];
  const [chosen, choose] = useState(document.parts[Number(at || -1)]?.id ?? "");
  const part = parts.find((each) => each.id === chosen) ?? parts[0];
  if (!part)
    return (
      <main className="p-6">
        <p>
          Nothing of this job is finished further.{" "}
          <Link to={`/jobs/${job.id}/measure`} className="link">
            Say under Measure what a part is finished to
          </Link>
          .
        </p>
      </main>
    );
  const told = plan.finishes?.find((each) => each.id === part.id);
  return (
    <Split
      picture={
        <div className="lg:sticky lg:top-0">
          <div className="flex flex-wrap items-start justify-between gap-3">
            <Title
              words={`${part.name || "This part"}, finished: ${part.finish?.to}`}
              under={`Each step as wide as its minutes; the grains as coarse beside each other as they are. ${told?.own_minutes ? "The minutes of a grit are your own, the rest is from memory." : "Minutes and discs are from memory."}`}
            />
            <div className="flex flex-wrap gap-2">
              {parts.length > 1 &&
                parts.map((each) => (
                  <Button key={each.id} aria-pressed={each.id === part.id} onClick={() => choose(each.id)}>
                    {each.name || "Part"}
                  </Button>
                ))}
            </div>
          </div>
          {told ? (
            <FinishLadder finish={told} />
          ) : (
            <p className="max-w-[60ch] py-4 text-[0.9375rem]">Measure the part: then its steps are drawn here.</p>
          )}
        </div>
      }
      sheet={
        <>
          {told && <Hours finish={told} />}
          <StepCautions step="finish" />
          <FinishFields key={part.id} part={part} index={document.parts.indexOf(part)} />
        </>
      }
    />
  );
}

function Hours({ finish }: { finish: FinishResult }) {
  const { plan } = useJob();
  const { units } = useShop();
  return (
    <section aria-label="How long it takes">
      <Figure name="One pair of hands" number={fixed(finish.work_h, 1)} unit="h" size={50} />
      <p className="mt-1 text-[0.9375rem]">
        over {units.text("area", finish.area_m2)}
        {(finish.wait_h ?? 0) > 0 && `, and ${fixed(finish.wait_h, 0)} h waited between`}.
        {(finish.fairing_ml ?? 0) > 0 &&
          ` ${units.text("volume", finish.fairing_ml)} of fairing compound, at a mean gap of ${units.words("thickness", finish.mean_low_mm ?? 0)}.`}
      </p>
      {plan.run_sheet && <Begins finish={finish} sheet={plan.run_sheet} />}
    </section>
  );
}

function Begins({ finish, sheet }: { finish: FinishResult; sheet: Parameters<typeof useSheetClock>[0] }) {
  const { say: clock } = useSheetClock(sheet);
  const days = finish.on_day ?? [];
  if (!days.length) return null;
  const last = days.reduce((a, b) => (b.begins_min > a.begins_min ? b : a));
  return (
    <p className="text-[0.9375rem]">
      Not before <span className="fig">{clock(last.begins_min)}</span>: from then on it sands to dust. Sand a spot
      first.
      {finish.steps[0]?.kind === "trim" && (
        <>
          {" "}
          A knife cuts its edge about <span className="fig">{clock(last.knife_min)}</span>.
        </>
      )}
    </p>
  );
}
