import { useRef } from "react";

/** What to change: some fields, or some fields worked out from all that was changed before. */
export type Change<T> = Partial<T> | ((now: T) => Partial<T>);

/**
 * Changes to one thing that is kept whole: each is laid over the ones before it and they are sent in turn, so that two
 * fields left in quick succession do not undo each other. `known` tells what is kept at the moment it is called: what is
 * on the screen may be older.
 */
export function useMerged<T extends object>(
  known: () => T,
  put: (next: T) => Promise<boolean>,
): (change: Change<T>) => Promise<void> {
  const held = useRef<T | null>(null);
  const under = useRef(0);
  const turn = useRef<Promise<void>>(Promise.resolve());
  return (change) => {
    const now = held.current ?? known();
    const next = { ...now, ...(typeof change === "function" ? change(now) : change) };
    held.current = next;
    under.current += 1;
    turn.current = turn.current.then(async () => {
      const kept = await put(held.current ?? next);
      under.current -= 1;
      if (!kept || under.current === 0) held.current = null;
    });
    return turn.current;
  };
}
