import { type Bench, client, type Happened, Refused, taken } from "../api/client";
import { newTap } from "../job/context";
import type { Tap } from "./fold";
import { KeptTaps, type Waiting } from "./keptTaps";

export type Said = Pick<Happened, "about" | "subject" | "kind"> & { data?: Record<string, unknown> };

const [AGAIN_MS, SENT_WITHIN_MS] = [3_000, 20_000];
// What many pages hear at once is kept once.
const KEPT_EACH_MS = 200;
// A clock that is off by less is not told anew.
const TOLD_FROM_MS = 1000;
const TURNED_ROUND_MS = 2000;
const CLOCK = "inch-cradle.clock";

/** How a line stands: how many taps wait, those of others by who they are, and what is the matter. */
export interface LineStands {
  waits: number;
  ofOthers: readonly (readonly [string, number])[];
  reached: boolean;
  refused: string;
  /** Who is signed in here has to sign in anew before anything is written down. */
  shut: boolean;
  /** Whether the tablet keeps what waits, and how many taps waited in it and are gone. */
  keeps: boolean;
  lost: number;
  /** How far the server's clock is ahead of this tablet's, ms. */
  offset_ms: number;
}

/**
 * The taps of one run: those that were written down, by whatever tablet, and those of this one that wait to be. Both are kept
 * on the tablet, so that it goes on without a network after it was put off, and what waits goes by itself, in its order.
 */
export class Line {
  private readonly written = new Map<string, Happened>();
  private waiting: Waiting[] = [];
  private sending = false;
  /** Nothing is sent before what was kept is in hand: it goes first. */
  private begun = false;
  private keepSoon = 0;
  private keptCount = -1;
  /** The moment of the last tap on this tablet, ms. */
  private latest = 0;
  /** Taps of this page that wait no more, whatever another page of this tablet has kept. */
  private readonly done = new Set<string>();
  /** Taps taken back while they were on their way, with the reason. */
  private readonly regretted = new Map<string, string>();
  private again = 0;
  private readonly kept: KeptTaps;
  private readonly heard = new Set<() => void>();
  private snapshot: Tap[] = [];
  private matters = { reached: true, refused: "", shut: false, keeps: true, lost: 0, offset_ms: 0 };
  private standing: LineStands = { ...this.matters, waits: 0, ofOthers: [] };

  constructor(
    readonly bench: Bench,
    readonly person: string,
    /** Whether the bench was read now, and not as it was kept. */
    private readonly fresh = true,
  ) {
    this.kept = new KeptTaps(bench.run_id);
    for (const event of bench.events) this.written.set(event.tap_id, event);
    if (fresh) this.tellClock(bench.server_now);
    else this.matters.offset_ms = Number(localStorage.getItem(CLOCK) ?? 0);
    this.change();
    void this.begin();
  }

  /** Takes up what an earlier visit kept here. */
  private async begin(): Promise<void> {
    try {
      const { waiting, written, lost } = await this.kept.read();
      // What the server said now is the truth: it may have been put back to a copy of before.
      for (const event of this.fresh ? [] : written)
        if (!this.written.has(event.tap_id)) this.written.set(event.tap_id, event);
      this.waiting.unshift(...waiting.filter((tap) => !this.written.has(tap.tap_id)));
      this.matters.lost = lost;
    } catch {
      this.matters.keeps = false;
    }
    for (const { by, happened_at } of [...this.written.values(), ...this.waiting])
      if (by === this.person) this.latest = Math.max(this.latest, new Date(happened_at).getTime());
    this.begun = true;
    this.change();
    await this.send();
  }

  /** The last event that is known here: a stream goes on from it. */
  get lastId(): number {
    return Math.max(this.bench.last_id, ...[...this.written.values()].map(({ id }) => id));
  }

  readonly subscribe = (hear: () => void) => {
    this.heard.add(hear);
    return () => {
      this.heard.delete(hear);
    };
  };

  /** All taps as they are folded. The same until something changes. */
  readonly taps = () => this.snapshot;

  /** How it stands. The same until something changes. */
  readonly stands = () => this.standing;

  /** The true time, by the server's clock, ms. */
  readonly now = () => Date.now() + this.matters.offset_ms;

  /** Minutes from the run's issue. */
  readonly minute = (moment: string | number) =>
    (this.bench.pace * (new Date(moment).getTime() - new Date(this.bench.issued_at).getTime())) / 60_000;

  tellClock(server_now: string): void {
    this.matters.offset_ms = new Date(server_now).getTime() - Date.now();
    localStorage.setItem(CLOCK, String(this.matters.offset_ms));
    if (Math.abs(this.matters.offset_ms - this.standing.offset_ms) > TOLD_FROM_MS) this.change();
  }

  /** What was said by the stream. */
  hear(event: Happened): void {
    this.written.set(event.tap_id, event);
    this.forget(event.tap_id);
    const reason = this.regretted.get(event.tap_id);
    if (this.regretted.delete(event.tap_id) && reason) void this.takeBack(event, reason);
    this.change();
  }

  /** Writes down a tap: at once on this tablet, and on the server as soon as it can be. */
  tap(...said: Said[]): void {
    this.matters.refused = "";
    // A clock that is corrected by a little turns no two taps round.
    const now = this.now();
    this.latest = this.latest - now < TURNED_ROUND_MS ? Math.max(now, this.latest + 1) : now;
    const happened_at = new Date(this.latest).toISOString();
    for (const { data = {}, ...one } of said)
      this.waiting.push({
        ...one,
        data,
        tap_id: newTap(),
        happened_at,
        device: "",
        by: this.person,
        run_id: this.bench.run_id,
      });
    this.jot();
    this.change();
    void this.send();
  }

