/** A date and a time of the shop's clock to a moment, and back: the browser's own zone plays no part. */

const parts = (ms: number, timeZone: string) =>
  Object.fromEntries(
    new Intl.DateTimeFormat("en-GB", {
      timeZone,
      year: "numeric",
      month: "2-digit",
      day: "2-digit",
      hour: "2-digit",
      minute: "2-digit",
      hourCycle: "h23",
    })
      .formatToParts(new Date(ms))
      .map(({ type, value }) => [type, value]),
  );

/** A moment as a date-and-time field holds it. */
export function fieldOf(ms: number, timeZone: string): string {
  const at = parts(ms, timeZone);
  return `${at.year}-${at.month}-${at.day}T${at.hour}:${at.minute}`;
}

/** The moment a date-and-time field means by the shop's clock; null where it is not whole. */
export function momentOf(field: string, timeZone: string): number | null {
  const wanted = Date.parse(`${field}Z`);
  if (Number.isNaN(wanted)) return null;
  let ms = wanted;
  // Twice: the first guess may lie on the other side of a change of the clock.
  for (let turn = 0; turn < 2; turn++) ms += wanted - Date.parse(`${fieldOf(ms, timeZone)}Z`);
  return ms;
}
