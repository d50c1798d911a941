import { useCallback, useEffect, useRef, useState } from "react";
import { type Conditions, client, type Fault, type Job, type JobSpec, type Plan, Refused, taken } from "../api/client";

export type Saving = "saved" | "saving" | "refused" | "stale" | "unreachable";

export interface Draft {
  job: Job;
  document: JobSpec;
  plan: Plan;
  saving: Saving;
  faults: Fault[];
  tried: Conditions | null;
  edit: (change: (document: JobSpec) => JobSpec) => void;
  tryConditions: (conditions: Conditions | null) => void;
  /** Reads the plan anew, after the shop's day changed. */
  replan: () => Promise<void>;
  reload: () => void;
}

/** Quantities that may stand empty: a refused one is taken out of the document, its words stay in the field. */
const MAY_STAND_EMPTY = new Set([
  "width_m",
  "length_m",
  "area_m2",
  "radius_mm",
  "wanted_gel_min",
  "deadline_h",
  "largest_g",
  "cup_g",
]);

type Tree = { [key: string]: Tree | unknown };

function holderOf(document: JobSpec, path: string): { holder: Tree | undefined; field: string } {
  const steps = path.split(".");
  const field = steps.pop() ?? "";
  const start = document as unknown as Tree;
  return { holder: steps.reduce<Tree | undefined>((tree, step) => tree?.[step] as Tree | undefined, start), field };
}

/** Whether a field still shows the words that were refused: it is empty, and words are kept for it. */
function standsRefused(document: JobSpec, path: string): boolean {
  const { holder, field } = holderOf(document, path);
  const typed = holder?.typed as Record<string, string> | undefined;
  return holder?.[field] == null && !!typed?.[field];
}

/** The document without the quantities at these paths, so that one bad field does not hold up the rest. */
function withoutRefused(document: JobSpec, faults: Fault[]): JobSpec | null {
  const copy = structuredClone(document);
  const emptied = faults.filter(({ path }) => {
    const { holder, field } = holderOf(copy, path);
    if (!holder || !MAY_STAND_EMPTY.has(field) || holder[field] == null) return false;
    holder[field] = null;
    return true;
  });
  return faults.length > 0 && emptied.length === faults.length ? copy : null;
}

const SETTLE_MS = 120;
const RETRY_MS = 3000;
const kept = (jobId: string) => `inch-cradle.draft.${jobId}`;

function readKept(job: Job): JobSpec | null {
  const text = localStorage.getItem(kept(job.id));
  if (!text) return null;
  const draft = JSON.parse(text) as { revision: number; document: JobSpec };
  return draft.revision === job.revision ? draft.document : null;
}

/** A job as it is being edited. Edits save themselves, one save at a time; what is not saved stays in the browser. */
export function useDraft(first: Job, reload: () => void): Draft {
  const [job, setJob] = useState(first);
  const [document, setDocument] = useState<JobSpec>(() => readKept(first) ?? first.document);
  const [plan, setPlan] = useState(first.plan);
  const [tried, setTried] = useState<{ conditions: Conditions; plan: Plan | null } | null>(null);
  const [saving, setSaving] = useState<Saving>("saved");
  const [faults, setFaults] = useState<Fault[]>([]);
  const latest = useRef(document);
  const revision = useRef(first.revision);
  const busy = useRef(false);
  const timer = useRef(0);
  const trial = useRef(0);

  const save = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    const sent = latest.current;
    try {
      const answer = await taken(
        client.PUT("/api/jobs/{job_id}", {
          params: { path: { job_id: first.id } },
          body: { revision: revision.current, document: sent },
        }),
      );
      revision.current = answer.revision;
      setJob(answer);
      setPlan(answer.plan);
      setFaults((held) => held.filter(({ path }) => standsRefused(answer.document, path)));
      busy.current = false;
      if (latest.current !== sent) return void save();
      localStorage.removeItem(kept(first.id));
      setSaving("saved");
    } catch (error) {
      busy.current = false;
      const refused = error as Refused;
      if (!(error instanceof Refused)) throw error;
      if (latest.current !== sent && refused.status === 422) return void save();
      setFaults(refused.faults);
      const rest = refused.status === 422 ? withoutRefused(sent, refused.faults) : null;
      if (rest) {
        latest.current = rest;
        setDocument(rest);
        return void save();
      }
      setSaving(refused.status === 409 ? "stale" : refused.status === 422 ? "refused" : "unreachable");
      if (refused.status !== 409 && refused.status !== 422) timer.current = window.setTimeout(save, RETRY_MS);
    }
  }, [first.id]);

  const edit = useCallback(
    (change: (document: JobSpec) => JobSpec) => {
      latest.current = change(latest.current);
      setDocument(latest.current);
      setSaving("saving");
      localStorage.setItem(kept(first.id), JSON.stringify({ revision: revision.current, document: latest.current }));
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(save, SETTLE_MS);
    },
    [first.id, save],
  );

  useEffect(() => {
    if (latest.current !== first.document) edit((document) => document);
    return () => window.clearTimeout(timer.current);
  }, [first.document, edit]);

  const tryConditions = useCallback(
    (conditions: Conditions | null) => {
      const mine = ++trial.current;
      if (!conditions) return setTried(null);
      setTried((before) => ({ conditions, plan: before?.plan ?? null }));
      taken(
        client.POST("/api/jobs/{job_id}/what-if", {
          params: { path: { job_id: first.id } },
          body: { document: latest.current, conditions },
        }),
      ).then(
        (answer) => mine === trial.current && setTried({ conditions, plan: answer }),
        () => mine === trial.current && setTried(null),
      );
    },
    [first.id],
  );

  const replan = useCallback(async () => {
    const answer = await taken(client.GET("/api/jobs/{job_id}/plan", { params: { path: { job_id: first.id } } }));
    setPlan(answer);
    setTried(null);
  }, [first.id]);

  return {
    job,
    document,
    plan: tried?.plan ?? plan,
    tried: tried?.conditions ?? null,
    saving,
    faults,
    edit,
    tryConditions,
    replan,
    reload: () => {
      localStorage.removeItem(kept(first.id));
      reload();
    },
  };
}
