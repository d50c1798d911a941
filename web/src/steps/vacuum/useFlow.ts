import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { client, type FlowLine, type FlowMap, type Infusion, Refused, type SecondFeed, taken } from "../../api/client";
import { useJob } from "../../job/context";

const AGAIN = 20;
const AGAIN_MS = 1000;

export interface Flowing {
  map: FlowMap;
  told: Infusion;
  second?: SecondFeed | null;
}

/** How an infused part fills as the document stands, and roughly, while its lines are tried. */
export function useFlow(partId: string) {
  const { job, document, plan } = useJob();
  const part = document.parts.find((each) => each.id === partId);
  const told = plan.infusions?.find((each) => each.id === partId);
  const { data } = useQuery({
    queryKey: ["flow", job.id, partId, told && [told.full_s, told.outline, told.lines, told.holes]],
    queryFn: ({ signal }) =>
      taken(
        client.POST("/api/jobs/{job_id}/flow", {
          params: { path: { job_id: job.id } },
          body: { document, part_id: partId, rough: false },
          signal,
        }),
      ),
    enabled: Boolean(part && told),
    placeholderData: keepPreviousData,
    // Where others were served first, or the network was away for a moment.
    retry: (tried, error) => tried < AGAIN && error instanceof Refused && [0, 499, 503].includes(error.status),
    retryDelay: AGAIN_MS,
  });
  const [tried, setTried] = useState<Flowing | null>(null);
  const [refused, refuse] = useState("");
  const waiting = useRef<FlowLine[] | null>(null);
  const busy = useRef(false);
  // What was asked before the last was forgotten is answered too late, and says nothing any more.
  const turn = useRef(0);

  const ask = async () => {
    if (busy.current) return;
    busy.current = true;
    while (waiting.current) {
      const lines: FlowLine[] = waiting.current;
      waiting.current = null;
      const mine = turn.current;
      try {
        const answer = await taken(
          client.POST("/api/jobs/{job_id}/flow", {
            params: { path: { job_id: job.id } },
            body: { document, part_id: partId, lines, rough: true },
          }),
        );
        if (mine !== turn.current) continue;
        refuse("");
        if (answer.flow) setTried(answer.flow);
      } catch (error) {
        if (mine !== turn.current) continue;
        refuse(error instanceof Refused && error.status === 422 ? error.message : "");
      }
    }
    busy.current = false;
  };
  const forget = () => {
    turn.current += 1;
    waiting.current = null;
    setTried(null);
    refuse("");
  };
  /** Other lines, worked out roughly; of many in a row the last counts. */
  const attempt = (lines: FlowLine[]) => {
    waiting.current = lines;
    void ask();
  };
  return { flow: data?.flow ?? null, tried, refused, attempt, forget };
}
