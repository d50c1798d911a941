import { useEffect, useState } from "react";

/** A value once it has stopped changing for a while: what is costly to ask is not asked at every step of a drag. */
export function useSettled<T>(value: T, afterMs = 350): T {
  const [settled, settle] = useState(value);
  useEffect(() => {
    const later = window.setTimeout(() => settle(value), afterMs);
    return () => window.clearTimeout(later);
  }, [value, afterMs]);
  return settled;
}
