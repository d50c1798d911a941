import { type Conflicts, client, type Fault, type Job, type JobSpec, type Plan, taken } from "../../api/client";
import type { Unsaved } from "./kept";

/** How a save was answered; `failed` tells why it could not be written, nothing where no answer came. */
export type Answer =
  | { took: Job }
  | { conflicts: Conflicts }
  | { refused: Fault[] }
  | { forbidden: Fault[] }
  | { failed: string };

/** What a draft asks of the server. */
export interface Server {
  save(unsaved: Unsaved): Promise<Answer>;
  /** The plan of a document, in a room that is tried where one is given; null where none came. */
  whatIf(document: JobSpec, room_c: number | null): Promise<Plan | null>;
  plan(): Promise<Plan>;
}

export function serverOf(jobId: string): Server {
  const params = { path: { job_id: jobId } };
  return {
    async save({ base, document, made_from }) {
      const put = client.PUT("/api/jobs/{job_id}", { params, body: { base, document, made_from } });
      const answer = await put.catch(() => null);
      if (!answer) return { failed: "" };
      const { data, error, response } = answer;
      if (data) return { took: data };
      if (response.status === 409) return { conflicts: error as unknown as Conflicts };
      const problems = (error as { problems?: Fault[] } | undefined)?.problems ?? [];
      if (response.status === 403) return { forbidden: problems };
      return response.status === 422 ? { refused: problems } : { failed: problems[0]?.message ?? "" };
    },
    whatIf(document, room_c) {
      const body = { document, room_c, leaner: false };
      return taken(client.POST("/api/jobs/{job_id}/what-if", { params, body })).catch(() => null);
    },
    plan: () => taken(client.GET("/api/jobs/{job_id}/plan", { params })),
  };
}
