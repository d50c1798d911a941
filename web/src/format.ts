/** How numbers are printed. Nothing here works anything out but the place of a decimal mark. */

/** What parts thousands, as the shop in hand reads them back: a narrow space, or a comma where it says so. */
let between = "\u202f";
export function partThousandsBy(mark: string): void {
  between = mark;
}

const thousands = (text: string) => text.replace(/\B(?=(\d{3})+(?!\d))/g, between);

export function fixed(value: number, digits: number): string {
  const [whole = "", part] = value.toFixed(digits).split(".");
  return thousands(whole) + (part ? `.${part}` : "");
}

/** What a tool reads: all the decimals of its marks, and no others. */
export function asRead(value: number): string {
  const decimals = String(Number(value.toFixed(3))).split(".")[1] ?? "";
  return fixed(value, decimals.length);
}

/** A number as an inch rule is read: whole, and a fraction in its lowest terms. */
export function inParts(value: number, parts: number): string {
  const count = Math.round(Math.abs(value) * parts);
  const [whole, rest] = [Math.floor(count / parts), count % parts];
  let divisor = parts;
  while (rest && (rest % divisor || parts % divisor)) divisor /= 2;
  const share = rest ? `${rest / divisor}/${parts / divisor}` : "";
  const said = whole || !rest ? `${fixed(whole, 0)} ${share}`.trim() : share;
  return value < 0 && count ? `-${said}` : said;
}

export interface Printed {
  number: string;
  unit: string;
}

export const minutes = (min: number) => fixed(min, min < 10 ? 1 : 0);
export const percent = (share: number, digits = 0) => fixed(share * 100, digits);
export function longTime(min: number): string {
  if (min < 90) return `${minutes(min)} min`;
  return min < 48 * 60 ? `${fixed(min / 60, 1)} h` : `${fixed(min / 1440, 1)} days`;
}

/** A chance as builders say it: one pot in so many. */
export function oneIn(chance: number): string {
  if (chance < 0.001) return "under 1 in 1,000";
  return `1 in ${fixed(Number((1 / chance).toPrecision(2)), 0)}`;
}

/** Words with the article that they are said with: an 85 g pot, a 110 g pot. */
export function withArticle(words: string): string {
  const vowel = /^\d/.test(words)
    ? /^(8|1[18](?![\d.])|1[18][,\u202f]\d{3}(?![,\d]))/.test(words)
    : /^([aeio]|u(?!ni|se)|hour)/i.test(words);
  return `${vowel ? "an" : "a"} ${words}`;
}

export const plural = (count: number, one: string, many = `${one}s`) =>
  `${fixed(count, 0)} ${count === 1 ? one : many}`;

/** What a number is typed back as in a field. */
export const plain = (value: number) => String(Number(value.toPrecision(5)));
