import { expect, test, vi } from "vitest";

vi.stubGlobal("window", globalThis);
const { reaching } = await import("./reach");

test("an answer that breaks off halfway is told to who asked for it, and once", async () => {
  const halfway = new ReadableStream({
    start: (body) => body.enqueue(new TextEncoder().encode('{"jobs": [')),
    pull: (body) => body.error(new TypeError("Failed to fetch")),
  });
  vi.stubGlobal("fetch", async () => new Response(halfway, { headers: { "content-type": "application/json" } }));
  const answer = await reaching(new Request("http://shop.invalid/api/shops/1/jobs"));
  await expect(answer.json()).rejects.toThrow("Failed to fetch");
  // A second telling has nobody to hear it: the run of tests fails by it.
  await new Promise((told) => setTimeout(told, 20));
});
