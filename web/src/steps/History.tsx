import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { useNavigate } from "react-router";
import { client, type Revision, taken } from "../api/client";
import { plural } from "../format";
import { useJob } from "../job/context";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Wide } from "../ui/Wide";

/** The job's revisions with names and times; two can be put side by side, and any can be gone back to. */
export function History() {
  const { job, saving, adopt } = useJob();
  const { units, clock, day, money } = useShop();
  const queries = useQueryClient();
  const [held, hold] = useState<number | null>(null);
  const revisions = useQuery({
    queryKey: ["revisions", job.id, job.revision, job.saved_at],
    queryFn: () => taken(client.GET("/api/jobs/{job_id}/revisions", { params: { path: { job_id: job.id } } })),
    enabled: saving === "saved",
  });
  const back = useMutation({
    mutationFn: (number: number) =>
      taken(
        client.POST("/api/jobs/{job_id}/revisions/{number}/restore", { params: { path: { job_id: job.id, number } } }),
      ),
    onSuccess: adopt,
  });
  const away = useMutation({
    mutationFn: (put: boolean) =>
      taken(client.PUT("/api/jobs/{job_id}/put-away", { params: { path: { job_id: job.id } }, body: { away: put } })),
    onSuccess: () =>
      Promise.all(
        ["job", "jobs", "put away"].map((name) => queries.invalidateQueries({ queryKey: [name], refetchType: "all" })),
      ),
  });
  const putAway = away.isSuccess ? away.variables : job.put_away;
  const against = revisions.data?.find((revision) => revision.number === held);
  if (!revisions.data) return null;
  return (
    <section className="mt-6">
      <h2 className="text-[1.1875rem] font-semibold">Revisions</h2>
      <p className="lab">
        One person's edits within a minute share a revision; one that went to the bench or out as a file never changes.
        Figures are for today's conditions.
      </p>
      <Wide label="Revisions" className="mt-2 bg-sheet px-4 py-2">
        <table className="w-full min-w-[720px]">
          <thead className="lab text-left">
            <tr className="border-b border-rule">
              <th className="py-1.5 font-normal">No.</th>
              <th className="font-normal">Saved</th>
              <th className="text-right font-normal">To cover</th>
              <th className="text-right font-normal">To mix</th>
              <th className="text-right font-normal">Pots</th>
              <th className="text-right font-normal">Materials</th>
              <th className="font-normal">
                <span className="sr-only">What to do with it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {revisions.data.map((revision) => (
              <tr key={revision.number} className="border-b border-rule-faint">
                <td className="fig py-1.5 text-[1.125rem]">{revision.number}</td>
                <td>
                  {day(revision.saved_at)} {clock(revision.saved_at)}, {revision.saved_by}
                </td>
                <Compared
                  now={revision.total_area_m2}
                  then={against?.total_area_m2}
                  print={(value) => units.text("area", value)}
                />
                <Compared now={revision.mixed_g} then={against?.mixed_g} print={(value) => units.text("mass", value)} />
                <Compared now={revision.pot_count} then={against?.pot_count} print={String} />
                <Compared now={revision.cost} then={against?.cost} print={money} />
                <td className="text-right whitespace-nowrap print:hidden">
                  <Actions
                    revision={revision}
                    held={held}
                    onHold={hold}
                    latest={revision.number === job.revision}
                    onBack={() => back.mutate(revision.number)}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      {back.isError && (
        <p role="alert" className="text-stop">
          {back.error.message}
        </p>
      )}
      <div className="mt-4 flex flex-wrap items-center gap-x-4 gap-y-1 print:hidden">
        <Button edits disabled={away.isPending} onClick={() => away.mutate(!putAway)}>
          {putAway ? "Take it out again" : "Put this job away"}
        </Button>
        <p className="lab">
          {putAway
            ? job.is_template
              ? "This is a template: others begin from it, and it is not on the floor. Taken out, it is a job like others."
              : "This job is put away: it is not on the floor."
            : "It leaves the floor; nothing of it is lost, and it can be taken out again."}
        </p>
      </div>
      <AsTemplate />
      <DeleteJob />
      {away.isError && (
        <p role="alert" className="text-stop">
          {away.error.message}
        </p>
      )}
    </section>
  );
}

/** The job as it stands now, kept for others to begin from. */
function AsTemplate() {
  const { job, document } = useJob();
  const queries = useQueryClient();
  const [name, setName] = useState<string | null>(null);
  const id = useId();
  const keep = useMutation({
    mutationFn: (name: string) =>
      taken(client.POST("/api/jobs/{job_id}/template", { params: { path: { job_id: job.id } }, body: { name } })),
    onSuccess: (templates) => {
      queries.setQueryData(["templates", job.shop_id], templates);
      setName(null);
    },
  });
  if (job.is_template) return null;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 print:hidden">
      {name === null ? (
        <>
          <Button edits onClick={() => setName(`Our ${document.name}`)}>
            Keep as a template
          </Button>
          <p className="lab">
            {keep.isSuccess
              ? "Kept: a new job on the floor may begin from it."
              : "New jobs begin from it as it stands now; this job stays as it is."}
          </p>
        </>
      ) : (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            keep.mutate(name.trim());
          }}
        >
          <label className="lab" htmlFor={id}>
            What the shop calls it
            <input
              id={id}
              value={name}
              maxLength={120}
              onChange={(event) => setName(event.target.value)}
              className="field mt-1 block w-[320px] max-w-full text-[1rem] text-ink"
            />
          </label>
          <Button edits look="main" type="submit">
            Keep the template
          </Button>
          <Button look="text" onClick={() => setName(null)}>
            Not now
          </Button>
        </form>
      )}
      {keep.isError && (
        <p role="alert" className="text-stop">
          {keep.error.message}
        </p>
      )}
    </div>
  );
}

