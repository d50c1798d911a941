import { useQuery } from "@tanstack/react-query";
import { client, taken } from "../api/client";

/** The runs of a job, the newest first. */
export function useRuns(jobId: string) {
  return useQuery({
    queryKey: ["runs", jobId],
    queryFn: () => taken(client.GET("/api/jobs/{job_id}/runs", { params: { path: { job_id: jobId } } })),
  });
}
