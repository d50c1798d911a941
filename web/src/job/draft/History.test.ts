import { expect, test } from "vitest";
import { History } from "./History";

test("edits of one burst go back together, others one by one", () => {
  const history = new History<string>();
  history.edited("", 0);
  history.edited("a", 100);
  history.edited("ab", 5000);
  expect(history.back("abc")).toBe("ab");
  expect(history.back("ab")).toBe("");
  expect(history.back("")).toBeUndefined();
  expect(history.on("")).toBe("ab");
  expect(history.on("ab")).toBe("abc");
  expect(history.mayGoOn).toBe(false);
});

test("an edit after going back ends the way on, and never joins a burst from before it", () => {
  const history = new History<string>();
  history.edited("", 0);
  history.back("a");
  history.edited("", 10);
  expect(history.mayGoOn).toBe(false);
  expect(history.back("b")).toBe("");
});

test("no more than a hundred are kept", () => {
  const history = new History<number>();
  for (let at = 0; at < 150; at++) history.edited(at, at * 1000);
  let steps = 0;
  for (let at: number | undefined = 150; at !== undefined; at = history.back(at)) steps++;
  expect(steps - 1).toBe(100);
});
