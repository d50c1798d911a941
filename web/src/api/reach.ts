import { createStore, del, entries, get, set } from "idb-keyval";
import { useSyncExternalStore } from "react";

/** What was read lately is kept on this device, to be read when the server is out of reach; signing out drops it. */
interface Kept {
  body: string;
  at: number;
}

/** Whether the server was reached at the last try; if not, since when, ms, and of when what is shown is at the oldest. */
export interface Reach {
  reached: boolean;
  since: number;
  shown_of: number;
}

/** Stands on an answer that was kept. */
export const KEPT_AT = "x-kept-at";
const store = createStore("inch-cradle-kept", "answers");
// What makes sense only as it is this second, and what is nobody else's to read.
const NOT_KEPT = /\/(heard|rest|instruments|stream|put-away|people|invitations|devices|number|lan|health)(\/|$)/;
const MOST_KEPT = 3_000_000;
const KEPT_FOR_MS = 30 * 24 * 3600_000;
// A wireless behind a wall answers nothing and refuses nothing. What a bench opens with is soon answered; a plan may take long.
const SOON_ANSWERED = /\/(bench|session)$/;
const [SOON_MS, WAITED_MS] = [10_000, 45_000];
const WAITED_ONCE_LOST_MS = 2_000;
const TRIED_AGAIN_MS = 4_000;

let reach: Reach = { reached: true, since: 0, shown_of: 0 };
let again = 0;
const heard = new Set<() => void>();

function tell(next: Partial<Reach>): void {
  const told = { ...reach, ...next };
  if (told.reached === reach.reached && told.shown_of === reach.shown_of) return;
  reach = told;
  for (const hear of heard) hear();
}

/** What a store answers; nothing where the browser has none, at once or after a while. */
export async function tried<T>(of: () => Promise<T>): Promise<T | undefined> {
  try {
    return await of();
  } catch {
    return undefined;
  }
}

/** The server answered, whatever it said. */
function answered(): void {
  clearTimeout(again);
  again = 0;
  if (!reach.reached) tell({ reached: true, since: 0, shown_of: 0 });
}

function lost(): void {
  if (reach.reached) tell({ reached: false, since: Date.now() });
  // It is asked for until it answers.
  again ||= window.setTimeout(async () => {
    again = 0;
    await fetch("/api/health", { signal: AbortSignal.timeout(WAITED_MS) }).then(answered, lost);
  }, TRIED_AGAIN_MS);
}

async function keep(url: string, answer: Response): Promise<void> {
  // An answer that broke off halfway is not kept; who asked for it hears of it in its own place.
  const body = await tried(() => answer.text());
  if (body === undefined || body.length > MOST_KEPT) return;
  // A device that keeps nothing shows nothing without the server, and works on with it.
  await tried(() => set(url, { body, at: Date.now() } satisfies Kept, store));
}

function fromKept({ body, at }: Kept): Response {
  tell({ shown_of: reach.shown_of ? Math.min(reach.shown_of, at) : at });
  return new Response(body, { status: 200, headers: { "content-type": "application/json", [KEPT_AT]: String(at) } });
}

/** Fetches, and where the server is out of reach answers a question with what it said last. */
export async function reaching(request: Request): Promise<Response> {
  const asks = request.method === "GET" && !NOT_KEPT.test(new URL(request.url).pathname);
  const kept = () => tried(() => (asks ? get<Kept>(request.url, store) : Promise.resolve(undefined)));
  let patience = 0;
  const impatient = new Promise<Kept>((resolve) => {
    const patient = SOON_ANSWERED.test(new URL(request.url).pathname) ? SOON_MS : WAITED_MS;
    const waited = reach.reached ? patient : WAITED_ONCE_LOST_MS;
    if (asks) patience = window.setTimeout(() => void kept().then((found) => found && resolve(found)), waited);
  });
  try {
    const answer = await Promise.race([fetch(request), impatient]);
    if (!(answer instanceof Response)) {
      lost();
      return fromKept(answer);
    }
    answered();
    const json = answer.headers.get("content-type")?.includes("json");
    if (asks && answer.ok && json) void keep(request.url, answer.clone());
    return answer;
  } catch (error) {
    if (request.signal.aborted) throw error;
    lost();
    const found = await kept();
    if (!found) throw error;
    return fromKept(found);
  } finally {
    clearTimeout(patience);
  }
}

/** Drops what is kept: whoever comes to this device next is another. */
export async function dropKept(): Promise<void> {
  await dropOlderThan(Number.POSITIVE_INFINITY);
}

export async function dropOld(): Promise<void> {
  await dropOlderThan(Date.now() - KEPT_FOR_MS);
}

async function dropOlderThan(moment: number): Promise<void> {
  const all = (await tried(() => entries<string, Kept>(store))) ?? [];
  for (const [url, { at }] of all) if (at < moment) await tried(() => del(url, store));
}

export function useReach(): Reach {
  return useSyncExternalStore(
    (hear) => {
      heard.add(hear);
      return () => heard.delete(hear);
    },
    () => reach,
  );
}
