/** What the instruments of the shop's benches show, as it comes, and the bench this run is worked at. */
import { client, type Schemas, taken } from "../api/client";

export type Place = Schemas["PlaceOut"];
export type Kind = Schemas["InstrumentOut"]["kind"];
type Trouble = Schemas["InstrumentOut"]["trouble"];

export interface OnScale {
  stage: "no cup" | "cup" | "pouring" | "in" | "cup off";
  part: "first" | "second";
  in_g: number;
  wanted_g: number;
  shows_g: number;
}

/** One reading as the server shows it. */
export interface Live {
  instrument_id: string;
  place_id: string;
  kind: Kind;
  value: number | null;
  still: boolean;
  trouble: Trouble;
  silent_after_s: number;
  at: string | null;
  run_id?: string;
  pot?: number | null;
  on_scale?: OnScale;
}

/** A run whose clock goes at another pace from now on. */
export interface NewPace {
  run_id: string;
  pace: number;
}

export class Instruments {
  private readonly last = new Map<string, Live>();
  private readonly hearers = new Set<() => void>();
  private found: Place[] = [];

  constructor(
    readonly shopId: string,
    readonly runId: string,
    /** The run's clock goes at another pace: the bench is set out anew. */
    private readonly onPace: () => void,
  ) {
    void this.lookAgain();
  }

  readonly subscribe = (hear: () => void) => {
    this.hearers.add(hear);
    return () => {
      this.hearers.delete(hear);
    };
  };

  readonly places = () => this.found;

  /** The bench this run is worked at. */
  readonly here = () => this.found.find((place) => place.run_id === this.runId);

  /** What an instrument here shows; the same until it shows something else. */
  readonly reads = (kind: Kind): Live | undefined => {
    const here = this.here();
    return here && this.last.get(`${here.id} ${kind}`);
  };

  hear(live: Live | NewPace): void {
    if ("pace" in live) {
      if (live.run_id === this.runId) this.onPace();
      return;
    }
    const key = `${live.place_id} ${live.kind}`;
    const known = this.last.get(key);
    this.last.set(key, live);
    // An instrument that was not there before, or came back.
    if (!known || known.instrument_id !== live.instrument_id) void this.lookAgain();
    this.change();
  }

  async lookAgain(): Promise<void> {
    try {
      const path = { params: { path: { shop_id: this.shopId } } };
      this.found = (await taken(client.GET("/api/shops/{shop_id}/instruments", path))).places;
      this.change();
    } catch {
      // Without a server the bench goes on by hand.
    }
  }

  /** Works the run at a bench, or at none. */
  async put(placeId: string, run_id: string | null, pot: number | null = null): Promise<void> {
    const path = { params: { path: { place_id: placeId } } };
    await taken(client.PUT("/api/places/{place_id}/run", { ...path, body: { run_id, pot } }));
    await this.lookAgain();
  }

  private change(): void {
    for (const hear of this.hearers) hear();
  }
}
