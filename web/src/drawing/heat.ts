import { scaleLinear } from "d3-scale";

/** How warm it is as a tint: fresh resin at the room, old at the most it may come to, red at smoking. Never colour alone. */
export function heatTint(celsius: number, roomC: number, mostC: number): string {
  const along = scaleLinear([roomC, mostC, Math.max(mostC + 20, 120)], [0, 1, 2]).clamp(true)(celsius);
  const mix = (from: string, to: string, share: number) =>
    `color-mix(in oklab, var(--color-${to}) ${Math.round(100 * share)}%, var(--color-${from}))`;
  return along <= 1 ? mix("fresh", "mid", along) : mix("mid", "kick-fill", along - 1);
}

/** A value between the points of a curve, held at its ends. */
export function between(xs: readonly number[], ys: readonly number[], x: number): number {
  const at = xs.findIndex((each) => each >= x);
  if (at === 0) return ys[0] ?? 0;
  if (at < 0) return ys.at(-1) ?? 0;
  const [a = 0, b = 1, p = 0, q = 0] = [xs[at - 1], xs[at], ys[at - 1], ys[at]];
  return p + ((q - p) * (x - a)) / Math.max(1e-9, b - a);
}
