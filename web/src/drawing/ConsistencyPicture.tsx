import type { Joint } from "../api/client";

/** What each consistency looks like, falling off the stick. */
export function ConsistencyPicture({ consistency }: { consistency: Joint["consistency"] }) {
  const shapes = {
    runs: "M31 2h4v16h-4zM10 24a23 4 0 0 0 46 0a23 4 0 0 0-46 0z",
    drapes: "M27 2h12l4 15H23zM9 28c8-8 14-9 24-9s16 1 24 9z",
    peaks: "M8 28c16-2 20-8 26-22c1 10 6 18 24 22z",
    stands: "M14 28V11c4-5 8-1 11-4s8-1 10 1s7-3 10 0s5-1 7 3v17z",
  };
  return (
    <svg viewBox="0 0 66 30" width="66" height="30" className="shrink-0" aria-hidden="true">
      <path d={shapes[consistency]} fill="var(--color-mid)" />
    </svg>
  );
}