  private jot(): void {
    try {
      this.kept.jot(this.waiting);
    } catch {
      // Full, or denied: what the store says of it is told.
    }
  }

  /** The last tap of this person that stands and may be taken back, if any. */
  last(): Happened | Waiting | undefined {
    const waits = this.waiting.findLast((tap) => !this.regretted.has(tap.tap_id));
    if (waits) return waits;
    const gone = new Set([...this.written.values()].map((event) => event.takes_back));
    return [...this.written.values()]
      .filter((event) => event.by === this.person && !event.takes_back && !gone.has(event.tap_id))
      .filter((event) => event.kind !== "answered" && event.kind !== "plan taken")
      .sort((one, other) => one.id - other.id)
      .at(-1);
  }

  /** Takes a tap back: one that still waits is never sent. */
  async takeBack(tap: Happened | Waiting, reason: string): Promise<void> {
    this.matters.refused = "";
    if (!("id" in tap)) {
      // One that is on its way has to come back first.
      if (this.sending && this.nextMine()?.tap_id === tap.tap_id) this.regretted.set(tap.tap_id, reason);
      else this.forget(tap.tap_id);
      return this.change();
    }
    try {
      const path = { params: { path: { run_id: this.bench.run_id, event_id: tap.id } } };
      const body = { tap_id: newTap(), reason };
      this.hear(await taken(client.POST("/api/runs/{run_id}/events/{event_id}/take-back", { ...path, body })));
    } catch (error) {
      this.refuse(error);
    }
  }

  refuse(error: unknown): void {
    if (!(error instanceof Refused)) throw error;
    this.matters.refused = error.message;
    this.change();
  }

  /** Sends what waits, the oldest first, one after the other. */
  async send(): Promise<void> {
    if (this.sending || !this.begun || this.matters.shut) return;
    this.sending = true;
    clearTimeout(this.again);
    // What another person tapped here goes once he is here again: it would stand under a wrong name.
    for (let tap = this.nextMine(); tap; tap = this.nextMine()) {
      const { by: _, run_id, ...body } = tap;
      try {
        // Behind a wall nothing refuses it and nothing takes it: it is sent again, and counts once.
        const signal = AbortSignal.timeout(SENT_WITHIN_MS);
        const event = await taken(
          client.POST("/api/runs/{run_id}/events", { params: { path: { run_id } }, body, signal }),
        );
        this.matters.reached = true;
        this.hear(event);
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        if (error.status === 0 || error.status >= 500) {
          this.matters.reached = false;
          this.again = window.setTimeout(() => void this.send(), AGAIN_MS);
          break;
        }
        if (error.status === 401) {
          // Signed out meanwhile, or let go: what waits stays here until somebody signs in.
          this.matters.shut = true;
          break;
        }
        // It cannot have happened: said, and no longer held as if it had.
        this.matters.reached = true;
        this.matters.refused = `not written down: ${error.message}`;
        this.regretted.delete(tap.tap_id);
        this.forget(tap.tap_id);
      }
      this.change();
    }
    this.sending = false;
    this.change();
  }

  private nextMine(): Waiting | undefined {
    return this.waiting.find((tap) => tap.by === this.person);
  }

  private forget(tap_id: string): void {
    this.done.add(tap_id);
    this.waiting = this.waiting.filter((tap) => tap.tap_id !== tap_id);
  }

  private change(): void {
    if (this.begun) this.keep();
    this.snapshot = [
      ...[...this.written.values()].map((event) => this.asTap(event)),
      ...this.waiting
        .filter((tap) => !this.regretted.has(tap.tap_id))
        .map((tap) => this.asTap({ ...tap, takes_back: "" })),
    ];
    const others = new Map<string, number>();
    for (const { by } of this.waiting) if (by !== this.person) others.set(by, (others.get(by) ?? 0) + 1);
    this.standing = { ...this.matters, waits: this.waiting.length, ofOthers: [...others] };
    for (const hear of this.heard) hear();
  }

  /** What waits is kept at once, and so is what it became; what others wrote down may wait a moment. */
  private keep(): void {
    const count = this.waiting.length;
    const now = count !== this.keptCount;
    this.keptCount = count;
    clearTimeout(this.keepSoon);
    if (now) void this.store();
    else this.keepSoon = window.setTimeout(() => void this.store(), KEPT_EACH_MS);
  }

  private async store(): Promise<void> {
    let keeps = true;
    await this.kept.write(this.waiting, [...this.written.values()], this.done).catch(() => {
      keeps = false;
    });
    if (keeps === this.matters.keeps) return;
    this.matters.keeps = keeps;
    this.change();
  }

  /** What was told of lost taps is read. */
  readonly readOfLost = () => {
    this.matters.lost = 0;
    this.change();
  };

  private asTap(event: Pick<Happened, "tap_id" | "about" | "kind" | "happened_at" | "by"> & Partial<Happened>): Tap {
    return {
      id: event.tap_id,
      about: event.about,
      subject: event.subject ?? "",
      kind: event.kind,
      at_min: this.minute(event.happened_at),
      by: event.by,
      data: event.data ?? {},
      takes_back: event.takes_back ?? "",
      event_id: event.id,
    };
  }
}
