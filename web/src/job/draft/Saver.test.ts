import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Job, JobSpec, Plan } from "../../api/client";
import type { Unsaved } from "./kept";
import { Saver } from "./Saver";
import type { Answer, Server } from "./server";

const document = (name: string, width_m: number | null = 1) =>
  ({
    name,
    parts: [{ id: "p", shape: { kind: "rectangle", width_m, typed: { width_m: "12000" } } }],
  }) as unknown as JobSpec;
const planOf = (name: string) => ({ of: name }) as unknown as Plan;
const job = (name: string, edit: number) =>
  ({ id: "j", revision: 1, edit, document: document(name), plan: planOf(name) }) as unknown as Job;

/** A server that answers when it is told to, and a browser that keeps. */
function bench(first: Unsaved = { base: document("first"), document: document("first") }) {
  const asked: { sent: Unsaved; answer: (answer: Answer) => void }[] = [];
  const plans: ((plan: Plan) => void)[] = [];
  const server: Server = {
    save: (sent) => new Promise((answer) => asked.push({ sent, answer })),
    whatIf: async () => null,
    plan: () => new Promise((answer) => plans.push(answer)),
  };
  const kept: { now: Unsaved | null } = { now: null };
  const keeping = {
    keep: (unsaved: Unsaved) => {
      kept.now = unsaved;
    },
    letGo: () => {
      kept.now = null;
    },
  };
  const start = first.document === first.base ? { ...first, base: first.document } : first;
  return { saver: new Saver(job("first", 0), start, server, keeping), asked, plans, kept };
}

const settle = () => vi.advanceTimersByTimeAsync(0);
const rename = (name: string) => (before: JobSpec) => ({ ...before, name });

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

const alike = document("first");
const fresh = () => bench({ base: alike, document: alike });

test("the edits of one press are one save, and are kept until it is answered", async () => {
  const { saver, asked, kept } = fresh();
  saver.edit(rename("a"));
  saver.edit(rename("ab"));
  await settle();
  expect(asked.map(({ sent }) => sent.document.name)).toEqual(["ab"]);
  expect(kept.now?.document.name).toBe("ab");
  asked[0]?.answer({ took: job("ab", 1) });
  await settle();
  expect(saver.read().saving).toBe("saved");
  expect(saver.read().plan).toEqual(planOf("ab"));
  expect(kept.now).toBeNull();
});

test("one save at a time: what is typed meanwhile goes next, made from what was sent", async () => {
  const { saver, asked, kept } = fresh();
  saver.edit(rename("a"));
  await settle();
  saver.edit(rename("ab"));
  await settle();
  expect(asked).toHaveLength(1);
  asked[0]?.answer({ took: job("a", 1) });
  await settle();
  expect(asked[1]?.sent).toMatchObject({ base: { name: "a" }, document: { name: "ab" }, made_from: null });
  expect(saver.read().document.name).toBe("ab");
  expect(kept.now?.document.name).toBe("ab");
  asked[1]?.answer({ took: job("ab", 2) });
  await settle();
  saver.edit(rename("abc"));
  await settle();
  expect(asked[2]?.sent.made_from).toEqual({ revision: 1, edit: 2 });
});

test("what others changed comes in, and their change is not undone", async () => {
  const { saver, asked } = fresh();
  saver.edit(rename("mine"));
  await settle();
  expect(saver.read().mayUndo).toBe(true);
  asked[0]?.answer({ took: { ...job("mine", 1), document: document("mine", 2) } });
  await settle();
  expect(saver.read().document).toEqual(document("mine", 2));
  expect(saver.read().mayUndo).toBe(false);
});

test("a refused measure is emptied and the rest saved; nothing that may stand empty is left wrong", async () => {
  const { saver, asked } = fresh();
  saver.edit(() => document("deck", 12000));
  await settle();
  const faults = [{ path: "parts.0.shape.width_m", message: "must be 100 or less" }];
  asked[0]?.answer({ refused: faults });
  await settle();
  expect(asked[1]?.sent.document).toEqual(document("deck", null));
  expect(saver.read().faults).toEqual(faults);
});

