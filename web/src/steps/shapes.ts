import type { Dimension, Part } from "../api/client";

export type Shape = Part["shape"];
export type Kind = Shape["kind"];

interface Measure {
  field: string;
  label: string;
  dimension: Dimension;
  placeholder: string;
}

const length = (field: string, label: string, placeholder: string): Measure => ({
  field,
  label,
  dimension: "length",
  placeholder,
});

/** How each kind of shape is called, and what is measured of it, in the order of the tape. */
export const shapes: Record<Kind, { name: string; measures: readonly Measure[] }> = {
  rectangle: {
    name: "width × length",
    measures: [length("width_m", "Width", "1.2 m"), length("length_m", "Length", "12 ft 6 in")],
  },
  girths: { name: "girths at stations", measures: [] },
  trapezoid: {
    name: "trapezoid",
    measures: [
      length("side_a_m", "One side", "0.8 m"),
      length("side_b_m", "The other, parallel", "1.2 m"),
      length("height_m", "Between them", "0.5 m"),
    ],
  },
  triangle: { name: "triangle", measures: [length("base_m", "Base", "1.2 m"), length("height_m", "Height", "0.5 m")] },
  disc: { name: "disc", measures: [length("diameter_m", "Diameter", "1.35 m")] },
  cylinder: {
    name: "skin of a cylinder",
    measures: [length("diameter_m", "Diameter", "0.3 m"), length("length_m", "Length", "2 m")],
  },
  frustum: {
    name: "skin of a cone",
    measures: [
      length("diameter_a_m", "One diameter", "1 m"),
      length("diameter_b_m", "The other", "0.4 m"),
      length("height_m", "Height", "0.4 m"),
    ],
  },
  strip: {
    name: "strip along an edge",
    measures: [length("width_m", "Width", "150 mm"), length("length_m", "Length", "4.1 m")],
  },
  area: {
    name: "area",
    measures: [{ field: "area_m2", label: "Area of one", dimension: "area", placeholder: "2.4 m²" }],
  },
  patch: {
    name: "patch over a hole",
    measures: [
      length("width_m", "Hole, width", "120 mm"),
      length("length_m", "Hole, length", "180 mm"),
      { field: "depth_mm", label: "Laminate there", dimension: "thickness", placeholder: "4 mm" },
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
