import type { Conflicts, Fault, Job, JobSpec, Plan } from "../../api/client";
import { History } from "./History";
import { type Keeping, type MadeFrom, madeFrom, type Unsaved } from "./kept";
import { same, standsRefused, withoutRefused } from "./refused";
import { Store } from "./Store";
import type { Server } from "./server";

export type Saving = "saved" | "saving" | "refused" | "forbidden" | "conflict" | "unreachable" | "unwritten";

const RETRY_MS = 3000;

export interface Held {
  job: Job;
  document: JobSpec;
  plan: Plan;
  saving: Saving;
  /** What the server said that could not save. */
  why: string;
  faults: Fault[];
  conflicts: Conflicts | null;
  mayUndo: boolean;
  mayRedo: boolean;
}

/**
 * A job as it is being edited. Edits save themselves, one save at a time; what is not saved stays in the browser.
 * Each save names the document its edits were made from, so that the server can bring in what others changed.
 */
export class Saver extends Store<Held> {
  readonly #server: Server;
  readonly #keeping: Keeping;
  readonly #history = new History<JobSpec>();
  readonly #unsavedAtFirst: boolean;
  #base: JobSpec;
  #from: MadeFrom;
  #busy = false;
  #due = false;
  #retry: ReturnType<typeof setTimeout> | undefined;
  /** The document that was planned ahead of its saving, if any. */
  #ahead: JobSpec | null = null;

  constructor(job: Job, unsaved: Unsaved, server: Server, keeping: Keeping) {
    super({
      job,
      document: unsaved.document,
      plan: job.plan,
      saving: "saved",
      why: "",
      faults: [],
      conflicts: null,
      mayUndo: false,
      mayRedo: false,
    });
    this.#server = server;
    this.#keeping = keeping;
    this.#base = unsaved.base;
    this.#from = unsaved.made_from ?? null;
    this.#unsavedAtFirst = unsaved.document !== unsaved.base;
  }

  /** The document with the newest edit, which a screen may not have drawn yet. */
  readonly newest = (): JobSpec => this.read().document;

  /** Sends on what an earlier visit could not save. */
  begin(): void {
    if (this.#unsavedAtFirst) this.#put(this.newest());
  }

  end(): void {
    clearTimeout(this.#retry);
  }

  /** Edits the document; `planned` where the server has already planned what comes of it. */
  readonly edit = (change: (document: JobSpec) => JobSpec, planned?: Plan): void => {
    this.#history.edited(this.newest(), Date.now());
    this.#put(change(this.newest()));
    if (planned) {
      this.#ahead = this.newest();
      this.#change({ plan: planned });
    }
  };

  readonly undo = (): void => {
    const before = this.#history.back(this.newest());
    if (before) this.#put(before);
  };

  readonly redo = (): void => {
    const after = this.#history.on(this.newest());
    if (after) this.#put(after);
  };

  /** Makes another revision's document the one in hand, as the server answered it. */
  readonly adopt = (answer: Job): void => {
    const before = this.newest();
    this.#take(answer, answer.document);
    this.#base = answer.document;
    this.#from = madeFrom(answer);
    this.#history.replaced(before);
    this.#change({ document: answer.document });
  };

  readonly resolve = (chosen: JobSpec): void => {
    const { conflicts } = this.read();
    if (!conflicts) return;
    this.#base = conflicts.latest;
    this.#from = null;
    this.#history.forget();
    this.#change({ conflicts: null });
    this.#put(chosen);
  };

  /** A plan that came by itself of what was in hand then; one of an older document is left. */
  planned(document: JobSpec, plan: Plan): void {
    if (this.newest() === document) this.#change({ plan });
  }

  /** Reads the plan anew, after the shop's day changed. */
  async replan(): Promise<void> {
    let of: JobSpec;
    let plan: Plan;
    // An answer that a save has overtaken is of an older job.
    do {
      of = this.#base;
      plan = await this.#server.plan();
    } while (of !== this.#base);
    this.#change({ plan });
  }

  #change(change: Partial<Held>): void {
    const { mayGoBack: mayUndo, mayGoOn: mayRedo } = this.#history;
    this.set({ ...this.read(), ...change, mayUndo, mayRedo });
  }

  /** Puts a document in hand and sends it on. */
  #put(document: JobSpec): void {
    clearTimeout(this.#retry);
    // The edits of one press come together, and are on their way before the screen is drawn anew.
    if (!this.#due) {
      this.#due = true;
      queueMicrotask(() => {
        this.#due = false;
        void this.#save();
      });
    }
    this.#change({ document, saving: "saving" });
    this.#keeping.keep({ base: this.#base, document, made_from: this.#from });
  }

  async #save(): Promise<void> {
    if (this.#busy) return;
    this.#busy = true;
    const sent = this.newest();
    const answer = await this.#server.save({ base: this.#base, document: sent, made_from: this.#from });
    this.#busy = false;
    if ("took" in answer) {
      if (!this.#take(answer.took, sent)) return this.#save();
      this.#keeping.letGo();
      return this.#change({ saving: "saved" });
    }
    if ("conflicts" in answer) return this.#change({ conflicts: answer.conflicts, saving: "conflict" });
    if ("forbidden" in answer) return this.#change({ faults: answer.forbidden, saving: "forbidden" });
    if ("failed" in answer) {
      this.#retry = setTimeout(() => void this.#save(), RETRY_MS);
      return this.#change({ why: answer.failed, saving: answer.failed ? "unwritten" : "unreachable" });
    }
    if (this.newest() !== sent) return this.#save();
    const faults = answer.refused;
    const rest = withoutRefused(sent, faults);
    if (!rest) {
      const why = faults.find(({ path }) => !path)?.message ?? "";
      return this.#change({ faults, why, saving: "refused" });
    }
    this.#change({ faults, document: rest });
    return this.#save();
  }

  /** Takes in the answer to a save; whether all that is in hand was in it. */
  #take(answer: Job, sent: JobSpec): boolean {
    const inHand = this.newest();
    const faults = this.read().faults.filter(({ path }) => standsRefused(answer.document, path));
    // A plan of what was typed since stands: it is newer than this one.
    const plan = inHand === sent || this.#ahead !== inHand ? answer.plan : this.read().plan;
    if (inHand !== sent) {
      // More was typed meanwhile, on top of what was sent: that is what it was made from.
      this.#base = sent;
      this.#from = null;
      this.#change({ job: answer, plan, faults });
      return false;
    }
    this.#base = answer.document;
    this.#from = madeFrom(answer);
    // Overrides come back signed; anything else that differs was somebody else's.
    if (!same({ ...answer.document, overrides: null }, { ...sent, overrides: null })) this.#history.forget();
    const document = same(answer.document, sent) ? sent : answer.document;
    this.#change({ job: answer, plan, faults, document });
    return true;
  }
}
