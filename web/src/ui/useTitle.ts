import { useEffect } from "react";

/** Names the page in the browser's tab, its own place first. */
export function useTitle(...places: string[]): void {
  const title = [...places.filter(Boolean), "Inch Cradle"].join(" · ");
  useEffect(() => {
    document.title = title;
  }, [title]);
}
