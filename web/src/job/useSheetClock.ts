import type { RunSheet } from "../api/client";
import { useShop } from "../shop";

const MINUTE_MS = 60_000;

export interface SheetClock {
  /** The moment of a minute of the sheet, ms. */
  at: (minute: number) => number;
  /** A moment as it is said: the time, and the day where it is another than the start's. */
  words: (ms: number) => string;
  say: (minute: number) => string;
}

/** Minutes of a run sheet by the shop's own clock. */
export function useSheetClock(sheet: RunSheet): SheetClock {
  const { clock, weekday } = useShop();
  const start = Date.parse(sheet.start_at ?? "2001-01-01T00:00:00Z");
  const first = weekday(start);
  const at = (minute: number) => start + minute * MINUTE_MS;
  const words = (ms: number) => {
    const day = weekday(ms);
    return day === first ? clock(ms) : `${day} ${clock(ms)}`;
  };
  return { at, words, say: (minute) => words(at(minute)) };
}
