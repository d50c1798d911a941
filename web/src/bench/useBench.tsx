import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext, useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { type Bench, client, type Happened, Refused, taken } from "../api/client";
import { KEPT_AT } from "../api/reach";
import { type BenchState, fold, standing, type Tap } from "./fold";
import { asHeard, dueByHearing, type PotHeard } from "./heard";
import { Instruments, type Live } from "./Instruments";
import { Line, type LineStands, type Said } from "./Line";
import { Photos } from "./Photos";
import { type Due, dueOf, type ToDo, toDo } from "./toDo";

export interface BenchHold {
  bench: Bench;
  line: Pick<Line, "bench" | "taps" | "last" | "takeBack" | "hear" | "readOfLost">;
  stands: LineStands;
  photos: Pick<Photos, "subscribe" | "told" | "add" | "send" | "leaveOut">;
  state: BenchState;
  todo: ToDo[];
  due: Due[];
  heard: PotHeard[];
  instruments: Pick<Instruments, "subscribe" | "places" | "reads" | "runId" | "put" | "lookAgain">;
  /** Worked for practice: there is no run, and nothing is written down. */
  practised?: boolean;
  /** Minutes from the run's issue, by the server's clock. */
  now_min: number;
  me: string;
  tap: (...said: Said[]) => void;
  /** A moment of the run as milliseconds. */
  at: (minute: number) => number;
}

const Held = createContext<BenchHold | null>(null);
export const BenchContext = Held.Provider;

export function useBench(): BenchHold {
  const held = useContext(Held);
  if (!held) throw new Error("useBench is used outside a bench");
  return held;
}

/** A bench as the server tells it, or as it was kept; which of the two matters to its clock. */
async function readBench(run_id: string) {
  const told = await client.GET("/api/runs/{run_id}/bench", { params: { path: { run_id } } });
  return { ...told, data: told.data && { bench: told.data, fresh: !told.response.headers.has(KEPT_AT) } };
}

export function useBenchOf(runId: string) {
  return useQuery({
    queryKey: ["bench", runId],
    queryFn: () => taken(readBench(runId)),
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
    retry: 2,
  });
}

/** A run as it stands, second by second, with every tablet's taps. */
export function useLive(bench: Bench, me: string, fresh: boolean): BenchHold {
  const line = useMemo(() => new Line(bench, me, fresh), [bench, me, fresh]);
  const photos = useMemo(() => new Photos(line), [line]);
  const taps = useSyncExternalStore(line.subscribe, line.taps);
  const stands = useSyncExternalStore(line.subscribe, line.stands);
  const [now, setNow] = useState(line.now);
  useEffect(() => {
    const beat = window.setInterval(() => setNow(line.now()), 1000);
    return () => clearInterval(beat);
  }, [line]);
  const queries = useQueryClient();
  const instruments = useMemo(
    () =>
      new Instruments(bench.shop_id, bench.run_id, () =>
        queries.invalidateQueries({ queryKey: ["bench", bench.run_id] }),
      ),
    [bench, queries],
  );
  useStream(line, instruments);
  // A tap is never later than now, also within its second.
  useEffect(() => line.subscribe(() => setNow(line.now())), [line]);
  const now_min = line.minute(now);
  const folded = useMemo(() => fold(bench.card, taps, now_min), [bench.card, taps, now_min]);
  const heard = usePotsHeard(bench, taps, now_min, instruments);
  const state = useMemo(() => asHeard(folded, heard), [folded, heard]);
  const todo = useMemo(() => toDo(state, now_min), [state, now_min]);
  const due = useMemo(() => {
    const all = [...dueOf(state), ...dueByHearing(state, heard)];
    return all.sort((one, other) => one.at_min - other.at_min);
  }, [state, heard]);
  return {
    bench,
    line,
    stands,
    photos,
    state,
    todo,
    due,
    heard,
    instruments,
    now_min,
    me,
    tap: (...said) => line.tap(...said),
    at: (minute) => new Date(bench.issued_at).getTime() + (minute * 60_000) / bench.pace,
  };
}

