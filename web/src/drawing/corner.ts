import { usual } from "../api/asked";
import type { Joint } from "../api/client";

/** A point in millimetres: x along the base from the corner, y up from it. */
export type Point = readonly [number, number];

/** One side of a corner: its apex, the directions of its two faces, and the angle between them. */
export interface Wedge {
  apex: Point;
  base: Point;
  rise: Point;
  angle: number;
}

/** Faces that lie on one another make no corner, and faces in line a seam, degrees. */
const { least_angle_deg: LEAST_DEG, flat_from_deg: FLAT_FROM_DEG } = usual;

/** Whether a corner's faces lie in line: a seam with strips and no fillet. */
export const isFlat = ({ kind, angle_deg }: Joint) => kind === "corner" && angle_deg >= FLAT_FROM_DEG;

/** Whether its faces stand far enough apart to be drawn, on both sides of a panel. */
export const isDrawn = ({ angle_deg, sides }: Joint) =>
  angle_deg >= LEAST_DEG && (sides === 1 || angle_deg <= 180 - LEAST_DEG || angle_deg >= FLAT_FROM_DEG);

const along = (from: Point, to: Point, by: number): Point => [from[0] + to[0] * by, from[1] + to[1] * by];

/** The wedge the fillet lies in, and the one across the panel where there are two. */
export function wedgesOf(joint: Joint): Wedge[] {
  const angle = (joint.angle_deg * Math.PI) / 180;
  const rise: Point = [Math.cos(angle), Math.sin(angle)];
  const near: Wedge = { apex: [0, 0], base: [1, 0], rise, angle };
  if (joint.sides === 1 || isFlat(joint)) return [near];
  const across = joint.panel_thickness_mm / Math.sin(angle);
  return [near, { apex: [-across, 0], base: [-1, 0], rise, angle: Math.PI - angle }];
}

/** From the apex to where a fillet meets a face: r cot(θ/2). */
export const legOf = (radius: number, angle: number) => radius / Math.tan(angle / 2);

/** The way out of the corner, halfway between its faces. */
export function outOf({ base, rise, angle }: Wedge): Point {
  const size = 2 * Math.cos(angle / 2);
  return [(base[0] + rise[0]) / size, (base[1] + rise[1]) / size];
}

/** How far out of the apex the middle of a fillet's face lies: its throat. */
export const throatOf = (radius: number, angle: number) => radius * (1 / Math.sin(angle / 2) - 1);

/** Where a strip ends on each face: (w − r(π − θ))/2 + r cot(θ/2), with what lies beneath taken from the radius. */
export function endOf(width: number, radius: number, angle: number, beneath: number): number {
  return (width - (radius - beneath) * (Math.PI - angle)) / 2 + legOf(radius, angle);
}

/** The width of a strip that ends there. */
export function widthOf(end: number, radius: number, angle: number, beneath: number): number {
  return 2 * (end - legOf(radius, angle)) + (radius - beneath) * (Math.PI - angle);
}

const TURNS = 24;

/** The fillet's face, raised by what lies on it, from one end on the base to the same on the rise. */
function faceOf(wedge: Wedge, radius: number, raised: number, end: number): Point[] {
  const { apex, base, rise, angle } = wedge;
  const out = outOf(wedge);
  const centre = along(apex, out, radius / Math.sin(angle / 2));
  // Off each face, into the open.
  const off = (face: Point, other: Point): Point => {
    const across: Point = [-face[1], face[0]];
    return across[0] * other[0] + across[1] * other[1] > 0 ? across : [-across[0], -across[1]];
  };
  const [offBase, offRise] = [off(base, rise), off(rise, base)];
  const inner = radius - raised;
  const arc = Array.from({ length: TURNS + 1 }, (_, n): Point => {
    const share = n / TURNS;
    const [from, to] = [Math.atan2(-offBase[1], -offBase[0]), Math.atan2(-offRise[1], -offRise[0])];
    let turn = to - from;
    if (turn > Math.PI) turn -= 2 * Math.PI;
    if (turn < -Math.PI) turn += 2 * Math.PI;
    return along(centre, [Math.cos(from + turn * share), Math.sin(from + turn * share)], inner);
  });
  return [along(along(apex, base, end), offBase, raised), ...arc, along(along(apex, rise, end), offRise, raised)];
}

/** The fillet as an outline. */
export function filletOf(wedge: Wedge, radius: number): Point[] {
  return [wedge.apex, ...faceOf(wedge, radius, 0, legOf(radius, wedge.angle))];
}

/** A strip as an outline: its own thickness over what lies beneath it. */
export function stripOf(wedge: Wedge, radius: number, beneath: number, thick: number, end: number): Point[] {
  return [...faceOf(wedge, radius, beneath, end), ...faceOf(wedge, radius, beneath + thick, end).reverse()];
}

/** A panel lying behind a face, so long and so thick, away from the open side. */
export function panelOf(apex: Point, face: Point, behind: Point, long: number, thick: number): Point[] {
  const far = along(apex, face, long);
  return [apex, far, along(far, behind, thick), along(apex, behind, thick)];
}