/** Deleting the job, asked once more: what goes with it, what stays, and until when it can be brought back. */
function DeleteJob() {
  const { job } = useJob();
  const go = useNavigate();
  const queries = useQueryClient();
  const [asked, ask] = useState(false);
  const remove = useMutation({
    mutationFn: () => taken(client.POST("/api/jobs/{job_id}/delete", { params: { path: { job_id: job.id } } })),
    onSuccess: async () => {
      for (const name of ["jobs", "put away", "deleted"]) void queries.invalidateQueries({ queryKey: [name] });
      await go("/");
    },
  });
  return (
    <div className="mt-2 print:hidden">
      {!asked && (
        <Button edits look="text" onClick={() => ask(true)}>
          Delete this job
        </Button>
      )}
      {asked && (
        <section aria-label="Delete this job" className="max-w-[64ch] border-l-4 border-stop pl-4">
          <p>
            The job{job.run_count > 0 && ` and its ${plural(job.run_count, "run")}`} will be gone from every list. For
            30 days it can be brought back at the foot of the floor; then it is gone for good. What the shop learned of
            it stays, and what it took out of the stock stays taken.
          </p>
          <div className="mt-2 flex gap-3">
            <Button edits disabled={remove.isPending} onClick={() => remove.mutate()}>
              Yes, delete it
            </Button>
            <Button look="text" onClick={() => ask(false)}>
              Keep it
            </Button>
          </div>
        </section>
      )}
      {remove.isError && (
        <p role="alert" className="text-stop">
          {remove.error.message}
        </p>
      )}
    </div>
  );
}

function Actions({
  revision,
  held,
  onHold,
  latest,
  onBack,
}: {
  revision: Revision;
  held: number | null;
  onHold: (number: number | null) => void;
  latest: boolean;
  onBack: () => void;
}) {
  const mine = held === revision.number;
  return (
    <span className="space-x-4">
      <Button look="text" aria-pressed={mine} onClick={() => onHold(mine ? null : revision.number)}>
        {mine ? "stop comparing" : "compare with this"}
      </Button>
      {latest ? (
        <span className="lab inline-block min-w-[76px]">the latest</span>
      ) : (
        <Button edits look="text" className="min-w-[76px]" onClick={onBack}>
          go back to it
        </Button>
      )}
    </span>
  );
}

/** A figure, and how it stands to the one it is compared with. */
function Compared({
  now,
  then,
  print,
}: {
  now: number | null;
  then: number | null | undefined;
  print: (value: number) => string;
}) {
  const differs = now != null && then != null && now !== then;
  return (
    <td className="fig text-right whitespace-nowrap">
      {now == null ? "–" : print(now)}
      {differs && (
        <span className="lab block">
          {now > then ? "+" : "−"}
          {print(Math.abs(now - then))}
        </span>
      )}
    </td>
  );
}
