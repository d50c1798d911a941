import told from "./asked.json";
import type { Damage, Joint, Part, Pour } from "./client";

/** One measure that is asked for, in the core's words and units. */
export interface Asked<Field extends string = string> {
  field: Field;
  label: string;
  /** What says that it is missing; what has none may be left out. */
  ask: string;
  example: number | null;
  usual: number | null;
  left_out: string;
}

type JointField =
  | "length_m"
  | "radius_mm"
  | "panel_thickness_mm"
  | "face_mm"
  | "width_mm"
  | "depth_mm"
  | "glue_mm"
  | "diameter_mm"
  | "hole_count";
type Limited =
  | "count"
  | "hole_count"
  | "slope"
  | "squeeze_out"
  | "angle_deg"
  | "tab_overlap"
  | "wished_pots"
  | "width_mm";

export type AskedOfJoint = Asked<JointField>;

export const askedOfJoint = told.joints.asked as Record<Joint["kind"], AskedOfJoint[]>;

/** What is usual of a joint where nothing is typed. */
export const usual = told.joints.usual;

/** The least and the most that a number of a joint may be. */
export const limits = told.joints.limits as unknown as Record<Limited, [number, number]>;

type PourField = "length_m" | "width_mm" | "end_width_mm" | "depth_mm" | "end_depth_mm" | "diameter_mm";

export const askedOfPour = told.pours.asked as Record<Pour["shape"], Asked<PourField>[]>;

/** The least and the most that a number of a casting may be. */
export const pourLimits = told.pours.limits as unknown as Record<
  "count" | "filled_share" | "held_back" | "most_peak_c" | "lift_mm",
  [number, number]
>;

/** The least and the most that a number of a coat may be. */
export const coatLimits = told.coats.limits as unknown as Record<"count" | "solids_pct", [number, number]>;

/** How many bays a part may have, and how narrow one may be. */
export const bayLimits = told.bays;

/** How many people a crew may have, what they may do, and from how many on one mixes for the rest. */
export const crewLimits = told.crew;

type ShapeKind = Part["shape"]["kind"];

interface AskedShape {
  kind: ShapeKind;
  name: string;
  asked: Asked[];
  /** What else a shape of this kind begins with. */
  begins_with: Record<string, unknown>;
}

const shapesTold = told.parts as AskedShape[];

/** The kinds of shape by what they are called, in the order they are offered. */
export const shapeKinds = shapesTold.map(({ kind, name }) => [kind, name] as const);

export const askedOfShape = Object.fromEntries(shapesTold.map((each) => [each.kind, each])) as Record<
  ShapeKind,
  AskedShape
>;

/** A size of a damage. */
export type DamageSize = "width_mm" | "length_mm" | "depth_mm" | "skin_mm" | "core_mm" | "gap_mm";

/** What is asked of each kind of damage first, and whether it is ground back and patched. */
export const askedOfDamage = Object.fromEntries(told.damage.map((each) => [each.kind, each])) as unknown as Record<
  NonNullable<Damage["kind"]>,
  { patched: boolean; asked: Asked<DamageSize>[] }
>;
