import { type RefObject, useEffect, useState } from "react";

/** Fewer are all drawn. */
const MANY = 4;
/** So many are ready above and below what is in sight. */
const READY = 6;

/** Of a picture with many rows, from which to which there is something to draw: those in sight, and some beside them. */
export function useRowsInSight(box: RefObject<Element | null>, rows: number): readonly [number, number] {
  const [sight, setSight] = useState<readonly [number, number]>([0, MANY]);
  useEffect(() => {
    if (rows <= MANY) return;
    const look = () => {
      const place = box.current?.getBoundingClientRect();
      if (!place) return;
      const row = place.height / rows || 1;
      const from = Math.max(0, Math.floor(-place.top / row) - READY);
      const to = Math.min(rows, Math.ceil((window.innerHeight - place.top) / row) + READY);
      setSight((before) => (before[0] === from && before[1] === to ? before : [from, to]));
    };
    look();
    window.addEventListener("scroll", look, { passive: true, capture: true });
    window.addEventListener("resize", look);
    return () => {
      window.removeEventListener("scroll", look, { capture: true });
      window.removeEventListener("resize", look);
    };
  }, [box, rows]);
  return rows <= MANY ? [0, rows] : sight;
}
