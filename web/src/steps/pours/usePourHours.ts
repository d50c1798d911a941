import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, type Pour, type PourHours, Refused, taken } from "../../api/client";
import { useJob } from "../../job/context";
import { useSettled } from "../../ui/useSettled";

const AGAIN = 20;
const AGAIN_MS = 1000;

/** A casting through its depth and its hours, as the document stands; the last picture stays until the next is there. */
export function usePourHours(pour: Pour | undefined): { hours: PourHours | null; waiting: boolean } {
  const { job, document, plan } = useJob();
  const { data, isFetching } = useQuery({
    // What its heat depends on: the casting itself, its resin, the room.
    queryKey: [
      "pour",
      job.id,
      useSettled(pour),
      document.resins,
      document.materials.resins,
      plan.conditions,
      plan.pours,
    ],
    queryFn: ({ signal }) =>
      taken(
        client.POST("/api/jobs/{job_id}/pour-hours", {
          params: { path: { job_id: job.id } },
          body: { document, pour_id: pour?.id ?? "" },
          signal,
        }),
      ),
    enabled: Boolean(pour),
    placeholderData: keepPreviousData,
    // Where others were served first, or the network was away for a moment.
    retry: (tried, error) => tried < AGAIN && error instanceof Refused && [0, 499, 503].includes(error.status),
    retryDelay: AGAIN_MS,
  });
  return { hours: data?.hours ?? null, waiting: isFetching && !data };
}
