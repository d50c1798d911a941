import { describe, expect, it } from "vitest";
import type { BenchState, PotNow } from "./fold";
import { asHeard, dueByHearing, type PotHeard, timesOf } from "./heard";

const pot = { number: 1, state: "live", touched_min: 10, use_by_min: 26, gels_min: 40 } as PotNow;
const heard: PotHeard = {
  number: 1,
  touched_min: 10,
  readings: 3,
  believed: 3,
  gels_min: 31,
  gels_low_min: 28,
  gels_high_min: 35,
  use_by_min: 21,
  from_min: 28,
  life: 0.7,
  life_low: 0.6,
  life_high: 0.85,
  fast: true,
  level: "out now",
  read_min: 22,
  surface: [],
  expected: [],
};
const state = (answered: string[] = [], now: PotNow = pot) => ({ pots: [now], answered }) as unknown as BenchState;

describe("a pot that was heard", () => {
  it("is given the time of its surface while it is live, and else of its label", () => {
    expect(timesOf(pot, [heard], 23)).toEqual({ use_by_min: 21, gels_min: 28, gels_high_min: 35 });
    expect(timesOf(pot, [], 23)).toEqual({ use_by_min: 26, gels_min: 40, gels_high_min: null });
    expect(timesOf({ ...pot, state: "used up" }, [heard], 23).use_by_min).toBe(26);
  });

  it("is to be used up by the sooner of both, and gels by the middle of what was heard", () => {
    const [now] = asHeard(state(), [heard]).pots;
    expect([now?.use_by_min, now?.gels_min]).toEqual([21, 31]);
    expect(asHeard(state(), [{ ...heard, gels_min: 55 }]).pots[0]?.gels_min).toBe(40);
    expect(asHeard(state([], { ...pot, state: "used up" }), [heard]).pots[0]?.gels_min).toBe(40);
    expect(asHeard(state(), []).pots[0]).toBe(pot);
  });

  it("sounds from its last reading on, until somebody answers or it is used up", () => {
    const [due] = dueByHearing(state(), [heard]);
    expect(due).toEqual({ key: "pot 1 out", level: "now", at_min: 22, about: "pot", subject: "1" });
    expect(dueByHearing(state(), [{ ...heard, level: "prepare" }])[0]?.level).toBe("soon");
    expect(dueByHearing(state(["pot 1 out"]), [heard])).toEqual([]);
    expect(dueByHearing(state([], { ...pot, state: "used up" }), [heard])).toEqual([]);
    // What is too hot to come near is not told to be poured out.
    expect(dueByHearing(state([], { ...pot, hot: true }), [heard])).toEqual([]);
    expect(dueByHearing(state(), [{ ...heard, level: "" }])).toEqual([]);
  });
});
