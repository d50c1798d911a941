import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type PotResult, type Run, taken } from "../api/client";
import { fixed } from "../format";
import { newTap, useJob } from "../job/context";
import { useShop } from "../shop";
import { Button } from "../ui/Button";

type Kind = "poured" | "used by" | "gelled at" | "dumped";
const kinds: readonly (readonly [Kind, string])[] = [
  ["poured", "Poured"],
  ["used by", "Used up"],
  ["gelled at", "Gelled"],
  ["dumped", "Dumped"],
];

/** What this pot did, written down with one press; the time is now unless another is typed. */
export function RecordPot({ run, pot, planned }: { run: Run; pot: number; planned: PotResult }) {
  const { job } = useJob();
  const { units, clock } = useShop();
  const queries = useQueryClient();
  const [time, setTime] = useState("");
  const [note, setNote] = useState("");
  const [a, setA] = useState("");
  const [b, setB] = useState("");
  const story = run.stories.find((other) => other.pot === pot);
  const done = new Map(story?.events.map((event) => [event.kind, event]));
  const twoPart = planned.ticket?.pours[1]?.what !== "Catalyst" && planned.ticket?.by === "weight";
  const grams = (text: string) => (text.trim() ? Number(text.replace(",", ".")) : null);
  const tap = useMutation({
    mutationFn: (kind: Kind) =>
      taken(
        client.POST("/api/runs/{run_id}/events", {
          params: { path: { run_id: run.id } },
          body: {
            tap_id: newTap(),
            pot,
            kind,
            happened_at: new Date().toISOString(),
            clock: time || null,
            note,
            part_a_g: kind === "poured" ? grams(a) : null,
            part_b_g: kind === "poured" ? grams(b) : null,
          },
        }),
      ),
    onSuccess: () => {
      setTime("");
      setNote("");
      setA("");
      setB("");
      return queries.invalidateQueries({ queryKey: ["runs", job.id] });
    },
  });
  const box = "fig min-h-11 w-full rounded-(--radius) border border-rule bg-sheet px-2.5 text-[17px] hover:border-ink";
  return (
    <div className="border-t border-rule pt-3">
      <h2 className="text-[17px] font-semibold">Write down pot {pot}</h2>
      <p className="lab">
        Run of {clock(run.started_at)}, {units.text("temperature", run.room_c)}, numbers fixed. Change the job, and the
        next run takes the change.
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        {kinds.map(([kind, words]) => {
          const event = done.get(kind);
          return (
            <Button
              key={kind}
              className="min-h-14 text-[17px]"
              disabled={!!event || tap.isPending || (kind !== "poured" && !done.has("poured"))}
              onClick={() => tap.mutate(kind)}
            >
              {words}
              {event ? ` ${clock(event.happened_at)}` : ""}
            </Button>
          );
        })}
      </div>
      {tap.isError && (
        <p role="alert" className="mt-2 text-[14px] text-stop">
          {tap.error.message}
        </p>
      )}
      <div className="mt-3 grid grid-cols-3 gap-2">
        <label className="lab">
          At, if not now
          <input type="time" value={time} onChange={(event) => setTime(event.target.value)} className={box} />
        </label>
        {twoPart && !done.has("poured") && (
          <>
            <label className="lab">
              A poured, g
              <input
                inputMode="decimal"
                value={a}
                placeholder={fixed(planned.ticket?.pours[0]?.amount ?? 0, 0)}
                onChange={(event) => setA(event.target.value)}
                className={box}
              />
            </label>
            <label className="lab">
              B poured, g
              <input
                inputMode="decimal"
                value={b}
                placeholder={fixed(planned.ticket?.pours[1]?.amount ?? 0, 0)}
                onChange={(event) => setB(event.target.value)}
                className={box}
              />
            </label>
          </>
        )}
      </div>
      <label className="lab mt-2 block">
        Note
        <input value={note} maxLength={300} onChange={(event) => setNote(event.target.value)} className={box} />
      </label>
    </div>
  );
}
