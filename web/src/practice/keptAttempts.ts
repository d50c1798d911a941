import { get, update } from "idb-keyval";
import { type AttemptIn, client, type Marked, Refused, type Standing, taken } from "../api/client";
import { tried } from "../api/reach";

/** An answer that waits on this device until the server is reached: of whom, in which shop. */
interface Waiting {
  shop_id: string;
  by: string;
  attempt: AttemptIn;
}

const WAITS = "inch-cradle.attempts";

async function send(shop_id: string, body: AttemptIn): Promise<{ marked: Marked; standing: Standing }> {
  return taken(client.POST("/api/shops/{shop_id}/training", { params: { path: { shop_id } }, body }));
}

const out = (error: unknown) => error instanceof Refused && error.status === 0;

/** Has an answer marked and written down. Out of reach it waits here, in its order, and nothing is answered. */
export async function write(shop_id: string, by: string, attempt: AttemptIn) {
  try {
    await sendWaiting(shop_id, by);
    return await send(shop_id, attempt);
  } catch (error) {
    if (!out(error)) throw error;
    await tried(() => update<Waiting[]>(WAITS, (kept = []) => [...kept, { shop_id, by, attempt }]));
    return null;
  }
}

/** Sends what waits of a person in a shop, the oldest first; what the server refuses waits no more. */
export async function sendWaiting(shop_id: string, by: string): Promise<number> {
  const mine = ((await tried(() => get<Waiting[]>(WAITS))) ?? []).filter(
    (each) => each.shop_id === shop_id && each.by === by,
  );
  for (const { attempt } of mine) {
    try {
      await send(shop_id, attempt);
    } catch (error) {
      if (out(error)) throw error;
    }
    await tried(() =>
      update<Waiting[]>(WAITS, (kept = []) => kept.filter((each) => each.attempt.tap_id !== attempt.tap_id)),
    );
  }
  return mine.length;
}

/** How many answers of a person wait on this device. */
export async function waiting(shop_id: string, by: string): Promise<number> {
  const all = (await tried(() => get<Waiting[]>(WAITS))) ?? [];
  return all.filter((each) => each.shop_id === shop_id && each.by === by).length;
}
