/** What is heard of the pots of a run by their surface, brought together with what their labels say. */
import type { Schemas } from "../api/client";
import type { BenchState, PotNow } from "./fold";
import type { Due } from "./toDo";

export type PotHeard = Schemas["PotHeard"];

/** What a pot's surface alarms for, from its last reading on. */
export function dueByHearing(state: BenchState, heard: PotHeard[]): Due[] {
  return heard.flatMap(({ number, level, read_min }) => {
    const pot = state.pots.find((each) => each.number === number);
    // One that is too hot is not to be poured out any more: that alarms by itself.
    if (!level || pot?.state !== "live" || pot.hot) return [];
    const [name, loud] = level === "out now" ? (["out", "now"] as const) : (["prepare", "soon"] as const);
    const key = `pot ${number} ${name}`;
    if (state.answered.includes(key)) return [];
    return [{ key, level: loud, at_min: read_min, about: "pot", subject: String(number) }];
  });
}

/** A run with its live pots as they were heard: what is to do and what falls due goes by the sooner of label and surface. */
export function asHeard(state: BenchState, heard: PotHeard[]): BenchState {
  if (!heard.length) return state;
  const pots = state.pots.map((pot) => {
    const told = pot.state === "live" ? heard.find((each) => each.number === pot.number) : undefined;
    if (!told || pot.gels_min === null) return pot;
    return { ...pot, use_by_min: told.use_by_min, gels_min: Math.min(pot.gels_min, told.gels_min) };
  });
  return { ...state, pots };
}

/** When a pot is to be used up and when it gels: as it was heard, or by its label where nothing was. */
export function timesOf(pot: PotNow | undefined, heard: PotHeard[], now_min: number) {
  const told = pot?.state === "live" ? heard.find((each) => each.number === pot.number) : undefined;
  return {
    use_by_min: told?.use_by_min ?? pot?.use_by_min ?? now_min,
    gels_min: told?.from_min ?? pot?.gels_min ?? now_min,
    gels_high_min: told?.gels_high_min ?? null,
  };
}
