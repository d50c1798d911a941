import { useCallback, useEffect, useRef, useState } from "react";
import { type Conflicts, client, type Fault, type Job, type JobSpec, type Plan, Refused, taken } from "../api/client";
import mayStandEmpty from "../api/may_stand_empty.json";
import { useMayWrite } from "../shop";
import { keptAt } from "./olderDraft";

export type Saving = "saved" | "saving" | "refused" | "forbidden" | "conflict" | "unreachable" | "unwritten";

export interface Draft {
  job: Job;
  document: JobSpec;
  plan: Plan;
  saving: Saving;
  /** What the server said that could not save. */
  why: string;
  faults: Fault[];
  /** The room temperature being tried, before anyone keeps it. */
  triedRoomC: number | null;
  /** Edits the document; `plan` where the server has already planned what comes of it. */
  edit: (change: (document: JobSpec) => JobSpec, plan?: Plan) => void;
  /** The document with the newest edit, which a screen may not have drawn yet. */
  newest: () => JobSpec;
  /** Tries a room temperature on the whole job; null springs back. */
  tryRoom: (room_c: number | null) => void;
  /** Reads the plan anew, after the shop's day changed. */
  replan: () => Promise<void>;
  /** Makes another revision's document the one in hand, as the server answered it. */
  adopt: (job: Job) => void;
  undo: (() => void) | null;
  redo: (() => void) | null;
  conflicts: Conflicts | null;
  resolve: (document: JobSpec) => void;
}

/** Quantities that may stand empty: a refused one is taken out of the document, its words stay in the field. */
const MAY_STAND_EMPTY = new Set(mayStandEmpty);

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

const RETRY_MS = 3000;
/** How soon a rough plan is asked for again. */
const ROUGH_MS = 600;
/** Edits closer together than this are undone together. */
const BURST_MS = 700;
const MOST_UNDONE = 100;

/** The revision that the base stands in, as it was after so many saves; none where more was typed while it was saved. */
type MadeFrom = { revision: number; edit: number } | null;

interface Kept {
  base: JobSpec;
  document: JobSpec;
  made_from?: MadeFrom;
}

const madeFrom = ({ revision, edit }: Job): MadeFrom => ({ revision, edit });

function readKept(job: Job): Kept {
  const text = localStorage.getItem(keptAt(job.id));
  return text ? (JSON.parse(text) as Kept) : { base: job.document, document: job.document, made_from: madeFrom(job) };
}

/** Whether two documents, or pieces of them, say the same; what is left out is null. */
export function same(one: unknown, other: unknown): boolean {
  if (one === other) return true;
  if (typeof one !== "object" || typeof other !== "object" || !one || !other) return false;
  const [a, b] = [one as Tree, other as Tree];
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...keys].every((key) => same(a[key] ?? null, b[key] ?? null));
}

/**
 * A job as it is being edited. Edits save themselves, one save at a time; what is not saved stays in the browser.
 * Each save names the document its edits were made from, so that the server can bring in what others changed.
 */
