import type { PourTask, Press } from "../api/client";

/** What runs out of a tin tipped for so long, by the task's own hand; the core works out the same, and a test holds both to it. */
export function ranOut(task: PourTask, place: number, hold_s: number): number {
  const uneven = task.uneven[place % task.uneven.length] ?? 1;
  const opened = Math.min(hold_s / task.opens_s, 1);
  const held = (opened * Math.min(hold_s, task.opens_s)) / 2 + Math.max(0, hold_s - task.opens_s);
  return task.full_per_s * uneven * (held + opened * task.runs_on_s);
}

/** Resin and hardener in the cup after some presses. */
export function inCup(task: PourTask, presses: Press[]): { A: number; B: number } {
  const amounts = { A: task.in_a, B: task.in_b };
  presses.forEach((press, place) => {
    amounts[press.part] += ranOut(task, place, press.hold_s);
  });
  return amounts;
}
