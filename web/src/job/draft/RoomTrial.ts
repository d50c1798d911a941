import type { JobSpec, Plan } from "../../api/client";
import { Store } from "./Store";
import type { Server } from "./server";

/** A room temperature that is tried on the whole job, with the newest plan of it that has come. */
export type Tried = { room_c: number; plan: Plan | null } | null;

/** Tries room temperatures before anyone keeps one: one question at a time, so that no answer is overtaken. */
export class RoomTrial extends Store<Tried> {
  readonly #server: Server;
  readonly #document: () => JobSpec;
  #asking = false;

  constructor(server: Server, document: () => JobSpec) {
    super(null);
    this.#server = server;
    this.#document = document;
  }

  /** Tries a room temperature; null springs back. */
  readonly tryRoom = (room_c: number | null): void => {
    this.set(room_c === null ? null : { room_c, plan: this.read()?.plan ?? null });
    if (room_c !== null) void this.#ask();
  };

  async #ask(): Promise<void> {
    if (this.#asking) return;
    this.#asking = true;
    for (let tried = this.read(); tried; ) {
      const plan = await this.#server.whatIf(this.#document(), tried.room_c);
      const now = this.read();
      if (!now) break;
      this.set({ room_c: now.room_c, plan: plan ?? now.plan });
      if (now.room_c === tried.room_c) break;
      tried = now;
    }
    this.#asking = false;
  }
}
