import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import type { Bench } from "../api/client";
import { plural } from "../format";
import { wearLook } from "../look";
import { useQuietMoment } from "../newVersion";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { useTitle } from "../ui/useTitle";
import { Waiting } from "../ui/Waiting";
import { AtPlace } from "./AtPlace";
import { useAlarms } from "./alarms";
import { BigButton } from "./BigButton";
import { Clocks } from "./Clocks";
import { Goggles } from "./Goggles";
import { Hot } from "./Hot";
import { Lay } from "./Lay";
import { Now } from "./Now";
import { Beside, PotStrip } from "./Pots";
import { Rest } from "./Rest";
import { Say } from "./Say";
import { TakeBack } from "./TakeBack";
import { BenchContext, useBench, useBenchOf, useLive } from "./useBench";
import { sayWhat } from "./words";

const views = ["now", "lay", "clocks", "plan", "say"] as const;
type View = (typeof views)[number];
const names: Record<View, string> = { now: "Now", lay: "Lay", clocks: "Clocks", plan: "Plan", say: "Write" };
const LOOK = "inch-cradle.bench-look";

/** The bench of one run, full screen. */
export function BenchPage() {
  const { runId = "" } = useParams();
  const { session } = useSession();
  const bench = useBenchOf(runId);
  if (bench.isError)
    return (
      <main className="p-8">
        <h1 className="text-[1.75rem] font-semibold">This bench cannot be opened</h1>
        <p className="mt-2 text-[1.25rem]">{bench.error.message}</p>
        <Link to="/" className="link mt-4 inline-block text-[1.25rem]">
          Back to the floor
        </Link>
      </main>
    );
  if (!bench.data) return <Waiting words="The bench is being set out" />;
  return (
    <ShopProvider shopId={bench.data.bench.shop_id} bench>
      <Board key={runId} bench={bench.data.bench} fresh={bench.data.fresh} me={session?.person ?? ""} />
    </ShopProvider>
  );
}

/** Night unless somebody has said otherwise on this tablet. */
function useBenchLook() {
  const { preferences } = useSession();
  const [look, setLook] = useState<"night" | "light">(() =>
    localStorage.getItem(LOOK) === "light" ? "light" : "night",
  );
  useEffect(() => {
    localStorage.setItem(LOOK, look);
    document.documentElement.dataset.look = look;
    return () => void wearLook(preferences.look);
  }, [look, preferences.look]);
  return [look, () => setLook(look === "night" ? "light" : "night")] as const;
}

/** Space, the right arrow, page down and a pedal that sends one of them do the next step that is safe. */
function useNextKey() {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (![" ", "ArrowRight", "PageDown"].includes(event.key) || event.repeat) return;
      const at = event.target as HTMLElement;
      if (at.closest("input, textarea, [role=dialog]") || (event.key === " " && at.closest("button, a"))) return;
      event.preventDefault();
      document.querySelector<HTMLElement>("[data-next]:not(:disabled)")?.click();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}

function Board({ bench, fresh, me }: { bench: Bench; fresh: boolean; me: string }) {
  useTitle(`${bench.job_name} at the bench`);
  useNextKey();
  const { mayWrite } = useShop();
  const hold = useLive(bench, me, fresh);
  const [view, setView] = useState<View>("now");
  const [hot, setHot] = useState(false);
  const scroller = useRef<HTMLDivElement>(null);
  const [look, turnLook] = useBenchLook();
  const alarms = useAlarms(hold.due, hold.now_min);
  const worst = alarms.ringing[0];
  const { state } = hold;
  const doing = view === "now" && hold.todo[0] ? `${hold.todo[0].code} ${hold.todo[0].subject}` : view;
  // What is new to do is read from its top.
  useEffect(() => {
    if (doing) scroller.current?.scrollTo(0, 0);
  }, [doing]);
  if (bench.peroxide && mayWrite && !state.outcome && !state.goggled.includes(me))
    return (
      <BenchContext value={hold}>
        <Goggles peroxide={bench.peroxide} />
      </BenchContext>
    );
  return (
    <BenchContext value={hold}>
      <div className="flex h-dvh flex-col bg-floor text-[1.25rem] text-ink" inert={hot}>
        <header className="flex flex-wrap bg-floor items-center gap-x-4 gap-y-1 border-b border-rule px-1 py-1 sm:px-3">
          <Link
            to={`/jobs/${bench.job_id}/ticket`}
            aria-label="Leave the bench"
            className="min-h-16 min-w-16 content-center text-center text-[1.5rem]"
          >
            ←
          </Link>
          <h1 className="min-w-0 flex-1 truncate text-[1.375rem] font-semibold">{bench.job_name}</h1>
          <Room />
          <Somebody />
          <button
            type="button"
            onClick={turnLook}
            className="min-h-16 px-4 text-[1.125rem] text-ink-soft max-sm:hidden"
          >
            {look === "night" ? "day" : "night"}
          </button>
          <button
            type="button"
            onClick={() => setHot(true)}
            className="min-h-16 rounded-(--radius) border-2 border-kick px-4 text-[1.125rem] font-semibold text-kick"
          >
            Pot getting hot?
          </button>
        </header>
        <AtPlace />
        <Strips sounds={alarms.sounds} allow={alarms.allow} />
        {worst && (
          <div
            role="alert"
            className={`flex flex-wrap items-center gap-x-5 gap-y-2 px-3 py-2 sm:px-5 ${worst.level === "soon" ? "bg-resin-pale text-resin-ink" : "bg-kick text-floor"}`}
          >
            <p className="min-w-0 flex-1 text-[1.5rem] leading-tight font-semibold">{sayWhat(state, worst)}</p>
            {worst.level === "get away" ? (
              <BigButton onClick={() => setHot(true)}>What to do</BigButton>
            ) : (
              <BigButton
                onClick={() => hold.tap({ about: "run", subject: "", kind: "answered", data: { key: worst.key } })}
              >
                I hear
              </BigButton>
            )}
          </div>
        )}
        {view !== "clocks" && <PotStrip />}
        <div ref={scroller} className="grid min-h-0 flex-1 overflow-y-auto lg:grid-cols-[minmax(0,1fr)_320px]">
          <main className="min-w-0 border-rule px-3 py-4 sm:px-6 lg:border-r">
            {view === "now" && <Now onView={setView} onHot={() => setHot(true)} onStart={alarms.allow} />}
            {view === "lay" && <Lay />}
            {view === "clocks" && <Clocks />}
            {view === "plan" && <Rest />}
            {view === "say" && <Say />}
          </main>
          <Beside />
        </div>
        <footer className="border-t border-rule bg-floor">
          <TakeBack />
          <nav aria-label="Bench" className="grid grid-cols-5">
            {views.map((each) => (
              <button
                key={each}
                type="button"
                aria-current={view === each ? "page" : undefined}
                onClick={() => setView(each)}
                className="min-h-16 border-r border-rule text-[1.25rem] font-semibold text-ink-soft last:border-r-0 aria-[current]:bg-sheet aria-[current]:text-ink aria-[current]:shadow-[inset_0_4px_0_var(--color-ink)]"
              >
                {names[each]}
              </button>
            ))}
          </nav>
        </footer>
      </div>
      {hot && <Hot onClose={() => setHot(false)} />}
    </BenchContext>
  );
}

