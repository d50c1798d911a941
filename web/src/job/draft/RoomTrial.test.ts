import { expect, test } from "vitest";
import type { JobSpec, Plan } from "../../api/client";
import { RoomTrial } from "./RoomTrial";
import type { Server } from "./server";

const settle = () => new Promise((done) => setTimeout(done));

function bench() {
  const asked: { room_c: number | null; answer: (plan: Plan | null) => void }[] = [];
  const server = {
    whatIf: (_: JobSpec, room_c: number | null) => new Promise<Plan | null>((answer) => asked.push({ room_c, answer })),
  } as unknown as Server;
  return { asked, trial: new RoomTrial(server, () => ({}) as JobSpec) };
}

test("scrubbing asks one question at a time, and the last temperature last", async () => {
  const { asked, trial } = bench();
  for (const room_c of [18, 19, 20, 21]) trial.tryRoom(room_c);
  expect(asked.map(({ room_c }) => room_c)).toEqual([18]);
  asked[0]?.answer({ at: 18 } as unknown as Plan);
  await settle();
  expect(trial.read()).toEqual({ room_c: 21, plan: { at: 18 } });
  expect(asked.map(({ room_c }) => room_c)).toEqual([18, 21]);
  asked[1]?.answer({ at: 21 } as unknown as Plan);
  await settle();
  expect(trial.read()).toEqual({ room_c: 21, plan: { at: 21 } });
  expect(asked).toHaveLength(2);
});

test("springing back leaves nothing tried, whatever comes after", async () => {
  const { asked, trial } = bench();
  trial.tryRoom(25);
  trial.tryRoom(null);
  asked[0]?.answer({ at: 25 } as unknown as Plan);
  await settle();
  expect(trial.read()).toBeNull();
  trial.tryRoom(15);
  expect(asked.at(-1)?.room_c).toBe(15);
});

test("an answer that never came leaves the plan before it", async () => {
  const { asked, trial } = bench();
  trial.tryRoom(18);
  asked[0]?.answer({ at: 18 } as unknown as Plan);
  await settle();
  trial.tryRoom(30);
  asked[1]?.answer(null);
  await settle();
  expect(trial.read()).toEqual({ room_c: 30, plan: { at: 18 } });
});
