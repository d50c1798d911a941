import type { Hardener, JobSpec, StatedTime } from "../api/client";
import { useJob } from "../job/context";
import { useResinInHand } from "../job/resins";

type Resin = JobSpec["materials"]["resins"][number];

/** Where a label's times belong: to the hardener in hand, or to the catalyst. */
function timesOf(resin: Resin, hardener: Hardener | undefined): StatedTime[] {
  return (hardener ?? resin.catalyst)?.stated_times ?? [];
}

/** A resin whose hardener, or whose catalyst, has other times. */
function withTimes(resin: Resin, hardenerId: string | undefined, next: (old: StatedTime[]) => StatedTime[]): Resin {
  const changed = <T extends { stated_times: StatedTime[] }>(thing: T): T => ({
    ...thing,
    stated_times: next(thing.stated_times),
  });
  if (!hardenerId) return { ...resin, catalyst: resin.catalyst ? changed(resin.catalyst) : null };
  return { ...resin, hardeners: resin.hardeners.map((each) => (each.id === hardenerId ? changed(each) : each)) };
}

/** A time of the label, as the table and the chart both write it. */
export interface LabelTimes {
  times: StatedTime[];
  hardener: Hardener | undefined;
  path: string;
  set: (row: number, part: Partial<StatedTime>) => void;
  /** A time that was typed whole: none is made up for a field left empty. */
  add: (typed: { temperature_c: number; minutes: number }) => void;
  remove: (row: number) => void;
}

/** The label's times of what is in hand, and the ways to write them; none before there is a resin to have a label. */
export function useLabelTimes(): LabelTimes | null {
  const { document, edit } = useJob();
  const { use, told } = useResinInHand();
  const chemistry = told?.chemistry;
  const at = document.materials.resins.findIndex((other) => other.id === use.resin_id);
  const resin = document.materials.resins[at];
  if (!resin || !chemistry) return null;
  const chosen = chemistry.hardeners.find((row) => row.chosen);
  const place = resin.hardeners.findIndex((other) => other.id === chosen?.id);
  const hardener = resin.hardeners[place];
  if (!hardener && !resin.catalyst) return null;
  // Two fields may be taken at once, so each change is made to the times as they then are.
  const change = (next: (old: StatedTime[]) => StatedTime[]) =>
    edit((before) => ({
      ...before,
      materials: {
        ...before.materials,
        resins: before.materials.resins.map((other) =>
          other.id === resin.id ? withTimes(other, hardener?.id, next) : other,
        ),
      },
    }));
  return {
    times: timesOf(resin, hardener),
    hardener,
    path: `materials.resins.${at}.${hardener ? `hardeners.${place}` : "catalyst"}.stated_times`,
    set: (row, part) => change((old) => old.map((time, other) => (other === row ? { ...time, ...part } : time))),
    add: (typed) =>
      change((old) => [
        ...old,
        {
          ...typed,
          ends: hardener ? "pot life in the cup" : "gel",
          mass_g: hardener ? hardener.pot_life_mass_g : null,
          catalyst_pct: resin.catalyst?.stated_pct ?? null,
          source: "data sheet",
          spread: 0,
        },
      ]),
    remove: (row) => change((old) => old.filter((_, other) => other !== row)),
  };
}
