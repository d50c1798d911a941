import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { client, type Happened, type PotResult, type Run, taken } from "../../api/client";
import { asRead, fixed } from "../../format";
import { newTap, useJob } from "../../job/context";
import { againOf, tapOf } from "../../job/useRuns";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { useMoment } from "../../ui/useMoment";
import { useReading } from "../../ui/useReading";
import { RatioCheck } from "./RatioCheck";
import { TakeBack } from "./TakeBack";

const kinds = [
  ["touched", "Poured"],
  ["filler in", "Thickened"],
  ["used up", "Used up"],
  ["gelled", "Gelled"],
  ["dumped", "Dumped"],
] as const satisfies readonly (readonly [Happened["kind"], string])[];
type Kind = (typeof kinds)[number][0];

/** The pours as A and B, or resin and catalyst, whichever goes in first. */
const inTheirParts = (ticket: PotResult["ticket"]) => {
  const pours = ticket?.pours ?? [];
  return ticket?.b_first ? [...pours].reverse() : pours;
};

/** An event in the words of its button. */
export const saidOf = (kind: string) => (kinds.find(([each]) => each === kind)?.[1] ?? kind).toLowerCase();

const box = "fig min-h-11 w-full rounded-(--radius) border bg-sheet px-2.5 text-[1.0625rem] hover:border-ink";

