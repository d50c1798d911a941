import { useState } from "react";
import { readNumber } from "../format";
import { useShop } from "../shop";
import { BigButton } from "./BigButton";
import { standing } from "./fold";
import { Keypad } from "./Keypad";
import { Outcomes } from "./Outcomes";
import { PhotoButton } from "./PhotoButton";
import { Snapshot } from "./Snapshot";
import { useBench } from "./useBench";
import { sayEvent } from "./words";

const notes = [
  "a dry spot",
  "air under it",
  "a drip",
  "a wrinkle",
  "starved",
  "sticky spot",
  "fabric short",
  "dust on it",
  "the phone rang",
];

/** What else is worth writing down: the room, who is here, notes, the night. */
export function Say() {
  const { state, tap, me, line, at, bench } = useBench();
  const { units, clock } = useShop();
  const [text, setText] = useState("");
  const [reading, setReading] = useState(false);
  const [typed, setTyped] = useState("");
  const [closing, setClosing] = useState(false);
  const here = state.people.includes(me);
  const axis = units.axis("temperature");
  const typedRoom = readNumber(text);
  const room = typeof typedRoom === "number" ? typedRoom : null;
  const told = standing(line.taps())
    .filter((one) => one.kind !== "answered")
    .slice(-12)
    .reverse();
  const run = { about: "run", subject: "" } as const;
  return (
    <div className="space-y-7">
      <section>
        <h2 className="text-[1.25rem] text-ink-soft">A note</h2>
        <div className="mt-2 flex flex-wrap gap-3">
          <PhotoButton />
          {notes.map((words) => (
            <BigButton key={words} onClick={() => tap({ ...run, kind: "note", data: { words } })}>
              {words}
            </BigButton>
          ))}
        </div>
        <form
          className="mt-3 flex max-w-[640px] gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (!typed.trim()) return;
            tap({ ...run, kind: "note", data: { words: typed.trim() } });
            setTyped("");
          }}
        >
          <input
            aria-label="Another note"
            placeholder="or type it"
            maxLength={300}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            className="min-h-16 min-w-0 flex-1 rounded-(--radius) border-2 border-rule bg-sheet px-4 text-[1.25rem]"
          />
          <BigButton type="submit">Keep</BigButton>
        </form>
      </section>
      <section>
        <h2 className="text-[1.25rem] text-ink-soft">The bench</h2>
        <div className="mt-2 flex flex-wrap gap-3">
          <BigButton onClick={() => tap({ ...run, kind: here ? "left" : "came" })}>
            {here ? `${me} goes` : `${me} is here`}
          </BigButton>
          <BigButton onClick={() => setReading(!reading)}>Read the room</BigButton>
          <BigButton onClick={() => tap({ ...run, kind: state.night ? "gone on" : "night" })}>
            {state.night ? "Go on" : "Leave it for the night"}
          </BigButton>
          {!state.outcome && <BigButton onClick={() => setClosing(!closing)}>Close the run</BigButton>}
        </div>
        {closing && <Outcomes />}
        {reading && (
          <div className="mt-4 flex flex-wrap gap-4">
            <Keypad label={`The room, ${axis.unit}`} text={text} onText={setText} />
            <div>
              <p className="fig text-[3rem] leading-none">
                {text || "–"} <span className="text-[1.25rem] font-normal text-ink-soft">{axis.unit}</span>
              </p>
              <BigButton
                className="mt-4"
                disabled={room === null}
                onClick={() => {
                  if (room === null) return;
                  tap({ ...run, kind: "room read", data: { room_c: Number(axis.value(room).toFixed(2)) } });
                  setText("");
                  setReading(false);
                }}
              >
                That is the room now
              </BigButton>
            </div>
          </div>
        )}
      </section>
      <section>
        <h2 className="text-[1.25rem] text-ink-soft">Written down last</h2>
        <ol className="mt-2">
          {told.map((one) => (
            <li key={one.id} className="grid grid-cols-[5.5rem_1fr_auto] gap-3 border-b border-rule-faint py-2">
              <span className="fig">{clock(at(one.at_min))}</span>
              <span>
                {sayEvent(one, units, state)}
                {one.kind === "photo" && one.event_id !== undefined && (
                  <Snapshot runId={bench.run_id} eventId={one.event_id} />
                )}
              </span>
              <span className="text-ink-soft">{one.by}</span>
            </li>
          ))}
        </ol>
        {told.length === 0 && <p className="text-ink-soft">Nothing yet.</p>}
      </section>
    </div>
  );
}
