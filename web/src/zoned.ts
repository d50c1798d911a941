/** A moment as the date and time of the shop's clock: the browser's own zone plays no part. */

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

/** A moment as it is written for machines: its date, then its hour. */
export function fieldOf(ms: number, timeZone: string): string {
  const at = parts(ms, timeZone);
  return `${at.year}-${at.month}-${at.day}T${at.hour}:${at.minute}`;
}
