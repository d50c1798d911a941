import { type QueryClient, useQuery } from "@tanstack/react-query";
import { client, type Happened, type Schemas, taken } from "../api/client";
import { newTap } from "./context";

/** What a tap sends, now, by this device's clock. */
export function tapOf(
  about: Happened["about"],
  subject: string,
  kind: Happened["kind"],
  data: Record<string, unknown>,
  tap_id = newTap(),
): Schemas["EventIn"] {
  return { tap_id, about, subject, kind, happened_at: new Date().toISOString(), data, device: "" };
}

/** Asks anew for what an event of a job's runs has changed. */
export const againOf = (queries: QueryClient, jobId: string) =>
  Promise.all([
    queries.invalidateQueries({ queryKey: ["runs", jobId] }),
    queries.invalidateQueries({ queryKey: ["run"] }),
  ]);

/** One run whole, with the plan it froze; nothing while none is named. */
export function useRun(runId: string | undefined) {
  return useQuery({
    queryKey: ["run", runId],
    queryFn: () => taken(client.GET("/api/runs/{run_id}", { params: { path: { run_id: runId ?? "" } } })),
    enabled: !!runId,
  });
}

/** The runs of a job, the newest first. */
export function useRuns(jobId: string) {
  return useQuery({
    queryKey: ["runs", jobId],
    queryFn: () => taken(client.GET("/api/jobs/{job_id}/runs", { params: { path: { job_id: jobId } } })),
  });
}
