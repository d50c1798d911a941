import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { client, type Ready, taken } from "../../api/client";
import { useJob } from "../../job/context";
import { JobCaution } from "../../job/JobCautions";
import { useReady, useTick } from "../../job/useBeforePot";
import { Button } from "../../ui/Button";

/** Fixes the plan's numbers as a run, past what keeps the first pot shut. */
export function TakeToBench() {
  const { job, plan, saving } = useJob();
  const queries = useQueryClient();
  const stops = plan.cautions?.filter((caution) => caution.severity === "stop") ?? [];
  const standing = stops.some((caution) => !caution.override);
  const { data: ready } = useReady();
  const waiting = ready?.waiting ?? [];
  // Of one press, however often it is sent.
  const tap = useRef(crypto.randomUUID());
  const start = useMutation({
    mutationFn: () =>
      taken(
        client.POST("/api/jobs/{job_id}/runs", { params: { path: { job_id: job.id } }, body: { tap_id: tap.current } }),
      ),
    onSuccess: () => {
      tap.current = crypto.randomUUID();
      return queries.invalidateQueries({ queryKey: ["runs", job.id] });
    },
  });
  return (
    <div className="border-t border-rule pt-4">
      {stops.map((stop) => (
        <div key={stop.id + stop.path} className="mb-2">
          <JobCaution caution={stop} />
        </div>
      ))}
      {ready && waiting.length > 0 && <FirstPotShut ready={ready} />}
      <Button
        edits
        look="main"
        className="min-h-14 w-full text-[1.0625rem]"
        disabled={standing || waiting.length > 0 || saving !== "saved" || start.isPending}
        onClick={() => start.mutate()}
      >
        Take it to the bench
      </Button>
      <p className="lab mt-1">
        {standing
          ? "The bench opens no pot while a stop stands: mend it, or override it with a reason."
          : waiting.length > 0
            ? "Tick it under Cut and Prepare, or say above why you go on."
            : "Fixes these numbers as a run, so that each pot can be written down."}
      </p>
      {start.isError && (
        <p role="alert" className="mt-1 text-[0.875rem] text-stop">
          {start.error.message}
        </p>
      )}
    </div>
  );
}

/** What keeps the first pot shut, and the way past it: a reason, kept with the job. */
function FirstPotShut({ ready }: { ready: Ready }) {
  const { job } = useJob();
  const [reason, setReason] = useState("");
  const cut = useTick("cut");
  const prepare = useTick("prepare");
  const refused = cut.error ?? prepare.error;
  const goOn = async () => {
    for (const [kind, tick] of [
      ["cut", cut],
      ["prepare", prepare],
    ] as const) {
      const things = ready.to_waive[kind] ?? [];
      if (things.length) await tick.mutateAsync({ things, state: "waived", reason }).catch(() => undefined);
    }
  };
  return (
    <div className="mb-3 border-l-2 border-ink pl-3">
      <p className="font-semibold">The first pot stays shut</p>
      <ul className="text-[0.875rem]">
        {ready.waiting.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      <p className="mt-1 flex gap-4 text-[0.875rem]">
        <Link className="link" to={`/jobs/${job.id}/cut`}>
          To Cut
        </Link>
        <Link className="link" to={`/jobs/${job.id}/prepare`}>
          To Prepare
        </Link>
      </p>
      <div className="mt-2 flex gap-2">
        <input
          aria-label="Why go on all the same"
          value={reason}
          maxLength={300}
          placeholder="why go on all the same"
          onChange={(event) => setReason(event.target.value)}
          className="field min-w-0 flex-1"
        />
        <Button edits className="min-h-11" onClick={() => void goOn()}>
          Begin all the same
        </Button>
      </div>
      {refused && (
        <p role="alert" className="mt-1 text-[0.8125rem] text-stop">
          {refused.message}
        </p>
      )}
    </div>
  );
}
