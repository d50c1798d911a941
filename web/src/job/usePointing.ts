import { useEffect } from "react";
import { useLocation } from "react-router";

const SHOWN_MS = 2600;

/** The path that a caution or a problem sent the reader to, if any. */
export function usePointedPath(): string {
  const { state } = useLocation();
  return (state as { at?: string } | null)?.at ?? "";
}

/** The nearest thing on screen to a path: its own field, or what holds it. */
function placeOf(path: string): HTMLElement | null {
  for (let at = path; at; at = at.slice(0, Math.max(0, at.lastIndexOf(".")))) {
    const found = document.querySelector<HTMLElement>(`[data-path="${CSS.escape(at)}"]`);
    if (found) return found;
  }
  return null;
}

/** Brings what was pointed at into sight, marks it for a moment and puts the focus there. */
export function usePointing(ready: unknown): void {
  const { state, key } = useLocation();
  const path = (state as { at?: string } | null)?.at;
  // biome-ignore lint/correctness/useExhaustiveDependencies: each arrival points once, even at the same place again
  useEffect(() => {
    if (!path || !ready) return;
    let marked: HTMLElement | null = null;
    const frame = requestAnimationFrame(() => {
      marked = placeOf(path);
      for (let at = marked?.closest("details"); at; at = at.parentElement?.closest("details")) at.open = true;
      marked?.scrollIntoView({ block: "center" });
      marked?.classList.add("pointed-at");
      marked?.querySelector<HTMLElement>("input, button, [role=combobox], [tabindex]")?.focus({ preventScroll: true });
    });
    const timer = setTimeout(() => marked?.classList.remove("pointed-at"), SHOWN_MS);
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
      marked?.classList.remove("pointed-at");
    };
  }, [key, path]);
}
