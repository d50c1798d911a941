import { useEffect, useState } from "react";
import type { Marked, PourTask } from "../api/client";
import { PourCup } from "../drawing/PourCup";
import { asRead, fixed } from "../format";
import { Button } from "../ui/Button";
import { Told } from "../ui/Told";
import { HoldButton } from "./HoldButton";
import { usePour } from "./usePour";
import { usePractice } from "./usePractice";

/** One pot poured by holding a tin over the cup, as a hand does; then what came of it. */
export function Pour({ task, next }: { task: PourTask; next: () => void }) {
  const { answer } = usePractice();
  const [over, setOver] = useState(false);
  const [marked, setMarked] = useState<Marked | null>(null);
  const [late, setLate] = useState(false);
  const [way, setWay] = useState<number | null>(task.ways?.length ? null : 0);
  const now = usePour(task, over);
  const clock = task.life_min ?? null;
  const gelled = clock !== null && now.age_min !== null && now.age_min >= clock;
  const finish = async (out_min: number | null) => {
    if (over) return;
    setOver(true);
    const poured = { presses: now.presses, seconds: now.seconds, stirred_min: now.stirred_min, out_min };
    const told = await answer({ thing: task.id, poured });
    setMarked(told);
    setLate(told === null);
  };
  // A pot that has set is out of the learner's hands.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when it sets
  useEffect(() => {
    if (!gelled || over) return;
    now.let_go();
    if (now.a > 0 && now.b > 0 && now.presses.length) void finish(null);
  }, [gelled]);
  const chosen = task.ways?.[way ?? -1];
  const both = now.a > 0 && now.b > 0 && now.presses.length > 0 && !now.runs;
  const shows = task.unit === "g" ? Math.round((task.cup + now.a + now.b) / task.step) * task.step : null;
  return (
    <div className="mt-4 grid items-start gap-x-8 gap-y-4 md:grid-cols-[minmax(230px,0.8fr)_1fr]">
      <div className="max-md:order-2">
        <PourCup
          task={task}
          a={now.a}
          b={now.b}
          runs={now.runs}
          aged={clock && now.age_min !== null ? now.age_min / clock : 0}
        />
      </div>
      <div className="min-w-0">
        <p className="max-w-[58ch] text-[1.1875rem] leading-snug">
          <Told>{task.says}</Told>
        </p>
        {way === null ? (
          <fieldset className="mt-4 grid gap-2">
            <legend className="mb-1 text-[1.0625rem] font-semibold">Which way do you go about it?</legend>
            {(task.ways ?? []).map((each, at) => (
              <button
                key={each.words}
                type="button"
                onClick={() => setWay(at)}
                className="min-h-14 rounded-(--radius) border border-rule bg-sheet px-4 text-left text-[1.0625rem] hover:border-ink"
              >
                {each.words}
              </button>
            ))}
          </fieldset>
        ) : (
          <>
            {chosen && <p className="mt-2 font-semibold">{chosen.words}</p>}
            {shows !== null && (
              <p className="mt-3">
                <span className="lab block">the scale shows</span>
                <span className="fig text-[clamp(4.5rem,9vw,6.5rem)] leading-none" aria-live="off">
                  {asRead(shows)} <span className="text-[1.75rem] font-normal text-ink-soft">g</span>
                </span>
              </p>
            )}
            {clock !== null && (
              <p className="mt-3" role="timer">
                <span className="fig text-[3rem] leading-none">
                  {now.age_min === null ? "0.0" : fixed(now.age_min, 1)}
                </span>{" "}
                <span className="text-ink-soft">
                  min old{now.stirred_min > 0 && `, stirred ${fixed(now.stirred_min, 1)} min`}
                </span>
              </p>
            )}
            {!over && (
              <div className="mt-4 flex flex-wrap gap-3">
                <HoldButton onDown={() => now.tip("A")} onUp={now.let_go} on={now.runs === "A"}>
                  Hold to pour resin
                </HoldButton>
                <HoldButton onDown={() => now.tip("B")} onUp={now.let_go} on={now.runs === "B"}>
                  Hold to pour hardener
                </HoldButton>
                {clock !== null && (
                  <HoldButton
                    disabled={!both}
                    onDown={() => now.stir(true)}
                    onUp={() => now.stir(false)}
                    on={now.stirs}
                  >
                    Hold to stir
                  </HoldButton>
                )}
                <Button
                  look="main"
                  className="min-h-16 px-6 text-[1.125rem]"
                  disabled={!both}
                  onClick={() => void finish(now.age_min)}
                >
                  {clock === null ? "It is in" : "Pour it out"}
                </Button>
                {now.presses.length > 0 && (
                  <Button className="min-h-16" onClick={now.again}>
                    Start over
                  </Button>
                )}
              </div>
            )}
            {!over && !now.presses.length && (
              <p className="lab mt-3 max-w-[58ch]">
                The longer you hold, the faster it runs, and a little still falls when you let go. With keys: hold the
                space bar on a button.
              </p>
            )}
          </>
        )}
        {over && !marked && !late && <p className="lab mt-4">It is being looked at.</p>}
        {late && (
          <div role="status" className="mt-4">
            <p className="text-[1.375rem] font-semibold">
              {fixed(Math.abs(100 * (now.b / now.a / task.b_per_a - 1)), 1)} %{" "}
              {now.b / now.a > task.b_per_a ? "hardener heavy" : "resin heavy"}
            </p>
            <p className="mt-1">It is marked when the server is in reach again.</p>
          </div>
        )}
        {marked?.pour && (
          <div role="status" className="mt-4">
            <p className="text-[1.375rem] font-semibold">
              {marked.right ? "This pot may be used." : "This pot is lost."}
            </p>
            {(marked.words ?? []).map((words) => (
              <p key={words} className="mt-1">
                <Told>{`${words}.`}</Told>
              </p>
            ))}
            <p className="lab mt-1">
              {asRead(Math.round(marked.pour.a))} {task.unit} of resin, {asRead(Math.round(marked.pour.b))} {task.unit}{" "}
              of hardener, in {fixed(marked.pour.seconds, 0)} s
            </p>
          </div>
        )}
        {over && (marked || late) && (
          <Button look="main" className="mt-4 min-h-14 px-7 text-[1.0625rem]" onClick={next}>
            The next pot
          </Button>
        )}
      </div>
    </div>
  );
}
