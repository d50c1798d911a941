import { describe, expect, it } from "vitest";
import type { BenchCard } from "../api/client";
import written from "./days.json";
import { fold, type Tap } from "./fold";
import { deviationOf, dueOf, toDo } from "./toDo";

interface Day {
  card: string;
  taps: Tap[];
  seen: { now_min: number; is: unknown }[];
}

const cards = written.cards as unknown as Record<string, BenchCard>;
const days = Object.entries(written.days as unknown as Record<string, Day>);

/** As the core's answers are written: six decimals. */
const rounded = (value: unknown) =>
  JSON.parse(JSON.stringify(value, (_, each) => (typeof each === "number" ? Math.round(each * 1e6) / 1e6 : each)));

function madeOf(day: Day, taps: Tap[], now_min: number) {
  const { card: _, ...state } = fold(cards[day.card] as BenchCard, taps, now_min);
  const whole = fold(cards[day.card] as BenchCard, taps, now_min);
  return rounded({
    ...state,
    to_do: toDo(whole, now_min),
    due: dueOf(whole),
    deviation: deviationOf(whole),
  });
}

describe("the bench without a network folds a day as the core does", () => {
  it.each(days)("%s", (_, day) => {
    for (const { now_min, is } of day.seen) {
      expect(madeOf(day, day.taps, now_min)).toEqual(is);
      // Whatever the order they came in, and twice.
      expect(madeOf(day, [...day.taps].reverse().concat(day.taps), now_min)).toEqual(is);
    }
  });
});
