import type { FlowMap, Infusion } from "../api/client";
import { between } from "./heat";

type InRoom = Infusion["by_room"][number];
export type Point = readonly [number, number];

/** The same infusion in a room between those that were worked out; where one of two never fills, neither does it. */
export function inRoom(told: Infusion, roomC: number): InRoom {
  const rooms = told.by_room;
  const above = Math.max(
    1,
    rooms.findIndex((each) => each.room_c >= roomC),
  );
  const [low, high] = [rooms[above - 1], rooms[above]] as [InRoom, InRoom];
  const share = Math.min(1, Math.max(0, (roomC - low.room_c) / Math.max(1e-9, high.room_c - low.room_c)));
  const mix = (a: number, b: number) => a + share * (b - a);
  const either = (a: number | null | undefined, b: number | null | undefined) =>
    a == null || b == null ? (share < 0.5 ? (a ?? null) : (b ?? null)) : mix(a, b);
  return {
    room_c: roomC,
    full_min: either(low.full_min, high.full_min),
    sets_min: mix(low.sets_min, high.sets_min),
    margin: mix(low.margin, high.margin),
    at_min: low.at_min.map((minute, at) => either(minute, high.at_min[at])),
  };
}

/** How far the front has come after so many minutes, in S. */
export function sAt(told: Infusion, room: InRoom, minute: number): number {
  const known = room.at_min.map((each, at) => [each, told.levels_s[at] ?? 0] as const).filter(([each]) => each != null);
  return between(
    known.map(([each]) => each ?? 0),
    known.map(([, s]) => s),
    minute,
  );
}

/** How far the resin comes before it sets, in S: by its margin over the whole fill. */
export const sGel = (told: Infusion, room: InRoom) => room.margin * told.full_s;

const STEPS = [0.25, 0.5, 1, 2, 5, 10, 15, 20, 30, 60, 120, 240, 480];
const MOST_LINES = 9;

/** Minutes that a front is drawn at: round ones, not too many. */
export function frontMinutes(until: number): number[] {
  const step = STEPS.find((each) => until / each <= MOST_LINES) ?? 480;
  return Array.from({ length: Math.floor((until * 0.999) / step) }, (_, at) => (at + 1) * step);
}

/** How far the raster is drawn out past the part, in cells. */
export const PADDED = 3;

/** The raster, wider all round, with what lies outside filled in from beside it, so that lines run out past the edge. */
export function spreadOut(map: FlowMap): { columns: number; rows: number; values: number[] } {
  const [columns, rows] = [map.columns + 2 * PADDED, map.rows + 2 * PADDED];
  let values: (number | null)[] = Array.from({ length: columns * rows }, (_, at) => {
    const [x, y] = [(at % columns) - PADDED, Math.floor(at / columns) - PADDED];
    return x < 0 || y < 0 || x >= map.columns || y >= map.rows ? null : (map.at_s[y * map.columns + x] ?? null);
  });
  for (let ring = 0; ring < PADDED; ring += 1) {
    const before = values;
    values = before.map((value, at) => {
      if (value != null) return value;
      const [x, y] = [at % columns, Math.floor(at / columns)];
      const beside = NEXT_TO.map(([dx, dy]) =>
        x + dx < 0 || y + dy < 0 || x + dx >= columns || y + dy >= rows ? null : before[at + dy * columns + dx],
      ).filter((each) => each != null);
      return beside.length ? beside.reduce((sum, each) => sum + each, 0) / beside.length : null;
    });
  }
  // Far outside nothing is drawn: it only must not bend the lines inside.
  return { columns, rows, values: values.map((value) => value ?? 0) };
}

const NEXT_TO = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const;
