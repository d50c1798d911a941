import type { Job, JobSpec } from "../../api/client";

/** The revision that the base stands in, as it was after so many saves; none where more was typed while it was saved. */
export type MadeFrom = { revision: number; edit: number } | null;

/** What is typed and not saved yet, with the document it was made from. */
export interface Unsaved {
  base: JobSpec;
  document: JobSpec;
  made_from?: MadeFrom;
}

export const madeFrom = ({ revision, edit }: Job): MadeFrom => ({ revision, edit });

export const keptAt = (jobId: string) => `inch-cradle.draft.${jobId}`;

/** Where a browser keeps what is not saved, so that nothing typed is lost with the page. */
export interface Keeping {
  keep(unsaved: Unsaved): void;
  letGo(): void;
}

export const keptInBrowser = (jobId: string): Keeping => ({
  keep: (unsaved) => localStorage.setItem(keptAt(jobId), JSON.stringify(unsaved)),
  letGo: () => localStorage.removeItem(keptAt(jobId)),
});

/** What an earlier visit kept; else the job as it was read. */
export function unsavedOf(job: Job): Unsaved {
  const text = localStorage.getItem(keptAt(job.id));
  return text
    ? (JSON.parse(text) as Unsaved)
    : { base: job.document, document: job.document, made_from: madeFrom(job) };
}
