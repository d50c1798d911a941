import { Link, useSearchParams } from "react-router";
import { client, type PotTrial, taken } from "../api/client";
import { useJob } from "../job/context";
import { StepCautions } from "../job/JobCautions";
import { useResinInHand } from "../job/resins";
import { Trials } from "../lab/Trials";

/** Pots tried before any is poured, of a resin that the job holds. */
export function LabStep() {
  const { job, plan } = useJob();
  const [asked] = useSearchParams();
  const { use, told, product: resin } = useResinInHand();
  const started = Number(asked.get("mass")) || told?.chemistry.life_of_pot_g || 500;
  if (!resin)
    return (
      <main className="min-h-[60dvh] px-4 py-4">
        <h1 className="text-[1.375rem] font-semibold">Which resin do you hold?</h1>
        <Link className="link" to={`/jobs/${job.id}/chemistry`}>
          Choose it under Chemistry
        </Link>
      </main>
    );
  return (
    <main className="px-4 py-4">
      <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-[1.375rem] font-semibold leading-tight">A pot tried before it is poured</h1>
          <p className="text-[0.875rem] text-ink-soft">
            {resin.name}, by the heat model (memory, unproven past its checks). The sheet and your own pots win.
          </p>
        </div>
        <Link className="link" to={`/jobs/${job.id}/pots`}>
          Back to the pots
        </Link>
      </div>
      <StepCautions step="pots" />
      <Trials
        place={`lab.${job.id}`}
        asked={["lab", job.id, job.saved_at, use.id]}
        resin={resin}
        usual={{ mass_g: started, room_c: plan.conditions.room_c, vessel: "cup" }}
        unsaid="as the plan"
        ask={(trials) =>
          taken(
            client.POST("/api/jobs/{job_id}/pot-lab", {
              params: { path: { job_id: job.id } },
              body: { use_id: use.id, trials: trials as PotTrial[] },
            }),
          )
        }
      />
    </main>
  );
}
