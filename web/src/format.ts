/** How numbers are printed. Nothing here works anything out but the place of a decimal mark. */

const thousands = (text: string) => text.replace(/\B(?=(\d{3})+(?!\d))/g, ",");

export function fixed(value: number, digits: number): string {
  const [whole = "", part] = value.toFixed(digits).split(".");
  return thousands(whole) + (part ? `.${part}` : "");
}

export interface Printed {
  number: string;
  unit: string;
}

/** Grams, in kilograms from two of them on. */
export function mass(grams: number): Printed {
  if (Math.abs(grams) >= 2000) return { number: fixed(grams / 1000, grams >= 20000 ? 1 : 2), unit: "kg" };
  return { number: fixed(grams, grams < 10 ? 1 : 0), unit: "g" };
}

export const massText = (grams: number) => `${mass(grams).number} ${mass(grams).unit}`;
export const area = (m2: number) => fixed(m2, m2 < 1 ? 3 : m2 < 100 ? 2 : 1);
export const minutes = (min: number) => fixed(min, min < 10 ? 1 : 0);
export const percent = (share: number, digits = 0) => fixed(share * 100, digits);
export const degrees = (celsius: number) => fixed(celsius, 1);

export function longTime(min: number): string {
  if (min < 90) return `${minutes(min)} min`;
  return min < 48 * 60 ? `${fixed(min / 60, 1)} h` : `${fixed(min / 1440, 1)} days`;
}

/** A chance as builders say it: one pot in so many. */
export function oneIn(chance: number): string {
  if (chance < 0.001) return "under 1 in 1,000";
  return `1 in ${fixed(Number((1 / chance).toPrecision(2)), 0)}`;
}

export const clock = (iso: string) =>
  new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", hour12: false });
export const day = (iso: string) => new Date(iso).toLocaleDateString("en-GB", { day: "numeric", month: "short" });
export const plural = (count: number, one: string, many = `${one}s`) =>
  `${fixed(count, 0)} ${count === 1 ? one : many}`;

/** What a number is typed back as in a field. */
export const plain = (value: number) => String(Number(value.toPrecision(5)));
