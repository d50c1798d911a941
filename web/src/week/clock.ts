/** The week's clock: seven days side by side, each wide in its working hours and narrow in its night. */
import { scaleLinear } from "d3-scale";
import type { WeekDay } from "../api/client";

const HOUR_MS = 3_600_000;
const NIGHT_SHARE = 0.16;
const LEAST_OPEN_H = 8;

export interface WeekClock {
  wide: number;
  dayWide: number;
  /** A moment's place along the drawing, held at its ends. */
  x: (ms: number) => number;
  /** The moment at a place. */
  at: (x: number) => number;
}

/** The hours of a day that are drawn wide: from the first that somebody works to the last, of any day of the week. */
export function openHours(days: readonly WeekDay[], works: readonly (readonly [number, number])[]): [number, number] {
  const hours = days.flatMap((day) => {
    const midnight = Date.parse(day.from_at);
    const spans = [
      ...day.shifts.map(({ from_at, to_at }) => [Date.parse(from_at), Date.parse(to_at)] as const),
      ...works,
    ];
    return spans
      .filter(([begins, ends]) => ends > midnight && begins < Date.parse(day.to_at))
      .flatMap(([begins, ends]) => [
        Math.max(0, (begins - midnight) / HOUR_MS),
        Math.min(24, (ends - midnight) / HOUR_MS),
      ]);
  });
  const [from, to] = [Math.floor(Math.min(8, ...hours)), Math.ceil(Math.max(17, ...hours))];
  return to - from < LEAST_OPEN_H ? [from, from + LEAST_OPEN_H] : [from, to];
}

export function weekClock(days: readonly WeekDay[], wide: number, [opens, closes]: [number, number]): WeekClock {
  const dayWide = wide / days.length;
  const night = closes - opens >= 24 ? 0 : NIGHT_SHARE;
  const before = night * (opens / Math.max(1e-9, 24 - (closes - opens)));
  const knots: [number, number][] = days.flatMap((day, place) => {
    const begins = Date.parse(day.from_at);
    // A day of a change of the clock is no 24 hours long.
    const hour = (Date.parse(day.to_at) - begins) / 24;
    const shares: [number, number][] = [
      [0, 0],
      [opens, before],
      [closes, before + 1 - night],
    ];
    return shares.map(([at, share]): [number, number] => [begins + at * hour, (place + share) * dayWide]);
  });
  knots.push([Date.parse(days.at(-1)?.to_at ?? ""), wide]);
  const apart = knots.filter(([ms], place) => ms !== knots[place - 1]?.[0]);
  const scale = scaleLinear(
    apart.map(([ms]) => ms),
    apart.map(([, x]) => x),
  ).clamp(true);
  return { wide, dayWide, x: scale, at: (x) => scale.invert(x) };
}
