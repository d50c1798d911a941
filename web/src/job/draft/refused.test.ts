import { expect, test } from "vitest";
import type { JobSpec } from "../../api/client";
import { same, standsRefused, withoutRefused } from "./refused";

const job = (width_m: number | null) =>
  ({
    name: "Deck",
    parts: [{ id: "p", count: 1, shape: { kind: "rectangle", width_m, typed: { width_m: "12000" } } }],
  }) as unknown as JobSpec;
const width = { path: "parts.0.shape.width_m", message: "must be 100 or less" };

test("a refused measure is emptied and its words stay", () => {
  const rest = withoutRefused(job(12000), [width]);
  expect(rest).toEqual(job(null));
  expect(standsRefused(job(null), width.path)).toBe(true);
});

test("what may not stand empty holds up the whole", () => {
  const count = { path: "parts.0.count", message: "must be 1 or more" };
  expect(withoutRefused(job(12000), [width, count])).toBeNull();
  expect(withoutRefused(job(12000), [])).toBeNull();
});

test("a number that has no words of its own is not taken away: it stands, and holds up the whole", () => {
  const wordless = structuredClone(job(12000));
  (wordless.parts[0] as { shape: { typed: Record<string, string> } }).shape.typed = {};
  expect(withoutRefused(wordless, [width])).toBeNull();
});

test("a field that was filled again is refused no more", () => {
  expect(standsRefused(job(1.2), width.path)).toBe(false);
  expect(standsRefused(job(1.2), "parts.3.shape.width_m")).toBe(false);
});

test("what is left out says the same as nothing", () => {
  expect(same({ a: 1, b: null }, { a: 1 })).toBe(true);
  expect(same({ a: [1, { b: 2 }] }, { a: [1, { b: 3 }] })).toBe(false);
  expect(same(null, {})).toBe(false);
});
