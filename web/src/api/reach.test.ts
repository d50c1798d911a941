import { expect, test, vi } from "vitest";

vi.stubGlobal("window", globalThis);
const { reaching } = await import("./reach");

test("an answer that breaks off halfway is told to who asked, and once", async () => {
  const loud = vi.fn();
  process.on("unhandledRejection", loud);
  const halfway = new ReadableStream({
    start: (body) => body.enqueue(new TextEncoder().encode('{"jobs": [')),
    pull: (body) => body.error(new TypeError("Failed to fetch")),
  });
  vi.stubGlobal("fetch", async () => new Response(halfway, { headers: { "content-type": "application/json" } }));
  const answer = await reaching(new Request("http://shop.invalid/api/shops/1/jobs"));
  await expect(answer.json()).rejects.toThrow("Failed to fetch");
  await new Promise((told) => setTimeout(told, 20));
  expect(loud).not.toHaveBeenCalled();
});
