import { askedOfShape } from "../../api/asked";
import type { Dimension, Part } from "../../api/client";

export type Shape = Part["shape"];
export type Kind = Shape["kind"];

/** What a measure is, by the unit that its name ends with. */
export const dimensionOf = (field: string): Dimension =>
  field.endsWith("_m2") ? "area" : field.endsWith("_mm") ? "thickness" : "length";

const STATIONS_AT_FIRST = 3;

/** A shape of a kind with nothing measured yet, but what is known of the last one's same measures. */
export function freshShape(kind: Kind, before: Shape, id: () => string): Shape {
  if (kind === "girths") {
    const station = () => ({ id: id(), at_m: null, girth_m: null, typed: {} });
    return { kind, stations: Array.from({ length: STATIONS_AT_FIRST }, station) };
  }
  const { asked, begins_with } = askedOfShape[kind];
  const old = before as Record<string, unknown>;
  const known = Object.fromEntries(asked.map(({ field }) => [field, old[field] ?? null]));
  return { kind, ...known, ...begins_with, typed: {} } as Shape;
}

export const measureOf = (shape: Shape, field: string): number | null | undefined =>
  (shape as unknown as Record<string, number | null | undefined>)[field];

export const typedOf = (shape: Shape, field: string): string | undefined =>
  shape.kind === "girths" ? undefined : shape.typed?.[field];
