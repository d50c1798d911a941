import { useEffect, useState, useSyncExternalStore } from "react";
import type { Workbox } from "workbox-window";

const LOOKED_FOR_EVERY_MS = 30 * 60_000;
const heard = new Set<() => void>();
let worker: Workbox | undefined;
let waits = false;

/** Keeps the pages of this program on the device, and finds out when there is a new version of them. */
export async function watchForNewVersions(): Promise<void> {
  if (!("serviceWorker" in navigator) || !window.isSecureContext || import.meta.env.DEV) return;
  // The first view does not wait for it.
  const { Workbox } = await import("workbox-window");
  worker = new Workbox("/static/sw.js", { scope: "/" });
  worker.addEventListener("waiting", () => {
    waits = true;
    for (const hear of heard) hear();
  });
  const look = () => void worker?.update().catch(() => undefined);
  // A browser that forbids it works with the server alone.
  void worker.register().catch(() => undefined);
  window.setInterval(look, LOOKED_FOR_EVERY_MS);
  window.addEventListener("online", look);
}

function take(): void {
  worker?.addEventListener("controlling", () => window.location.reload());
  worker?.messageSkipWaiting();
}

/** What takes a new version, where one waits and the moment is quiet. */
export function useQuietMoment(quiet: boolean): (() => void) | undefined {
  const newer = useSyncExternalStore(
    (hear) => {
      heard.add(hear);
      return () => heard.delete(hear);
    },
    () => waits,
  );
  return newer && quiet ? take : undefined;
}

/** Takes a new version by itself, where nothing is open that it could disturb: once, as the place is come to. */
export function useNewVersionHere(): void {
  const newer = useQuietMoment(true);
  const [came] = useState(Date.now);
  useEffect(() => {
    if (newer && Date.now() - came < JUST_COME_MS) newer();
  }, [newer, came]);
}

const JUST_COME_MS = 10_000;
