import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, type JobSpec, type JobStrip, Refused, taken } from "../api/client";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { Pick } from "../ui/Pick";

const NOTHING = "nothing";

/** A new job: from nothing, from a copy of another, or from a file. */
export function NewJob({ shopId, jobs }: { shopId: string; jobs: JobStrip[] }) {
  const [name, setName] = useState("");
  const [from, setFrom] = useState(NOTHING);
  const go = useNavigate();
  const templates = useQuery({
    queryKey: ["templates", shopId],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/templates", { params: { path: { shop_id: shopId } } })),
  });
  const start = useMutation({
    mutationFn: (title: string) =>
      from === NOTHING
        ? taken(
            client.POST("/api/shops/{shop_id}/jobs", {
              params: { path: { shop_id: shopId } },
              body: { name: title } as JobSpec,
            }),
          )
        : taken(client.POST("/api/jobs/{job_id}/copy", { params: { path: { job_id: from } }, body: { name: title } })),
    onSuccess: (job) => go(`/jobs/${job.id}/measure`),
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    start.mutate(name.trim());
  }
  return (
    <section aria-label="Begin a job">
      <form onSubmit={submit}>
        <div className="grid items-end gap-2.5 sm:grid-cols-2">
          <div>
            <label htmlFor="new-job" className="lab mb-1 block">
              New job
            </label>
            <input
              id="new-job"
              value={name}
              maxLength={120}
              placeholder="its name"
              onChange={(event) => setName(event.target.value)}
              className="min-h-10 w-full rounded-(--radius) border border-rule bg-sheet px-3 hover:border-ink"
            />
          </div>
          <Pick
            label="Begin from"
            value={from}
            placeholder="nothing"
            options={[
              [NOTHING, "nothing"],
              ...(templates.data ?? []).map((template) => [template.id, template.name] as const),
              ...jobs.map((job) => [job.id, `a copy of ${job.name}`] as const),
            ]}
            onChange={setFrom}
          />
        </div>
        <div className="mt-2.5 flex flex-wrap gap-2.5">
          <Button edits look="main" type="submit">
            Start
          </Button>
          <FromFile shopId={shopId} />
          <Link
            to="/damage"
            className="inline-flex min-h-11 items-center rounded-(--radius) border border-rule bg-sheet px-3 hover:border-ink"
          >
            Begin a repair
          </Link>
          <Link
            to="/wrong"
            className="inline-flex min-h-11 items-center rounded-(--radius) border border-rule bg-sheet px-3 hover:border-ink"
          >
            What went wrong?
          </Link>
        </div>
        {start.isError && (
          <p role="alert" className="mt-1 text-[0.8125rem] text-stop">
            the name {start.error.message}
          </p>
        )}
      </form>
    </section>
  );
}

function FromFile({ shopId }: { shopId: string }) {
  const go = useNavigate();
  const load = useMutation({
    mutationFn: async (file: File) =>
      taken(
        client.POST("/api/shops/{shop_id}/jobs/from-file", {
          params: { path: { shop_id: shopId } },
          body: (await file.arrayBuffer()) as never,
          bodySerializer: (bytes: unknown) => bytes as ArrayBuffer,
          headers: { "Content-Type": "application/json" },
        }),
      ),
    onSuccess: (job) => go(`/jobs/${job.id}/measure`),
  });
  return (
    <div>
      <FilePick
        label="A job file"
        accept=".json,application/json"
        className="min-h-11"
        onFile={(file) => load.mutate(file)}
      >
        From a file
      </FilePick>
      {load.error instanceof Refused && (
        <div role="alert" className="mt-1 max-w-[340px] text-[0.8125rem] text-stop">
          {load.error.faults.slice(0, 4).map((fault) => (
            <p key={fault.path + fault.message}>
              {fault.path || "the file"} {fault.message}
            </p>
          ))}
          {load.error.faults.length > 4 && <p>and {load.error.faults.length - 4} more faults</p>}
        </div>
      )}
    </div>
  );
}
