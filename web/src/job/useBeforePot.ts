import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "react-router";
import { client, type StandingTick, taken } from "../api/client";
import { newTap, useJob } from "./context";

const keyOf = (name: string, jobId: string) => ["before-pot", jobId, name];

/** What is known of the job as it was last saved: read again whenever it is saved anew. */
function useSaved<T>(name: string, read: (path: { job_id: string }) => Promise<T>) {
  const { job } = useJob();
  return useQuery({
    queryKey: [...keyOf(name, job.id), job.revision, job.saved_at],
    queryFn: () => read({ job_id: job.id }),
    placeholderData: keepPreviousData,
    refetchOnMount: "always",
  });
}

/** Steps whose own edits change what is ready; the others read it once, when they are gone to. */
const LIVE = ["cut", "prepare", "ticket"];

export function useReady() {
  const { job } = useJob();
  const { step = "" } = useParams();
  return useQuery({
    queryKey: [...keyOf("ready", job.id), step, LIVE.includes(step) ? job.saved_at : ""],
    queryFn: () => taken(client.GET("/api/jobs/{job_id}/ready", { params: { path: { job_id: job.id } } })),
    placeholderData: keepPreviousData,
  });
}

export const useCut = () =>
  useSaved("cut", (path) => taken(client.GET("/api/jobs/{job_id}/cut", { params: { path } })));

export const usePrepare = () =>
  useSaved("prepare", (path) => taken(client.GET("/api/jobs/{job_id}/prepare", { params: { path } })));

export const useCorners = () =>
  useSaved("corners", (path) => taken(client.GET("/api/jobs/{job_id}/corners", { params: { path } })));

/** Ticks things as done, waived or not done after all. A tap that could not be sent can be tapped again. */
export function useTick(kind: StandingTick["kind"]) {
  const { job } = useJob();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ things, state, reason = "" }: { things: string[]; state: StandingTick["state"]; reason?: string }) =>
      taken(
        client.POST("/api/jobs/{job_id}/ticks", {
          params: { path: { job_id: job.id } },
          body: { tap_id: newTap(), kind, things, state, reason },
        }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: ["before-pot", job.id] }),
  });
}

/** Whether a thing counts as settled: done as it now is, or waived. */
export const settled = (tick: StandingTick | undefined) =>
  !!tick && (tick.state === "waived" || (tick.state === "done" && !tick.changed));
