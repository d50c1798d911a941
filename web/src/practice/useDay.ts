import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import type { Bench, Schemas } from "../api/client";
import { fold, type PotNow, type Tap } from "../bench/fold";
import type { LineStands, Said } from "../bench/Line";
import { dueOf, toDo } from "../bench/toDo";
import type { BenchHold } from "../bench/useBench";
import { LocalLine } from "./LocalLine";

export type PracticeDay = Schemas["PracticeDay"];
type Call = Schemas["Call"];

const BEAT_MS = 200;
const BEGINS_AT_HOUR = 9;
// What nobody here has pressed.
const THE_DAY = "the day";
/** From this share of its true life on, a pot is warm to the hand (memory). */
const WARM_FROM = 0.7;
const STANDS: LineStands = {
  waits: 0,
  ofOthers: [],
  reached: true,
  refused: "",
  shut: false,
  keeps: true,
  lost: 0,
  offset_ms: 0,
};
const NO_PLACES: never[] = [];
const PHOTOS = { waits: 0, failed: "" };
const never = () => () => undefined;
const nothing = async () => undefined;

/** What hands are at: until when, in minutes of the day, and what is written down then. */
interface Work {
  said: Said[];
  until: number;
}

export interface DayNow {
  hold: BenchHold;
  /** What hands are busy with, and for how many minutes more. */
  busy: { kind: Said["kind"]; subject: string; left_min: number } | null;
  /** Who calls now, until it is answered or let ring. */
  call: Call | null;
  answer: (takes: boolean) => void;
  /** Minutes for which the caller still talks. */
  talks_min: number;
  /** Pots that a hand feels to be warm, and those that kicked in their cup. */
  warm: number[];
  kicked: number[];
}

/** A day of practice through its minutes: the tin lives as it does, not as its label says, and the phone rings. */
export function useDay(day: PracticeDay, me: string, shop_id: string): DayNow {
  const [begun] = useState(() => performance.now());
  const [nine] = useState(() => new Date().setHours(BEGINS_AT_HOUR, 0, 0, 0));
  const minute = () => ((performance.now() - begun) * day.pace) / 60_000;
  const [now_min, setNow] = useState(0);
  const [heard, setHeard] = useState<number[]>([]);
  const [talks_until, setTalks] = useState(0);
  const [work, setWork] = useState<Work | null>(null);
  const bench = useMemo(() => benchOf(day, shop_id, nine), [day, shop_id, nine]);
  const at = (moment: number) => nine + moment * 60_000;
  // biome-ignore lint/correctness/useExhaustiveDependencies: one line a day, its clock that of the page
  const line = useMemo(() => new LocalLine(bench, me, minute, at), [bench, me]);
  const taps = useSyncExternalStore(line.subscribe, line.taps);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the clock goes on
  useEffect(() => {
    const beat = window.setInterval(() => setNow(minute()), BEAT_MS);
    return () => clearInterval(beat);
  }, []);
  const state = useMemo(() => fold(day.card, taps, now_min), [day.card, taps, now_min]);
  const gone = state.pots.filter((pot) => pot.state === "live" && aged(pot, now_min) >= day.lives);
  const first = gone[0]?.number;
  useEffect(() => {
    if (first) line.tap(THE_DAY, { about: "pot", subject: String(first), kind: "gelled", data: {} });
  }, [first, line]);
  const busy_with = work?.said[0];
  // What was begun is done when its time is over; a pot that kicked meanwhile is not stirred or used any more.
  const done = work && now_min >= work.until ? work : null;
  useEffect(() => {
    if (!done) return;
    setWork(null);
    const lost = done.said.some(
      ({ about, subject }) => about === "pot" && kickedOf(line.taps()).includes(Number(subject)),
    );
    if (!lost) line.tap(me, ...done.said);
  }, [done, line, me]);
  const begin = (said: Said[]) => {
    // Hands that are busy take up nothing else.
    if (work) return;
    const takes = Math.max(...said.map((one) => minutesOf(day, one)));
    if (takes <= 0) return line.tap(me, ...said);
    setWork({ said, until: minute() + takes });
  };
  const call = day.calls.find((each, nth) => each.at_min <= now_min && !heard.includes(nth)) ?? null;
  const hold: BenchHold = {
    bench,
    line,
    stands: STANDS,
    photos: { subscribe: never, told: () => PHOTOS, add: nothing, send: nothing, leaveOut: nothing },
    state,
    todo: useMemo(() => toDo(state, now_min), [state, now_min]),
    due: useMemo(() => dueOf(state), [state]),
    heard: NO_PLACES,
    instruments: {
      subscribe: never,
      places: () => NO_PLACES,
      reads: () => undefined,
      runId: "",
      put: nothing,
      lookAgain: nothing,
    },
    practised: true,
    now_min,
    me,
    tap: (...said) => begin(said),
    at,
  };
  return {
    hold,
    call: talks_until > now_min ? null : call,
    answer: (takes) => {
      if (!call) return;
      setHeard([...heard, day.calls.indexOf(call)]);
      if (!takes) return;
      setTalks(minute() + call.for_min);
      // What was in hand waits as long.
      setWork((before) => before && { ...before, until: before.until + call.for_min });
    },
    talks_min: Math.max(0, talks_until - now_min),
    warm: state.pots
      .filter((pot) => pot.state === "live" && aged(pot, now_min) >= WARM_FROM * day.lives)
      .map((pot) => pot.number),
    kicked: kickedOf(taps),
    busy: busy_with
      ? { kind: busy_with.kind, subject: busy_with.subject ?? "", left_min: Math.max(0, (work?.until ?? 0) - now_min) }
      : null,
  };
}

const kickedOf = (taps: Tap[]) =>
  taps.filter(({ by, kind }) => by === THE_DAY && kind === "gelled").map(({ subject }) => Number(subject));

/** How long hands are busy before something is done, min: to use a pot up is to spread it. */
function minutesOf(day: PracticeDay, said: Said): number {
  if (said.kind === "used up")
    return day.card.pots.find(({ number }) => String(number) === said.subject)?.spread_min ?? 0;
  return day.takes_min[said.kind] ?? 0;
}

/** How far a pot is on its way to the gel of its label. */
function aged(pot: PotNow, now_min: number): number {
  if (pot.touched_min === null || pot.gels_min === null) return 0;
  return (now_min - pot.touched_min) / Math.max(0.1, pot.gels_min - pot.touched_min);
}

function benchOf(day: PracticeDay, shop_id: string, nine: number): Bench {
  return {
    run_id: day.id,
    job_id: day.id,
    shop_id,
    job_name: day.title,
    revision: 1,
    issued_at: new Date(nine).toISOString(),
    pace: day.pace,
    started_by: "",
    server_now: new Date(nine).toISOString(),
    card: day.card,
    events: [],
    last_id: 0,
    runaway: null,
    peroxide: null,
  };
}
