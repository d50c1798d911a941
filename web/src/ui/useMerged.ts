import { useRef } from "react";

/**
 * Changes to one thing that is kept whole: each is laid over the ones before it and they are sent in turn, so that two
 * fields left in quick succession do not undo each other.
 */
export function useMerged<T extends object>(
  known: T,
  put: (next: T) => Promise<boolean>,
): (change: Partial<T>) => Promise<void> {
  const held = useRef(known);
  const latest = useRef(known);
  latest.current = known;
  const under = useRef(0);
  const turn = useRef<Promise<void>>(Promise.resolve());
  return (change) => {
    if (under.current === 0) held.current = latest.current;
    held.current = { ...held.current, ...change };
    under.current += 1;
    turn.current = turn.current.then(async () => {
      const taken = await put(held.current);
      under.current -= 1;
      if (!taken) held.current = latest.current;
    });
    return turn.current;
  };
}
