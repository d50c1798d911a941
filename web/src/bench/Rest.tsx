import { useMutation, useQuery } from "@tanstack/react-query";
import { client, taken } from "../api/client";
import { plural } from "../format";
import { newTap } from "../job/context";
import { useShop } from "../shop";
import { BigButton } from "./BigButton";
import { standing } from "./fold";
import { countdown } from "./time";
import { deviationOf, shiftOf } from "./toDo";
import { useBench } from "./useBench";

/** The plan in force beside the rest planned from now: minutes, grams and pots. The new one is taken by a press. */
export function Rest() {
  const { bench, line, stands, state, now_min, at } = useBench();
  const { units, clock, day } = useShop();
  const path = { params: { path: { run_id: bench.run_id } } };
  const mixed = state.pots.filter((pot) => pot.touched_min !== null).length;
  const rest = useQuery({
    // Planned of what is written down: what still waits has to be there first.
    enabled: stands.waits === 0,
    queryKey: ["rest", bench.run_id, mixed, line.taps().length],
    queryFn: () => taken(client.GET("/api/runs/{run_id}/rest", path)),
    gcTime: 0,
  });
  const last = standing(line.taps()).findLast((tap) => tap.kind === "plan taken");
  const take = useMutation({
    mutationFn: () =>
      taken(
        client.POST("/api/runs/{run_id}/plan", { ...path, body: { tap_id: newTap(), instead_of: last?.id ?? null } }),
      ),
    onSuccess: (event) => line.hear(event),
  });
  const far = deviationOf(state);
  const ahead = state.card.pots.filter((_, n) => state.pots[n]?.state === "planned");
  const anew = rest.data?.card?.pots ?? [];
  const grams = (pots: { mass_g: number }[]) => pots.reduce((sum, pot) => sum + pot.mass_g, 0);
  const began = rest.data?.run_sheet?.start_at;
  const ends =
    rest.data?.run_sheet && began ? new Date(began).getTime() + rest.data.run_sheet.laid_by_min * 60_000 : null;
  // The plan in force ends as much later as the run is behind.
  const toLay = state.card.layers.filter((_, n) => state.layers[n]?.laid_min === null);
  const laidBy = toLay.length
    ? at(Math.max(...toLay.map((layer) => layer.planned_laid_min)) + shiftOf(state, now_min))
    : null;
  const when = (ms: number) =>
    `${clock(ms)}${day(new Date(ms).toISOString()) === day(new Date(at(now_min)).toISOString()) ? "" : `, ${day(new Date(ms).toISOString())}`}`;
  return (
    <>
      <p className="text-[1.5rem] leading-snug">
        {mixed === 0
          ? "Nothing is mixed yet: the plan stands as it was issued."
          : `${Math.abs(far.minutes) < 1 ? "On its time" : `${countdown(Math.abs(far.minutes))} ${far.minutes > 0 ? "behind" : "ahead of"} the plan`}, ${
              Math.abs(far.grams) < 1
                ? "as much mixed as planned"
                : `${units.text("mass", Math.abs(far.grams))} ${far.grams > 0 ? "more" : "less"} mixed`
            }, ${far.pots ? `${plural(far.pots, "pot")} lost` : "no pot lost"}.`}
      </p>
      {rest.isError && (
        <p role="alert" className="mt-3 text-stop">
          {rest.error.message}
        </p>
      )}
      <div className="mt-6 grid grid-cols-[auto_1fr_1fr] items-baseline gap-x-6 gap-y-3">
        <span />
        <h2 className="text-[1.25rem] text-ink-soft">In force</h2>
        <h2 className="text-[1.25rem] text-ink-soft">From now</h2>
        <Row name="Pots to mix" was={String(ahead.length)} is={rest.data ? String(anew.length) : "…"} />
        <Row
          name="Resin to mix"
          was={units.text("mass", grams(ahead))}
          is={rest.data ? units.text("mass", grams(anew)) : "…"}
        />
        <Row
          name="All is laid by"
          was={laidBy === null ? "–" : when(laidBy)}
          is={ends === null ? (rest.data ? "–" : "…") : when(ends)}
        />
      </div>
      {rest.data?.run_sheet?.problems.map((words) => (
        <p key={words} className="mt-3 text-[1.25rem] text-resin-ink">
          {words}
        </p>
      ))}
      <div className="mt-6 flex flex-wrap items-center gap-4">
        <BigButton main disabled={!rest.data?.card || take.isPending} onClick={() => take.mutate()}>
          Take the new plan
        </BigButton>
        {rest.data && !rest.data.card && <p className="text-[1.25rem] text-ink-soft">Nothing is left to lay.</p>}
        {take.isSuccess && <p role="status">The new plan is in force: pots go on from {anew[0]?.number}.</p>}
      </div>
      {take.isError && (
        <p role="alert" className="mt-2 text-stop">
          {take.error.message}
        </p>
      )}
      <p className="mt-4 text-[1.125rem] text-ink-soft">
        Planned for the room as it is now, and for what is really on the work. Pots in hand and lanes stay as they were
        issued.
      </p>
    </>
  );
}

function Row({ name, was, is }: { name: string; was: string; is: string }) {
  return (
    <>
      <span className="text-[1.25rem]">{name}</span>
      <span className="fig text-[2rem] leading-none">{was}</span>
      <span className="fig text-[2rem] leading-none">{is}</span>
    </>
  );
}