/** What the surfaces of a run's pots say, as they were read: the server runs their own heat forward for it. */
function usePotsHeard(bench: Bench, taps: Tap[], now_min: number, instruments: Instruments): PotHeard[] {
  const written = standing(taps).filter((tap) => tap.kind === "surface" && tap.event_id !== undefined).length;
  const listens = useSyncExternalStore(instruments.subscribe, () => instruments.reads("thermometer")?.pot != null);
  // Asked anew with each reading that was tapped, and as the minutes pass: oftener where a thermometer reads by itself.
  const each_s = listens ? Math.max(LEAST_POLL_S, POLL_S / bench.pace) : 60;
  const beat = Math.floor((60 * now_min) / bench.pace / each_s);
  const heard = useQuery({
    queryKey: ["heard", bench.run_id, written, beat],
    queryFn: () => taken(client.GET("/api/runs/{run_id}/heard", { params: { path: { run_id: bench.run_id } } })),
    enabled: written > 0 || listens,
    placeholderData: (before) => before,
  });
  return (written || listens) && heard.data ? heard.data : NOTHING;
}

const NOTHING: PotHeard[] = [];
// What a thermometer says is asked for so often, s: in a pot that is simulated faster oftener, but not without a pause.
const [POLL_S, LEAST_POLL_S] = [15, 1.5];

/** Hears what other tablets tap, from where this one was; where the stream breaks off, by sleep or by roaming, begins it anew. */
function useStream(line: Line, instruments: Instruments): void {
  const queries = useQueryClient();
  useEffect(() => {
    let stream: EventSource | undefined;
    let again = 0;
    let heard_at = Date.now();
    const begin = () => {
      stream?.close();
      clearTimeout(again);
      heard_at = Date.now();
      stream = follow(line, instruments, () => {
        heard_at = Date.now();
      });
      stream.onerror = () => {
        if (stream?.readyState !== EventSource.CLOSED) return;
        // Refused, not only out of reach: perhaps nobody is signed in any more.
        void queries.invalidateQueries({ queryKey: ["session"] });
        later();
      };
    };
    const later = () => {
      stream?.close();
      clearTimeout(again);
      again = window.setTimeout(begin, STREAM_AGAIN_MS);
    };
    const woken = () => {
      if (document.visibilityState === "visible" && Date.now() - heard_at > SILENT_MS) begin();
    };
    begin();
    const watch = window.setInterval(woken, STREAM_AGAIN_MS);
    document.addEventListener("visibilitychange", woken);
    window.addEventListener("online", begin);
    return () => {
      stream?.close();
      clearTimeout(again);
      clearInterval(watch);
      document.removeEventListener("visibilitychange", woken);
      window.removeEventListener("online", begin);
    };
  }, [line, instruments, queries]);
}

// The server says something each 15 s: what is silent for longer than three times that is dead.
const [STREAM_AGAIN_MS, SILENT_MS] = [5_000, 46_000];

function follow(line: Line, instruments: Instruments, alive: () => void): EventSource {
  const { shop_id, run_id } = line.bench;
  const stream = new EventSource(`/api/shops/${shop_id}/stream?after=${line.lastId}`);
  stream.onmessage = async (told) => {
    alive();
    const event = JSON.parse(told.data as string) as Happened;
    if (event.run_id !== run_id) return;
    line.hear(event.kind === "plan taken" ? await whole(run_id, event) : event);
  };
  stream.addEventListener("live", (told) => {
    alive();
    instruments.hear(JSON.parse((told as MessageEvent<string>).data) as Live);
  });
  stream.addEventListener("clock", (told) => {
    alive();
    line.tellClock((told as MessageEvent<string>).data);
    void line.send();
  });
  return stream;
}

/** A plan is too long for the stream: it is asked for, until it comes. */
async function whole(run_id: string, event: Happened): Promise<Happened> {
  const path = { params: { path: { run_id, event_id: event.id } } };
  for (;;) {
    try {
      return await taken(client.GET("/api/runs/{run_id}/events/{event_id}", path));
    } catch (error) {
      if (!(error instanceof Refused) || (error.status && error.status < 500)) throw error;
      await new Promise((done) => setTimeout(done, STREAM_AGAIN_MS));
    }
  }
}
