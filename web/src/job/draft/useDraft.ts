import { useCallback, useEffect, useState, useSyncExternalStore } from "react";
import type { Conflicts, Fault, Job, JobSpec, Plan } from "../../api/client";
import { useMayWrite } from "../../shop";
import { keptInBrowser, unsavedOf } from "./kept";
import { RoomTrial } from "./RoomTrial";
import { Saver, type Saving } from "./Saver";
import { serverOf } from "./server";

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

/** How soon a rough plan is asked for again. */
const ROUGH_MS = 600;

const readOnly = () => undefined;

/** A job as it is being edited: what is in hand, what is tried, and what can be done with it. */
export function useDraft(first: Job): Draft {
  const mayWrite = useMayWrite();
  const [{ server, saver, trial }] = useState(() => {
    const server = serverOf(first.id);
    const saver = new Saver(first, unsavedOf(first), server, keptInBrowser(first.id));
    return { server, saver, trial: new RoomTrial(server, saver.newest) };
  });
  const held = useSyncExternalStore(saver.follow, saver.read);
  const tried = useSyncExternalStore(trial.follow, trial.read);

  useEffect(() => {
    saver.begin();
    return () => saver.end();
  }, [saver]);

  // A plan that is still rough is asked for again: by then its table of the heat model may be built.
  const rough = held.plan.resins.some((told) => told.chemistry.rough) && held.plan;
  useEffect(() => {
    if (!rough) return;
    const again = window.setTimeout(async () => {
      const of = saver.newest();
      const plan = await server.whatIf(of, null);
      if (plan) saver.planned(of, plan);
    }, ROUGH_MS);
    return () => window.clearTimeout(again);
  }, [rough, saver, server]);

  const replan = useCallback(async () => {
    await saver.replan();
    trial.tryRoom(null);
  }, [saver, trial]);

  return {
    ...held,
    plan: tried?.plan ?? held.plan,
    triedRoomC: tried?.room_c ?? null,
    edit: mayWrite ? saver.edit : readOnly,
    newest: saver.newest,
    tryRoom: trial.tryRoom,
    replan,
    adopt: saver.adopt,
    undo: held.mayUndo ? saver.undo : null,
    redo: held.mayRedo ? saver.redo : null,
    resolve: saver.resolve,
  };
}
