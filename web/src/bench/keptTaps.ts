import { get, set, update } from "idb-keyval";
import type { Happened, Schemas } from "../api/client";
import { newTap } from "../job/context";

/** A tap that has not been written down yet. */
export type Waiting = Schemas["EventIn"] & { by: string; run_id: string };

/** Taps of one run as this tablet keeps them, so that it goes on without a network after it was put off. */
export class KeptTaps {
  private readonly waits: string;
  private readonly written: string;
  /** Of this page alone: another of this tablet has its own. */
  private readonly jots: string;
  /** Beside the store, so that it is known when the store was cleared. */
  private readonly count: string;

  constructor(run_id: string) {
    this.waits = `inch-cradle.taps.${run_id}`;
    this.jots = `${this.waits}.${newTap()}`;
    this.written = `inch-cradle.written.${run_id}`;
    this.count = `inch-cradle.waits.${run_id}`;
  }

  /** What was kept, and how many taps waited here that are gone. Throws where the browser keeps nothing. */
  async read(): Promise<{ waiting: Waiting[]; written: Happened[]; lost: number }> {
    const waiting = (await get<Waiting[]>(this.waits)) ?? [];
    for (const tap of this.jotted()) if (!waiting.some(({ tap_id }) => tap_id === tap.tap_id)) waiting.push(tap);
    const lost = Math.max(0, Number(localStorage.getItem(this.count) ?? 0) - waiting.length);
    return { waiting, written: (await get<Happened[]>(this.written)) ?? [], lost };
  }

  /** Jots down at once what was tapped just now: a store takes a moment, and the tablet may be put off in it. */
  jot(waiting: Waiting[]): void {
    localStorage.setItem(this.jots, JSON.stringify(waiting));
  }

  /** What pages of this tablet jotted down and did not get into the store; also as it was kept before there was one. */
  private jotted(): Waiting[] {
    const places = Object.keys(localStorage).filter((place) => place.startsWith(this.waits) && place !== this.jots);
    return places.flatMap((place) => {
      const taps = JSON.parse(localStorage.getItem(place) ?? "[]") as Waiting[];
      localStorage.removeItem(place);
      return taps;
    });
  }

  /** Keeps what waits and what is written. Taps that are `done` wait no more, also where another page of this tablet has
   * kept them. Throws where the store is full, or not allowed. */
  async write(waiting: Waiting[], written: Happened[], done: ReadonlySet<string>): Promise<void> {
    // First, so that a tap is at no moment in neither.
    await set(this.written, written);
    let all = waiting;
    await update<Waiting[]>(this.waits, (kept = []) => {
      const mine = new Set(waiting.map(({ tap_id }) => tap_id));
      all = [...kept.filter(({ tap_id }) => !mine.has(tap_id) && !done.has(tap_id)), ...waiting];
      return all;
    });
    localStorage.setItem(this.count, String(all.length));
    localStorage.removeItem(this.jots);
  }
}
