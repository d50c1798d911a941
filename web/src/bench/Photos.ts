import { get, set } from "idb-keyval";
import { client, Refused, taken } from "../api/client";
import { tried } from "../api/reach";
import { newTap } from "../job/context";
import type { Line } from "./Line";

interface Waiting {
  tap_id: string;
  happened_at: string;
  file: File;
}

const AGAIN_MS = 3000;

/** The photos of one run that wait to be sent: kept on the tablet, also while the page is closed, until they are. */
export class Photos {
  private waiting: Waiting[] = [];
  private sending = false;
  private again = 0;
  private readonly place: string;
  private readonly heard = new Set<() => void>();
  private snapshot: { waits: number; failed: string } = { waits: 0, failed: "" };

  constructor(private readonly line: Line) {
    this.place = `inch-cradle.photos.${line.bench.run_id}`;
    void this.begin();
  }

  readonly subscribe = (hear: () => void) => {
    this.heard.add(hear);
    return () => {
      this.heard.delete(hear);
    };
  };

  /** How many wait, and why the first of them was not taken. The same until something changes. */
  readonly told = () => this.snapshot;

  add(files: File[]): void {
    const happened_at = new Date(this.line.now()).toISOString();
    this.waiting.push(...files.map((file) => ({ tap_id: newTap(), happened_at, file })));
    this.change();
    void this.send();
  }

  leaveOut(): void {
    this.waiting.shift();
    this.change();
    void this.send();
  }

  async send(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.again);
    this.change();
    while (this.waiting.length) {
      const photo = this.waiting[0] as Waiting;
      const form = new FormData();
      form.append("tap_id", photo.tap_id);
      form.append("happened_at", photo.happened_at);
      form.append("photo", photo.file);
      try {
        const sent = client.POST("/api/runs/{run_id}/photos", {
          params: { path: { run_id: this.line.bench.run_id } },
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        });
        this.line.hear(await taken(sent));
        this.waiting = this.waiting.filter((each) => each.tap_id !== photo.tap_id);
        this.change();
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        const away = error.status === 0 || error.status >= 500;
        if (away) this.again = window.setTimeout(() => void this.send(), AGAIN_MS);
        this.sending = false;
        this.change(away ? "" : `${photo.file.name} ${error.message}`);
        return;
      }
    }
    this.sending = false;
  }

  private async begin(): Promise<void> {
    const kept = await tried(() => get<Waiting[]>(this.place));
    if (!kept?.length) return;
    this.waiting.unshift(...kept);
    this.change();
    await this.send();
  }

  private change(failed = ""): void {
    // A tablet that keeps nothing still sends what it has in hand.
    void tried(() => set(this.place, this.waiting));
    this.snapshot = { waits: this.waiting.length, failed };
    for (const hear of this.heard) hear();
  }
}