test("a fault of no field is said, and what was typed is kept", async () => {
  const { saver, asked, kept } = fresh();
  saver.edit(rename(""));
  await settle();
  asked[0]?.answer({ refused: [{ path: "", message: "an id stands twice" }] });
  await settle();
  expect(saver.read()).toMatchObject({ saving: "refused", why: "an id stands twice" });
  expect(kept.now?.document.name).toBe("");
});

test("a server that is away is asked again, without a press", async () => {
  const { saver, asked } = fresh();
  saver.edit(rename("a"));
  await settle();
  asked[0]?.answer({ failed: "" });
  await settle();
  expect(saver.read().saving).toBe("unreachable");
  await vi.advanceTimersByTimeAsync(3000);
  expect(asked).toHaveLength(2);
  asked[1]?.answer({ failed: "the disk is full" });
  await settle();
  expect(saver.read()).toMatchObject({ saving: "unwritten", why: "the disk is full" });
  saver.end();
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked).toHaveLength(2);
});

test("a conflict waits for a choice, which is made from the other's document", async () => {
  const { saver, asked } = fresh();
  saver.edit(rename("mine"));
  await settle();
  asked[0]?.answer({ conflicts: { latest: document("theirs") } as never });
  await settle();
  expect(saver.read().saving).toBe("conflict");
  saver.resolve(document("mine"));
  await settle();
  expect(asked[1]?.sent).toMatchObject({ base: { name: "theirs" }, document: { name: "mine" }, made_from: null });
  expect(saver.read().conflicts).toBeNull();
});

test("what an earlier visit could not save is sent on arrival", async () => {
  const { saver, asked } = bench({ base: document("first"), document: document("typed in the tunnel") });
  saver.begin();
  await settle();
  expect(asked[0]?.sent.document.name).toBe("typed in the tunnel");
});

test("nothing is sent on arrival where nothing was typed", async () => {
  const { saver, asked } = fresh();
  saver.begin();
  await settle();
  expect(asked).toHaveLength(0);
});

test("going back and on again saves what is shown", async () => {
  const { saver, asked } = fresh();
  saver.edit(rename("a"));
  saver.undo();
  expect(saver.read()).toMatchObject({ document: { name: "first" }, mayUndo: false, mayRedo: true });
  saver.redo();
  expect(saver.read().document.name).toBe("a");
  await settle();
  expect(asked[0]?.sent.document.name).toBe("a");
});

test("a plan made ahead of its saving stands until the save of something newer", async () => {
  const { saver, asked } = fresh();
  saver.edit(rename("a"));
  await settle();
  saver.edit(rename("ab"), planOf("ahead"));
  asked[0]?.answer({ took: job("a", 1) });
  await settle();
  expect(saver.read().plan).toEqual(planOf("ahead"));
  asked[1]?.answer({ took: job("ab", 2) });
  await settle();
  expect(saver.read().plan).toEqual(planOf("ab"));
});

test("a plan read anew is read again where a save has overtaken it", async () => {
  const { saver, asked, plans } = fresh();
  const done = saver.replan();
  saver.edit(rename("a"));
  await settle();
  asked[0]?.answer({ took: job("a", 1) });
  await settle();
  plans[0]?.(planOf("old"));
  await settle();
  plans[1]?.(planOf("new"));
  await done;
  expect(saver.read().plan).toEqual(planOf("new"));
});

test("another revision is taken in hand and can be left again", () => {
  const { saver } = fresh();
  saver.adopt(job("of last week", 7));
  expect(saver.read()).toMatchObject({ document: { name: "of last week" }, mayUndo: true });
  saver.undo();
  expect(saver.read().document.name).toBe("first");
});
