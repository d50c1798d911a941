import { expect, test } from "vitest";
import type { PourTask, Press } from "../api/client";
import { inCup } from "./flow";
import pours from "./pours.json";

test.each(pours)("$task.id is poured as the core pours it", ({ task, presses, a, b }) => {
  const poured = inCup(task as unknown as PourTask, presses as Press[]);
  expect(poured.A).toBeCloseTo(a, 6);
  expect(poured.B).toBeCloseTo(b, 6);
});