/** At a tablet that several work at: who writes down now, and the way for another to. */
function Somebody() {
  const { session, signOut } = useSession();
  if (!session?.at_tablet) return null;
  return (
    <button
      type="button"
      onClick={() => void signOut()}
      aria-label={`${session.person} works here: press where somebody else does`}
      className="min-h-16 min-w-16 px-3 text-[1.125rem] underline underline-offset-4"
    >
      {session.person}
    </button>
  );
}

function Room() {
  const { units } = useShop();
  const { state, bench } = useBench();
  const room_c = state.room_c ?? bench.card.pots[0]?.room_c;
  if (room_c === undefined) return null;
  return (
    <span className="text-[1.125rem] text-ink-soft max-sm:hidden">
      <span className="fig text-[1.5rem] text-ink">{units.number("temperature", room_c)}</span>{" "}
      {units.unit("temperature")} {state.room_c === null ? "as planned" : "room"}
    </span>
  );
}

const FAR_OFF_MS = 60_000;
// One or two are on their way whenever somebody taps.
const TOLD_FROM_WAITING = 3;

/** What the tablet has to say of itself: muted, cut off, its clock wrong, something not taken. */
function Strips({ sounds, allow }: { sounds: boolean; allow: () => void }) {
  const { line, stands, state } = useBench();
  const queries = useQueryClient();
  const newer = useQuietMoment(
    state.pots.every(({ state: now }) => now !== "live" && now !== "weighing") && !stands.waits,
  );
  useEffect(() => {
    if (stands.shut) void queries.invalidateQueries({ queryKey: ["session"] });
  }, [stands.shut, queries]);
  const off = Math.round(stands.offset_ms / 60_000);
  const strip = "border-b border-rule bg-sheet px-3 py-2 text-[1.125rem] sm:px-5";
  return (
    <>
      {stands.refused && (
        <p role="alert" className={`${strip} text-stop`}>
          {stands.refused}
        </p>
      )}
      {stands.waits > 0 && !stands.reached && (
        <p role="status" className={strip}>
          {plural(stands.waits, "tap waits", "taps wait")} for the server.{" "}
          {stands.keeps ? "Nothing is lost: go on." : ""}
        </p>
      )}
      {stands.waits >= TOLD_FROM_WAITING && stands.reached && (
        <p role="status" className={strip}>
          {stands.waits} taps that waited go to the server now.
        </p>
      )}
      {stands.ofOthers.map(([person, count]) => (
        <p key={person} role="status" className={strip}>
          {plural(count, "tap", "taps")} of {person} {count === 1 ? "waits" : "wait"} on this tablet, and{" "}
          {count === 1 ? "goes" : "go"} when {person} signs in here.
        </p>
      ))}
      {!stands.keeps && (
        <p role="alert" className={`${strip} text-stop`}>
          This tablet keeps nothing: its store is full, or the browser does not allow it. Do not close this page while a
          tap waits.
        </p>
      )}
      {stands.lost > 0 && (
        <button type="button" onClick={line.readOfLost} className={`${strip} min-h-16 text-left text-stop`}>
          {plural(stands.lost, "tap that waited here is", "taps that waited here are")} gone: somebody cleared this
          tablet's store. Write down anew what is missing, then press here.
        </button>
      )}
      {newer && (
        <button type="button" onClick={newer} className={`${strip} min-h-16 text-left underline underline-offset-4`}>
          A new version of this program is here. No pot is open: press here to take it
        </button>
      )}
      {Math.abs(stands.offset_ms) > FAR_OFF_MS && (
        <p role="status" className={strip}>
          The clock of this tablet is {Math.abs(off)} min {off > 0 ? "slow" : "fast"}. The bench goes by the server's.
        </p>
      )}
      {state.opened && !sounds && !state.outcome && (
        <button type="button" onClick={allow} className={`${strip} min-h-16 text-left underline underline-offset-4`}>
          No sound on this tablet yet: press here to hear the alarms
        </button>
      )}
    </>
  );
}
