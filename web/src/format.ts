/** How numbers are printed. Nothing here works anything out but the place of a decimal mark. */

const NARROW_SPACE = "\u202f";

/** English as it is written in the shop's country; none where the shop did not say. */
let locale = "";
let decimal = ".";
let formatters = new Map<string, Intl.NumberFormat>();

/** Numbers from here on are written as in this country. */
export function writeAsIn(chosen: string): void {
  if (chosen === locale) return;
  locale = chosen;
  decimal = marksOf(new Intl.NumberFormat(chosen || "en"), "decimal", ".");
  formatters = new Map();
}

const marksOf = (formatter: Intl.NumberFormat, type: "decimal" | "group", otherwise: string) =>
  formatter.formatToParts(1234567.5).find((part) => part.type === type)?.value ?? otherwise;

function formatterOf(least: number, most: number): Intl.NumberFormat {
  const key = `${least}-${most}`;
  let formatter = formatters.get(key);
  if (!formatter) {
    formatter = new Intl.NumberFormat(locale || "en", { minimumFractionDigits: least, maximumFractionDigits: most });
    formatters.set(key, formatter);
  }
  return formatter;
}

/** Thousands are parted by a comma where the country does so, else by a space: a point would be read back as decimals. */
function written(value: number, least: number, most: number): string {
  const formatter = formatterOf(least, most);
  if (locale && decimal === "." && Math.abs(value) < 1000) return formatter.format(value);
  return formatter
    .formatToParts(value)
    .map((part) =>
      part.type !== "group" ? part.value : locale && decimal === "." && part.value === "," ? "," : NARROW_SPACE,
    )
    .join("");
}

export const fixed = (value: number, digits: number) => written(value, digits, digits);

/** What a tool reads: all the decimals of its marks, and no others. */
export const asRead = (value: number) => written(value, 0, 3);

/** The same without the digits that say nothing. */
export const short = (text: string) => (text.includes(decimal) ? text.replace(/[.,]?0+$/, "") : text);

/** A number's text in the shop's marks or in others; what is no number, or could be two, stays as typed. */
export function readNumber(text: string): number | string | null {
  const words = text.trim().replace(/(?<=\d)[\s'’](?=\d{3})/g, "");
  if (!words) return null;
  const parted = /^[-+]?[1-9]\d{0,2}([.,])\d{3}$/.exec(words)?.[1];
  if (parted && parted !== decimal) return parted === "," && locale ? Number(words.replace(",", "")) : text;
  const value = Number(words.replace(",", "."));
  return Number.isFinite(value) ? value : text;
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
  if (chance < 0.001) return `under 1 in ${fixed(1000, 0)}`;
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
export const plain = (value: number) => String(Number(value.toPrecision(5))).replace(".", decimal);

/** A very small number with its power of ten, in the shop's marks: 6.0 × 10⁻¹¹. */
export function tenPower(value: number): string {
  const [digits = "0", power = "0"] = value.toExponential(1).split("e");
  const raised = [...power.replace("+", "")].map((each) => (each === "-" ? "⁻" : "⁰¹²³⁴⁵⁶⁷⁸⁹"[Number(each)])).join("");
  return `${fixed(Number(digits), 1)} × 10${raised}`;
}
