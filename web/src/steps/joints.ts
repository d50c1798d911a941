import type { Joint } from "../api/client";
import { newId } from "../job/context";

export const kinds = [
  ["corner", "Corner: fillet, tabbing"],
  ["glue line", "Glue line"],
  ["scarf", "Scarf"],
  ["gap", "Gap to fill"],
  ["bedding", "Bedding"],
  ["holes", "Holes"],
] as const satisfies readonly (readonly [Joint["kind"], string])[];

/** A joint with nothing measured yet. */
export function freshJoint(name: string): Joint {
  return {
    id: newId(),
    name,
    use_id: "",
    kind: "corner",
    count: 1,
    length_m: null,
    radius_mm: null,
    angle_deg: 90,
    panel_thickness_mm: 6,
    face_mm: null,
    sides: 1,
    substrate: "bare plywood",
    duty: "carries load",
    width_mm: null,
    depth_mm: null,
    glue_mm: null,
    squeeze_out: 0.2,
    slope: 8,
    hole_count: null,
    diameter_mm: null,
    filler_id: "",
    second_id: "",
    second_share: 0.5,
    own_parts: null,
    consistency: "stands",
    applied: "with a stick",
    wished_pots: null,
    tabs: [],
    tab_piece_m: null,
    tab_overlap: 1 / 3,
    hidden: false,
    fixings: "",
    typed: {},
  };
}

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
