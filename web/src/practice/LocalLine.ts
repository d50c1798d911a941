import type { Bench, Happened } from "../api/client";
import type { Tap } from "../bench/fold";
import type { Waiting } from "../bench/keptTaps";
import type { Said } from "../bench/Line";
import { newTap } from "../job/context";

/** What is tapped in a day of practice: it stays on this page, and is handed in once when the day ends. */
export class LocalLine {
  private kept: Tap[] = [];
  private readonly heard = new Set<() => void>();

  constructor(
    readonly bench: Bench,
    private readonly me: string,
    /** The minute of the day. */
    private readonly minute: () => number,
    /** A minute of the day as a moment, ms. */
    private readonly at: (minute: number) => number,
  ) {}

  readonly subscribe = (hear: () => void) => {
    this.heard.add(hear);
    return () => {
      this.heard.delete(hear);
    };
  };

  /** All taps as they are folded. The same until something changes. */
  readonly taps = () => this.kept;

  tap(by: string, ...said: Said[]): void {
    const now = Math.max(this.minute(), (this.kept.at(-1)?.at_min ?? 0) + 0.001);
    const taps = said.map(({ about, subject, kind, data = {} }, nth) => ({
      id: newTap(),
      about: about ?? "run",
      subject: subject ?? "",
      kind,
      data,
      at_min: now + nth / 1000,
      by,
      takes_back: "",
    }));
    this.change([...this.kept, ...taps]);
  }

  /** The last tap of the learner's own, as a line tells one. */
  last(): Waiting | undefined {
    const tap = this.kept.findLast(({ by, kind }) => by === this.me && kind !== "answered");
    if (!tap) return undefined;
    const { id, about, subject, kind, data, by } = tap;
    const happened_at = new Date(this.at(tap.at_min)).toISOString();
    return { tap_id: id, about, subject, kind, data, by, run_id: this.bench.run_id, happened_at, device: "" };
  }

  async takeBack(tap: Happened | Waiting): Promise<void> {
    this.change(this.kept.filter(({ id }) => id !== tap.tap_id));
  }

  hear(): void {}

  readonly readOfLost = () => {};

  private change(taps: Tap[]): void {
    this.kept = taps;
    for (const hear of this.heard) hear();
  }
}
