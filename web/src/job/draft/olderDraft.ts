import { client, type Job } from "../../api/client";
import { keptAt } from "./kept";

interface OlderKept {
  base: { version: number };
  document: { version: number };
  made_from?: { revision: number; edit: number } | null;
}

/**
 * What was typed before the program was made newer, and could not be saved then, is sent before the job is shown: the
 * server brings it up to this version. Where it refuses, the words stay kept under another name, and the job opens.
 */
export async function withOlderDraft(job: Job): Promise<Job> {
  const text = localStorage.getItem(keptAt(job.id));
  const kept = text ? (JSON.parse(text) as OlderKept) : null;
  if (!text || !kept || kept.document.version === job.document.version) return job;
  const { data } = await client.PUT("/api/jobs/{job_id}", {
    params: { path: { job_id: job.id } },
    body: { ...(kept as unknown as { base: Job["document"]; document: Job["document"] }), made_from: kept.made_from },
  });
  if (!data) localStorage.setItem(`${keptAt(job.id)}.${kept.document.version}`, text);
  localStorage.removeItem(keptAt(job.id));
  return data ?? job;
}