/** What this pot did, written down with one press; the time is now unless another is typed. */
export function RecordPot({ run, pot, planned }: { run: Run; pot: number; planned: PotResult }) {
  const { job } = useJob();
  const { units, clock } = useShop();
  const queries = useQueryClient();
  const [at, setAt] = useState("");
  const when = useMoment(true);
  const [note, setNote] = useState("");
  const [a, setA] = useState("");
  const [b, setB] = useState("");
  const story = run.stories.find((other) => other.pot === pot);
  const done = new Map(story?.events.filter((event) => !event.taken_back).map((event) => [event.kind, event]));
  /** The id of each press, made once and kept until it is written down: pressed again it is the same tap. */
  const taps = useRef(new Map<Kind, string>());
  const tapIdOf = (kind: Kind) => {
    const id = taps.current.get(kind) ?? newTap();
    taps.current.set(kind, id);
    return id;
  };
  const [first, second] = inTheirParts(planned.ticket);
  const weighed = planned.ticket?.by === "weight";
  const secondIn = second?.tool === "syringe" ? "ml" : "g";
  const scaleUnit = planned.ticket?.scale_unit ?? "g";
  // A syringe marked in cc is read in ml: the same.
  const secondUnit = second?.tool === "scale" ? scaleUnit : secondIn;
  const catalysed = second?.part === "catalyst";
  const readA = useReading("mass", "g", scaleUnit);
  const readB = useReading(secondIn === "ml" ? "volume" : "mass", secondIn, secondUnit);
  const [madeA, setMadeA] = useState<number | null>(null);
  const [madeB, setMadeB] = useState<number | null>(null);
  const thickened = planned.ticket?.thickened;
  const expected = thickened?.fillers.reduce((sum, filler) => sum + filler.loose_ml, 0) ?? 0;
  const [stirred, setStirred] = useState("");
  const readStirred = useReading("volume", "ml");
  const tap = useMutation({
    mutationFn: async (kind: Kind) => {
      const [part_a_g, part_b_g] =
        kind === "touched" ? await Promise.all([readA.read(a), readB.read(b)]) : [null, null];
      if (part_a_g === undefined || part_b_g === undefined) throw new Error("mend what was poured first");
      // Nothing typed: it took what was expected.
      const filler_loose_ml = kind === "filler in" ? ((await readStirred.read(stirred)) ?? null) : null;
      if (kind === "filler in" && stirred.trim() && filler_loose_ml === null)
        throw new Error("mend what was stirred in first");
      // A dose drawn in ml is checked here; the log keeps weights.
      const made = secondIn === "g" ? { a_g: part_a_g, b_g: part_b_g } : {};
      const words = note ? { words: note } : {};
      const data = {
        touched: { ...made, ...words },
        "filler in": { loose_ml: filler_loose_ml ?? expected },
        "used up": words,
        gelled: words,
        dumped: words,
      }[kind];
      // Read with the press: a button is pressed sooner than the field before it is read.
      const happened = await when.read(at);
      if (happened === undefined) throw new Error("mend the time first");
      const now = tapOf("pot", String(pot), kind, data, tapIdOf(kind));
      const body = happened === null ? now : { ...now, happened_at: new Date(happened).toISOString() };
      const path = { params: { path: { run_id: run.id } } };
      // What is said of the filler has a place of its own.
      if (kind === "filler in" && note)
        await taken(
          client.POST("/api/runs/{run_id}/events", {
            ...path,
            body: tapOf("pot", String(pot), "note", { words: note }),
          }),
        );
      return taken(client.POST("/api/runs/{run_id}/events", { ...path, body }));
    },
    onSuccess: (_run, kind) => {
      taps.current.delete(kind);
      setAt("");
      setNote("");
      // Only what this press wrote down: the next field may be half typed by now.
      if (kind === "touched") {
        setA("");
        setB("");
        setMadeA(null);
        setMadeB(null);
      }
      if (kind === "filler in") setStirred("");
      return againOf(queries, job.id);
    },
  });
  return (
    <div className="border-t border-rule pt-3">
      <h2 className="text-[1.0625rem] font-semibold">Write down pot {pot}</h2>
      <p className="lab">
        Run of {clock(run.started_at)}, {units.text("temperature", run.room_c)}, numbers fixed. Change the job, and the
        next run takes the change.
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        {kinds.map(([kind, words]) => {
          if (kind === "filler in" && !thickened) return null;
          const event = done.get(kind);
          return (
            <Button
              edits
              key={kind}
              className="min-h-14 text-[1.0625rem]"
              disabled={!!event || tap.isPending || (kind !== "touched" && !story?.poured_at)}
              onClick={() => tap.mutate(kind)}
            >
              {words}
              {event ? ` ${clock(event.happened_at)}` : ""}
            </Button>
          );
        })}
      </div>
      {tap.isError && (
        <p role="alert" className="mt-2 text-[0.875rem] text-stop">
          {tap.error.message}
        </p>
      )}
      {[...done.values()].map((event) => (
        <TakeBack key={event.id} runId={run.id} event={event} words={saidOf(event.kind)} />
      ))}
      <div className="mt-3 grid grid-cols-3 gap-2">
        <label className="lab">
          At, if not now
          <input
            value={at}
            autoComplete="off"
            placeholder="9:40"
            aria-invalid={!!when.error}
            onChange={(event) => setAt(event.target.value)}
            onBlur={() => void when.read(at)}
            className={`${box} ${when.error ? "border-stop" : "border-rule"}`}
          />
          <span className={when.error ? "text-stop" : "text-cool"}>{when.error || (at && when.understood)}</span>
        </label>
        {weighed && first && second && !story?.poured_at && (
          <>
            <Poured
              label={`${catalysed ? "Resin" : "A"} poured, ${scaleUnit}`}
              text={a}
              planned={first.amount}
              reading={readA}
              onType={setA}
              onMade={setMadeA}
            />
            <Poured
              label={`${catalysed ? "Catalyst" : "B"} poured, ${secondUnit}`}
              text={b}
              planned={second.amount}
              reading={readB}
              onType={setB}
              onMade={setMadeB}
            />
          </>
        )}
        {thickened && !done.has("filler in") && (
          <label className="lab col-span-2">
            Filler really stirred in, loose, ml
            <input
              inputMode="decimal"
              value={stirred}
              placeholder={`${fixed(expected, 0)}, as expected`}
              aria-invalid={readStirred.error ? true : undefined}
              onChange={(event) => {
                setStirred(event.target.value);
                void readStirred.read(event.target.value);
              }}
              className={`${box} ${readStirred.error ? "border-stop" : "border-rule"}`}
            />
            <span
              aria-live="polite"
              className={`block text-[0.7969rem] ${readStirred.error ? "text-stop" : "text-cool"}`}
            >
              {readStirred.error || readStirred.understood}
            </span>
          </label>
        )}
        {madeA && madeB ? (
          <RatioCheck
            runId={run.id}
            pot={pot}
            first_g={madeA}
            second={secondIn === "ml" ? { part_b_ml: madeB } : { part_b_g: madeB }}
          />
        ) : null}
      </div>
      <label className="lab mt-2 block">
        Note
        <input
          value={note}
          maxLength={300}
          onChange={(event) => setNote(event.target.value)}
          className={`${box} border-rule`}
        />
      </label>
    </div>
  );
}

/** What was really poured of one part, in any unit; a bare number is what the tool showed. */
function Poured({
  label,
  text,
  planned,
  reading,
  onType,
  onMade,
}: {
  label: string;
  text: string;
  planned: number | undefined;
  reading: ReturnType<typeof useReading>;
  onType: (text: string) => void;
  /** What was understood of it, or nothing. */
  onMade: (value: number | null) => void;
}) {
  return (
    <label className="lab">
      {label}
      <input
        inputMode="decimal"
        value={text}
        placeholder={asRead(planned ?? 0)}
        aria-invalid={reading.error ? true : undefined}
        onChange={(event) => {
          onType(event.target.value);
          void reading.read(event.target.value).then((value) => onMade(value ?? null));
        }}
        className={`${box} ${reading.error ? "border-stop" : "border-rule"}`}
      />
      <span aria-live="polite" className={`block text-[0.7969rem] ${reading.error ? "text-stop" : "text-cool"}`}>
        {reading.error || reading.understood}
      </span>
    </label>
  );
}
