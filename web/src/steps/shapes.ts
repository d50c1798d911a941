import type { Dimension, Part } from "../api/client";

export type Shape = Part["shape"];
export type Kind = Shape["kind"];

interface Measure {
  field: string;
  label: string;
  dimension: Dimension;
  /** Of the trade, in the core's unit. */
  example: number;
}

const length = (field: string, label: string, example: number): Measure => ({
  field,
  label,
  dimension: "length",
  example,
});

/** How each kind of shape is called, and what is measured of it, in the order of the tape. */
export const shapes: Record<Kind, { name: string; measures: readonly Measure[] }> = {
  rectangle: {
    name: "width × length",
    measures: [length("width_m", "Width", 1.2), length("length_m", "Length", 3.8)],
  },
  girths: { name: "girths at stations", measures: [] },
  trapezoid: {
    name: "trapezoid",
    measures: [
      length("side_a_m", "One side", 0.8),
      length("side_b_m", "The other, parallel", 1.2),
      length("height_m", "Between them", 0.5),
    ],
  },
  triangle: { name: "triangle", measures: [length("base_m", "Base", 1.2), length("height_m", "Height", 0.5)] },
  disc: { name: "disc", measures: [length("diameter_m", "Diameter", 1.35)] },
  cylinder: {
    name: "skin of a cylinder",
    measures: [length("diameter_m", "Diameter", 0.3), length("length_m", "Length", 2)],
  },
  frustum: {
    name: "skin of a cone",
    measures: [
      length("diameter_a_m", "One diameter", 1),
      length("diameter_b_m", "The other", 0.4),
      length("height_m", "Height", 0.4),
    ],
  },
  strip: {
    name: "strip along an edge",
    measures: [length("width_m", "Width", 0.15), length("length_m", "Length", 4.1)],
  },
  area: {
    name: "area",
    measures: [{ field: "area_m2", label: "Area of one", dimension: "area", example: 2.4 }],
  },
  patch: {
    name: "patch over a hole",
    measures: [
      length("width_m", "Hole, width", 0.12),
      length("length_m", "Hole, length", 0.18),
      { field: "depth_mm", label: "Laminate there", dimension: "thickness", example: 4 },
    ],
  },
};

export const kinds = Object.entries(shapes).map(([kind, { name }]) => [kind, name] as const);

/** A shape of a kind with nothing measured yet, but what is known of the last one's same measures. */
export function freshShape(kind: Kind, before: Shape, id: () => string): Shape {
  const typed = {};
  const old = before as Record<string, unknown>;
  const empty = Object.fromEntries(shapes[kind].measures.map(({ field }) => [field, old[field] ?? null]));
  switch (kind) {
    case "girths":
      return {
        kind,
        stations: [0, 1, 2].map(() => ({ id: id(), at_m: null, girth_m: null, typed: {} })),
      };
    case "cylinder":
      return { kind, ...empty, around: 1, typed };
    case "strip":
      return { kind, ...empty, sides: 1, typed };
    case "patch":
      return { kind, ...empty, through: true, behind: false, taper: 12, step_mm: 20, order: "largest first", typed };
    default:
      return { kind, ...empty, typed } as Shape;
  }
}

export const measureOf = (shape: Shape, field: string): number | null | undefined =>
  (shape as unknown as Record<string, number | null | undefined>)[field];

export const typedOf = (shape: Shape, field: string): string | undefined =>
  shape.kind === "girths" ? undefined : shape.typed?.[field];
