import type { Pour } from "../../api/client";
import fresh from "../../api/fresh.json";
import { newId } from "../../job/context";

export const shapes = [
  ["even", "Even, or tapering"],
  ["readings", "Read along it"],
  ["disc", "A disc"],
] as const satisfies readonly (readonly [Pour["shape"], string])[];

export const grounds = [
  ["softwood", "softwood"],
  ["hardwood", "hardwood"],
  ["board", "board"],
  ["laminate mould", "a laminate mould"],
  ["foam", "foam"],
  ["stone", "stone or concrete"],
] as const satisfies readonly (readonly [Pour["lies_in"], string])[];

/** Stands for no filling in a list, which holds no empty value. */
export const CLEAR = "clear";

export const fillings = [
  [CLEAR, "nothing: clear resin"],
  ["chopped carbon", "chopped carbon tow"],
  ["chopped glass", "chopped glass strand"],
  ["filler", "a filler of the shelf"],
] as const;

/** A casting with nothing measured yet. */
export const freshPour = (name: string): Pour => ({ ...(fresh.pour as Omit<Pour, "id">), id: newId(), name });
