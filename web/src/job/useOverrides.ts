import type { Caution } from "../api/client";
import { newId, useJob } from "./context";

/** Going on past a stop, with a reason that stays in the job, and taking that back. */
export function useOverrides() {
  const { edit } = useJob();
  return {
    give: (caution: Caution, reason: string) =>
      edit((before) => ({
        ...before,
        overrides: [
          // An earlier reason about the same thing is of what was said then; this one takes its place.
          ...(before.overrides ?? []).filter((old) => old.caution_id !== caution.id || old.about !== caution.about),
          {
            id: newId(),
            caution_id: caution.id,
            about: caution.about,
            said: caution.said,
            reason,
            by: "",
            at: "",
          },
        ],
      })),
    withdraw: (caution: Caution) =>
      edit((before) => ({
        ...before,
        overrides: (before.overrides ?? []).filter(
          (old) => old.caution_id !== caution.id || old.about !== caution.about,
        ),
      })),
  };
}
