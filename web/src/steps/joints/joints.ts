import type { Joint } from "../../api/client";
import fresh from "../../api/fresh.json";
import { newId } from "../../job/context";

export const kinds = [
  ["corner", "Corner: fillet, tabbing"],
  ["glue line", "Glue line"],
  ["scarf", "Scarf"],
  ["gap", "Gap to fill"],
  ["bedding", "Bedding"],
  ["holes", "Holes"],
] as const satisfies readonly (readonly [Joint["kind"], string])[];

/** A joint with nothing measured yet. */
export const freshJoint = (name: string): Joint => ({ ...(fresh.joint as Omit<Joint, "id">), id: newId(), name });

/** Another joint made like this one: all but what it is called, how long it is and how often it comes. */
export function madeLike(other: Joint, model: Joint): Joint {
  const kept = { length_m: other.typed?.length_m ?? "" };
  const { length_m: _, ...typed } = model.typed ?? {};
  return {
    ...model,
    id: other.id,
    name: other.name,
    count: other.count,
    length_m: other.length_m,
    hidden: other.hidden,
    fixings: other.fixings,
    tabs: model.tabs.map((strip) => ({ ...strip, id: newId() })),
    typed: kept.length_m ? { ...typed, length_m: kept.length_m } : typed,
  };
}