export function useDraft(first: Job): Draft {
  const mayWrite = useMayWrite();
  const [start] = useState(() => readKept(first));
  const [job, setJob] = useState(first);
  const [document, setDocument] = useState<JobSpec>(start.document);
  const [plan, setPlan] = useState(first.plan);
  const [tried, setTried] = useState<{ room_c: number; plan: Plan | null } | null>(null);
  const [saving, setSaving] = useState<Saving>("saved");
  const [why, setWhy] = useState("");
  const [faults, setFaults] = useState<Fault[]>([]);
  const latest = useRef(document);
  const base = useRef(start.base);
  const from = useRef<MadeFrom>(start.made_from ?? null);
  const past = useRef<JobSpec[]>([]);
  const future = useRef<JobSpec[]>([]);
  const lastEdit = useRef(0);
  const [conflicts, setConflicts] = useState<Conflicts | null>(null);
  const busy = useRef(false);
  const timer = useRef(0);
  const due = useRef(false);
  /** The document that was planned ahead of its saving, if any. */
  const ahead = useRef<JobSpec | null>(null);
  /** The temperature wanted by now, and whether an answer is under way: one question at a time, so none is overtaken. */
  const wanted = useRef<number | null>(null);
  const asking = useRef(false);

  const show = useCallback((next: JobSpec) => {
    latest.current = next;
    setDocument(next);
  }, []);

  const take = useCallback(
    (answer: Job, sent: JobSpec) => {
      setJob(answer);
      // A plan of what was typed since stands: it is newer than this one.
      if (latest.current === sent || ahead.current !== latest.current) setPlan(answer.plan);
      setFaults((held) => held.filter(({ path }) => standsRefused(answer.document, path)));
      // Overrides come back signed; anything else that differs was somebody else's.
      const others = !same({ ...answer.document, overrides: null }, { ...sent, overrides: null });
      if (latest.current !== sent) {
        // More was typed meanwhile, on top of what was sent: that is what it was made from.
        base.current = sent;
        from.current = null;
        return false;
      }
      base.current = answer.document;
      from.current = madeFrom(answer);
      if (!same(answer.document, sent)) show(answer.document);
      if (others) {
        past.current = [];
        future.current = [];
      }
      return true;
    },
    [show],
  );

  const save = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    const sent = latest.current;
    try {
      const { data, error, response } = await client
        .PUT("/api/jobs/{job_id}", {
          params: { path: { job_id: first.id } },
          body: { base: base.current, document: sent, made_from: from.current },
        })
        .catch(() => {
          throw new Refused(0, []);
        });
      busy.current = false;
      if (response.status === 409) {
        setConflicts(error as unknown as Conflicts);
        return setSaving("conflict");
      }
      if (!data) throw new Refused(response.status, (error as { problems?: Fault[] })?.problems ?? []);
      if (!take(data, sent)) return void save();
      localStorage.removeItem(keptAt(first.id));
      setSaving("saved");
    } catch (error) {
      busy.current = false;
      if (!(error instanceof Refused)) throw error;
      if (error.status === 403) {
        setFaults(error.faults);
        return setSaving("forbidden");
      }
      if (error.status !== 422) {
        const said = error.faults[0]?.message;
        setWhy(said ?? "");
        setSaving(said ? "unwritten" : "unreachable");
        timer.current = window.setTimeout(save, RETRY_MS);
        return;
      }
      if (latest.current !== sent) return void save();
      setFaults(error.faults);
      const rest = withoutRefused(sent, error.faults);
      if (!rest) {
        setWhy(error.faults.find(({ path }) => !path)?.message ?? "");
        return setSaving("refused");
      }
      show(rest);
      return void save();
    }
  }, [first.id, show, take]);

  /** Puts a document in hand and sends it on. */
  const put = useCallback(
    (next: JobSpec) => {
      window.clearTimeout(timer.current);
      // The edits of one press come together, and are on their way before the screen is drawn anew.
      if (!due.current) {
        due.current = true;
        queueMicrotask(() => {
          due.current = false;
          void save();
        });
      }
      show(next);
      setSaving("saving");
      localStorage.setItem(
        keptAt(first.id),
        JSON.stringify({ base: base.current, document: next, made_from: from.current } satisfies Kept),
      );
    },
    [first.id, save, show],
  );

  const edit = useCallback(
    (change: (document: JobSpec) => JobSpec, planned?: Plan) => {
      if (!mayWrite) return;
      const now = Date.now();
      if (now - lastEdit.current > BURST_MS) past.current = [...past.current, latest.current].slice(-MOST_UNDONE);
      lastEdit.current = now;
      future.current = [];
      put(change(latest.current));
      if (planned) {
        ahead.current = latest.current;
        setPlan(planned);
      }
    },
    [put, mayWrite],
  );

  const step = useCallback(
    (from: React.RefObject<JobSpec[]>, to: React.RefObject<JobSpec[]>) => {
      const next = from.current.at(-1);
      if (!next) return;
      from.current = from.current.slice(0, -1);
      to.current = [...to.current, latest.current];
      lastEdit.current = 0;
      put(next);
    },
    [put],
  );

  // What an earlier visit could not save is sent on arrival.
  useEffect(() => {
    if (start.document !== start.base) put(start.document);
    return () => window.clearTimeout(timer.current);
  }, [start, put]);

  const ask = useCallback(async () => {
    if (asking.current) return;
    asking.current = true;
    while (wanted.current !== null) {
      const room_c = wanted.current;
      const answer = await taken(
        client.POST("/api/jobs/{job_id}/what-if", {
          params: { path: { job_id: first.id } },
          body: { document: latest.current, room_c, leaner: false },
        }),
      ).catch(() => null);
      if (wanted.current === null) break;
      setTried((now) => now && { room_c: now.room_c, plan: answer ?? now.plan });
      if (wanted.current === room_c) break;
    }
    asking.current = false;
  }, [first.id]);

  const tryRoom = useCallback(
    (room_c: number | null) => {
      wanted.current = room_c;
      if (room_c === null) return setTried(null);
      setTried((before) => ({ room_c, plan: before?.plan ?? null }));
      void ask();
    },
    [ask],
  );

  // A plan that is still rough is asked for again: by then its table of the heat model may be built.
  useEffect(() => {
    if (!plan.resins.some((told) => told.chemistry.rough)) return;
    const again = window.setTimeout(async () => {
      const sent = latest.current;
      const answer = await taken(
        client.POST("/api/jobs/{job_id}/what-if", {
          params: { path: { job_id: first.id } },
          body: { document: sent, room_c: null, leaner: false },
        }),
      ).catch(() => null);
      if (answer && latest.current === sent) setPlan(answer);
    }, ROUGH_MS);
    return () => window.clearTimeout(again);
  }, [plan, first.id]);

  const replan = useCallback(async () => {
    let of: JobSpec;
    let answer: Plan;
    // An answer that a save has overtaken is of an older job.
    do {
      of = base.current;
      answer = await taken(client.GET("/api/jobs/{job_id}/plan", { params: { path: { job_id: first.id } } }));
    } while (of !== base.current);
    setPlan(answer);
    tryRoom(null);
  }, [first.id, tryRoom]);

  return {
    job,
    document,
    plan: tried?.plan ?? plan,
    triedRoomC: tried?.room_c ?? null,
    saving,
    why,
    faults,
    edit,
    newest: () => latest.current,
    tryRoom,
    replan,
    adopt: (answer) => {
      take(answer, answer.document);
      base.current = answer.document;
      from.current = madeFrom(answer);
      past.current = [...past.current, latest.current];
      show(answer.document);
    },
    undo: past.current.length ? () => step(past, future) : null,
    redo: future.current.length ? () => step(future, past) : null,
    conflicts,
    resolve: (chosen) => {
      if (!conflicts) return;
      base.current = conflicts.latest;
      from.current = null;
      past.current = [];
      future.current = [];
      setConflicts(null);
      put(chosen);
    },
  };
}
