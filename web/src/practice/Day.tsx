import { useEffect, useState } from "react";
import type { Marked } from "../api/client";
import { Ahead } from "../bench/Ahead";
import { BigButton } from "../bench/BigButton";
import { Clocks } from "../bench/Clocks";
import { Lay } from "../bench/Lay";
import { Now } from "../bench/Now";
import { Beside, PotStrip } from "../bench/Pots";
import { TakeBack } from "../bench/TakeBack";
import { countdown } from "../bench/time";
import { BenchContext, type BenchHold } from "../bench/useBench";
import { useSession } from "../session";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Told } from "../ui/Told";
import { type PracticeDay, useDay } from "./useDay";
import { usePractice } from "./usePractice";

/** A day on the clock: begun on a press, worked at the bench itself, and what came of it. */
export function Day() {
  const { training, answer, more } = usePractice();
  const [done, setDone] = useState<string[]>([]);
  const [begun, begin] = useState(false);
  const [came, setCame] = useState<{ marked: Marked | null; hold: BenchHold } | null>(null);
  const left = training.days.filter((day) => !done.includes(day.id));
  const day = left[0];
  if (!day) return <p className="p-6">The next day is being made. Out of the server’s reach there are no more.</p>;
  if (begun)
    return (
      <Worked
        day={day}
        over={async (events, hold) => {
          begin(false);
          const marked = await answer({ thing: day.id, day: { events, ended_min: hold.now_min } });
          setCame({ marked, hold });
        }}
      />
    );
  if (came)
    return (
      <main className="max-w-[960px] px-4 py-6 lg:px-8">
        <h1 className="text-[1.625rem] font-semibold">
          {came.marked ? (came.marked.right ? "A good day." : "This day cost something.") : "The day is over."}
        </h1>
        {!came.marked && <p className="mt-2">It is marked when the server is in reach again.</p>}
        <ul className="mt-3 space-y-1.5 text-[1.1875rem]">
          {(came.marked?.words ?? []).map((words) => (
            <li key={words} className="border-t border-rule pt-1.5">
              <Told>{`${words}.`}</Told>
            </li>
          ))}
        </ul>
        <BenchContext value={came.hold}>
          <Ahead />
        </BenchContext>
        <Button
          look="main"
          className="mt-5 min-h-14 px-7 text-[1.0625rem]"
          onClick={() => {
            setCame(null);
            setDone([...done, day.id]);
            if (left.length === 1) void more();
          }}
        >
          Another day
        </Button>
      </main>
    );
  return (
    <main className="max-w-[72ch] px-4 py-6 lg:px-8">
      <h1 className="text-[1.625rem] font-semibold">A day on the clock</h1>
      <p className="mt-3 text-[1.1875rem] leading-relaxed">
        <Told>{day.says}</Told>
      </p>
      <p className="mt-3 text-[1.1875rem] leading-relaxed">
        It is the bench as you know it: weigh, stir, lay, touch. A pot that stays in its cup too long kicks. By the plan
        all is laid after {Math.round(day.planned_min)} min of the day, which is{" "}
        {Math.round(day.planned_min / day.pace)} min of yours.
      </p>
      <Button look="main" className="mt-5 min-h-16 px-8 text-[1.125rem]" onClick={() => begin(true)}>
        Begin the day
      </Button>
    </main>
  );
}

const DOING: Record<string, string> = {
  "cup on": "You set out the cup for",
  "A in": "You pour resin into",
  "B in": "You pour hardener into",
  stirred: "You stir",
  "poured over": "You pour over",
  "used up": "You spread",
};
const views = { now: "Now", lay: "Lay", clocks: "Clocks" } as const;
type View = keyof typeof views;
type Events = NonNullable<Parameters<ReturnType<typeof usePractice>["answer"]>[0]["day"]>["events"];

