import { describe, expect, it } from "vitest";
import type { WeekDay } from "../api/client";
import { openHours, weekClock } from "./clock";

const HOUR = 3_600_000;
const day = (number: number, long = 24): WeekDay => {
  const begins = Date.UTC(2026, 10, 30 + number);
  return {
    day: new Date(begins).toISOString().slice(0, 10),
    from_at: new Date(begins).toISOString(),
    to_at: new Date(begins + long * HOUR).toISOString(),
    shut: false,
    names: [],
    shifts: [],
  };
};
const days = [0, 1, 2, 3, 4, 5, 6].map((number) => day(number));

describe("the week's clock", () => {
  it("goes there and back, and never runs backward", () => {
    const clock = weekClock(days, 1400, [7, 18]);
    let last = -1;
    for (let hour = 0; hour <= 7 * 24; hour += 0.5) {
      const ms = Date.UTC(2026, 10, 30) + hour * HOUR;
      const x = clock.x(ms);
      expect(x).toBeGreaterThan(last);
      expect(Math.abs(clock.at(x) - ms)).toBeLessThan(2000);
      last = x;
    }
    expect(clock.x(Date.UTC(2026, 10, 30))).toBe(0);
    expect(clock.x(Date.UTC(2027, 0, 1))).toBe(1400);
    expect(clock.x(0)).toBe(0);
  });

  it("draws working hours wide and nights narrow", () => {
    const clock = weekClock(days, 700, [8, 18]);
    const at = (hour: number) => clock.x(Date.UTC(2026, 10, 30) + hour * HOUR);
    expect(at(18) - at(8)).toBeCloseTo(84);
    expect(at(24) - at(18) + at(8)).toBeCloseTo(16);
  });

  it("opens with the first that works and closes with the last", () => {
    expect(openHours(days, [])).toEqual([8, 17]);
    const late: [number, number] = [Date.UTC(2026, 10, 30, 6, 30), Date.UTC(2026, 10, 30, 21, 10)];
    expect(openHours(days, [late])).toEqual([6, 22]);
  });
});