function Worked({ day, over }: { day: PracticeDay; over: (events: Events, hold: BenchHold) => void }) {
  const { session } = useSession();
  const { shop, clock } = useShop();
  const { hold, busy, call, answer, talks_min, warm, kicked } = useDay(day, session?.person ?? "", shop.id);
  const [view, setView] = useState<View>("now");
  const [seen, setSeen] = useState<number[]>([]);
  const end = () =>
    over(
      hold.line.taps().map(({ event_id: _, data, ...tap }) => ({ ...tap, data: data as Record<string, never> })),
      hold,
    );
  const closed = hold.state.outcome !== null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: it ends once
  useEffect(() => {
    if (closed) end();
  }, [closed]);
  const smokes = kicked.find((number) => !seen.includes(number));
  const covered = talks_min > 0 || !!call || smokes !== undefined;
  return (
    <BenchContext value={hold}>
      <div className="relative flex h-[calc(100dvh-57px)] flex-col bg-floor text-[1.25rem]">
        <div className="flex min-h-16 flex-wrap items-center gap-x-5 border-b border-rule px-4" inert={covered}>
          <p className="fig text-[2.25rem]" role="timer">
            {clock(hold.at(hold.now_min))}
          </p>
          {warm.length > 0 && (
            <p role="status" className="text-[1.25rem] font-semibold text-resin-ink">
              Pot {warm.join(" and ")} {warm.length === 1 ? "is" : "are"} warm to the hand
            </p>
          )}
          <Button className="ml-auto min-h-12" onClick={end}>
            End the day
          </Button>
        </div>
        {busy && (
          <p role="status" className="border-b border-rule bg-ink px-4 py-3 text-[1.375rem] font-semibold text-sheet">
            {DOING[busy.kind] ?? "Your hands are busy"}
            {busy.subject && ` pot ${busy.subject}`}: {countdown(busy.left_min)} more
          </p>
        )}
        <div inert={covered}>{view !== "clocks" && <PotStrip />}</div>
        <div
          className="grid min-h-0 flex-1 overflow-y-auto xl:grid-cols-[minmax(0,1fr)_300px]"
          inert={covered || !!busy}
        >
          <main className="min-w-0 border-rule px-3 py-4 sm:px-6 xl:border-r">
            {view === "now" && (
              <Now
                onView={(to) => setView(to in views ? (to as View) : "now")}
                onHot={() => undefined}
                onStart={() => undefined}
              />
            )}
            {view === "lay" && <Lay />}
            {view === "clocks" && <Clocks />}
          </main>
          <Beside />
        </div>
        <footer className="border-t border-rule bg-floor" inert={covered}>
          <TakeBack />
          <nav aria-label="Bench" className="grid grid-cols-3">
            {(Object.keys(views) as View[]).map((each) => (
              <button
                key={each}
                type="button"
                aria-current={view === each ? "page" : undefined}
                onClick={() => setView(each)}
                className="min-h-14 border-r border-rule text-[1.125rem] font-semibold text-ink-soft last:border-r-0 aria-[current]:bg-sheet aria-[current]:text-ink"
              >
                {views[each]}
              </button>
            ))}
          </nav>
        </footer>
        {covered && (
          <div className="absolute inset-0 z-10 grid place-items-center bg-floor/90 p-6">
            <div role="alertdialog" aria-label="Interrupted" className="max-w-[52ch] border-2 border-ink bg-sheet p-6">
              {smokes !== undefined ? (
                <>
                  <p className="text-[1.75rem] leading-tight font-semibold text-kick">
                    Pot {smokes} kicks in its cup, and smokes.
                  </p>
                  <p className="mt-2">
                    If it can be slid outdoors in seconds, it goes at arm’s length, on to sand or concrete. Else
                    everybody leaves, and the room is aired. Never water into it: the smoke is poisonous.
                  </p>
                  <BigButton edits={false} className="mt-4" onClick={() => setSeen([...seen, smokes])}>
                    It is out of the way
                  </BigButton>
                </>
              ) : call ? (
                <>
                  <p className="text-[1.75rem] leading-tight font-semibold">{call.words}.</p>
                  <div className="mt-4 flex flex-wrap gap-3">
                    <BigButton edits={false} main onClick={() => answer(false)}>
                      Let it ring
                    </BigButton>
                    <BigButton edits={false} onClick={() => answer(true)}>
                      Take it
                    </BigButton>
                  </div>
                </>
              ) : (
                <p className="text-[1.75rem] leading-tight font-semibold">
                  You are on the phone, and cannot get away for {countdown(talks_min)} more.
                </p>
              )}
            </div>
          </div>
        )}
      </div>
    </BenchContext>
  );
}
