import { useState, useSyncExternalStore } from "react";
import { client, Refused, type Schemas, taken } from "../api/client";
import { useShop } from "../shop";
import type { Units } from "../units";
import type { Kind, Live, Place } from "./Instruments";
import { liveOf } from "./toDo";
import { useBench } from "./useBench";

type StandIn = Schemas["StandInIn"];

/** What an instrument here shows now; nothing where the run is at no bench, or the bench has none of its kind. */
export function useReads(kind: Kind): Live | undefined {
  const { instruments } = useBench();
  return useSyncExternalStore(instruments.subscribe, () => instruments.reads(kind));
}

export function usePlaces(): { places: Place[]; here: Place | undefined } {
  const { instruments } = useBench();
  const places = useSyncExternalStore(instruments.subscribe, instruments.places);
  return { places, here: places.find((place) => place.run_id === instruments.runId) };
}

export const troubles: Record<Live["trouble"], string> = {
  "": "",
  unread: "sends what cannot be read: check its speed and its unit under Shop",
  unplugged: "is unplugged",
  refused: "has a port that this machine may not read",
  knocked: "was knocked",
  "two at once": "seems to be two instruments on one port",
  jumped: "jumped: not believed until it stays there",
  stuck: "is stuck: not believed",
  silent: "is silent",
};
export const kindNames: Record<Kind, string> = { scale: "Scale", thermometer: "Thermometer", room: "Room" };

/** The bench this run is worked at: what its instruments show, or which bench it may be put at. */
export function AtPlace() {
  const { instruments, state, bench } = useBench();
  const { mayWrite } = useShop();
  const { places, here } = usePlaces();
  const [refused, setRefused] = useState("");
  if (!places.length || state.outcome) return null;
  const put = async (placeId: string, runId: string | null) => {
    try {
      setRefused("");
      await instruments.put(placeId, runId);
    } catch (error) {
      setRefused(error instanceof Refused ? error.message : "");
    }
  };
  const simulate = async (placeId: string) => {
    const path = { params: { path: { place_id: placeId } } };
    await taken(client.POST("/api/places/{place_id}/standins", { ...path, body: { do: "start", kind: "scale" } }));
    await instruments.lookAgain();
  };
  return (
    <section
      aria-label="Instruments"
      className="flex flex-wrap items-center gap-x-6 border-b border-rule bg-sheet px-3 text-[1.125rem] sm:px-5"
    >
      {here ? (
        <>
          <span className="font-semibold max-sm:hidden">{here.name}</span>
          {here.instruments.map((one) => (
            <Shown key={one.id} kind={one.kind} />
          ))}
          {bench.pace > 1 && (
            <span role="status" className="font-semibold text-resin-ink">
              Simulated: this run's clock goes {bench.pace} times as fast
            </span>
          )}
          <span className="flex-1 max-sm:hidden" />
          {here.standins.on && <StandIns here={here} />}
          {here.instruments.length === 0 && (
            <button
              type="button"
              disabled={!mayWrite}
              onClick={() => void simulate(here.id)}
              className="min-h-16 px-2 underline underline-offset-4"
            >
              Try it with simulated instruments
            </button>
          )}
          <button
            type="button"
            disabled={!mayWrite}
            onClick={() => void put(here.id, null)}
            className="min-h-16 px-2 text-ink-soft underline underline-offset-4"
          >
            Weigh by hand
          </button>
        </>
      ) : (
        places.map((place) => (
          <button
            key={place.id}
            type="button"
            disabled={!mayWrite}
            onClick={() => void put(place.id, instruments.runId)}
            className="min-h-16 px-2 underline underline-offset-4"
          >
            Work at {place.name}
            {place.run_id && ", another run is there"}
          </button>
        ))
      )}
      {refused && (
        <span role="alert" className="text-stop">
          {refused}
        </span>
      )}
    </section>
  );
}

/** One instrument in a line: what it shows, or what is wrong with it. */
function Shown({ kind }: { kind: Kind }) {
  const { units } = useShop();
  const { now_min, at } = useBench();
  const { clock } = useShop();
  const live = useReads(kind);
  const silent = live?.at && at(now_min) - new Date(live.at).getTime() > 1000 * live.silent_after_s;
  const trouble = !live
    ? "is not heard yet"
    : troubles[live.trouble] || (silent ? `is silent since ${clock(live.at ?? "")}` : "");
  return (
    <span className={`flex min-h-10 items-center gap-2 sm:min-h-16 ${kind === "room" ? "max-sm:hidden" : ""}`}>
      <span className="text-ink-soft">{kindNames[kind]}</span>
      {live?.value != null && <span className="fig text-[1.5rem]">{shown(live, units)}</span>}
      {kind === "thermometer" && live?.pot != null && <PointedAt pot={live.pot} />}
      {trouble && (
        <span role="status" className="text-stop">
          {trouble}
        </span>
      )}
    </span>
  );
}

/** The pot a thermometer is pointed at; pressed, it is the next that is live. */
function PointedAt({ pot }: { pot: number }) {
  const { instruments, state } = useBench();
  const { here } = usePlaces();
  const live = liveOf(state).map((each) => each.number);
  const next = live[(live.indexOf(pot) + 1) % live.length];
  if (!here || live.length < 2 || next === undefined) return <span className="text-ink-soft">pot {pot}</span>;
  return (
    <button
      type="button"
      onClick={() => void instruments.put(here.id, instruments.runId, next)}
      className="min-h-16 px-2 underline underline-offset-4"
    >
      on pot {pot}: point it at pot {next}
    </button>
  );
}

const shown = (live: Live, units: Units) => units.text(live.kind === "scale" ? "mass" : "temperature", live.value ?? 0);

const hands: [StandIn["do"], string][] = [
  ["cup", "Put a cup on"],
  ["pour", "Pour"],
  ["pour over", "Pour too much"],
  ["halt", "Stop pouring"],
  ["lift", "Lift the cup"],
  ["put back", "Put it back"],
  ["nought", "Set to nought"],
  ["knock", "Knock the bench"],
];
const paces = [1, 10, 60] as const;

/** The hand at the simulated instruments. */
function StandIns({ here }: { here: Place }) {
  const { instruments } = useBench();
  const [open, setOpen] = useState(false);
  const [refused, setRefused] = useState("");
  const work = async (body: Omit<StandIn, "kind"> & { kind?: Kind }) => {
    const path = { params: { path: { place_id: here.id } } };
    try {
      setRefused("");
      await taken(client.POST("/api/places/{place_id}/standins", { ...path, body: { kind: "scale", ...body } }));
      await instruments.lookAgain();
    } catch (error) {
      setRefused(error instanceof Refused ? error.message : "");
    }
  };
  const press = "min-h-16 rounded-(--radius) border-2 border-rule px-3 text-[1rem]";
  if (!open)
    return (
      <button type="button" onClick={() => setOpen(true)} className="min-h-16 px-2 underline underline-offset-4">
        Simulated: take a hand
      </button>
    );
  return (
    <div className="order-last flex w-full flex-wrap items-center gap-2 border-t border-rule-faint py-2">
      {hands.map(([act, words]) => (
        <button key={act} type="button" onClick={() => void work({ do: act })} className={press}>
          {words}
        </button>
      ))}
      {here.instruments.map(({ kind }) => {
        const out = here.standins.unplugged.includes(kind);
        return (
          <button
            key={kind}
            type="button"
            onClick={() => void work({ do: out ? "plug in" : "unplug", kind })}
            className={press}
          >
            {out ? "Plug in" : "Unplug"} the {kind === "room" ? "room probe" : kind}
          </button>
        );
      })}
      <button
        type="button"
        aria-pressed={here.standins.fast}
        onClick={() => void work({ do: "set", fast: !here.standins.fast })}
        className={`${press} aria-pressed:bg-ink aria-pressed:text-floor`}
      >
        A fast tin
      </button>
      {paces.map((pace) => (
        <button
          key={pace}
          type="button"
          aria-pressed={here.standins.pace === pace}
          onClick={() => void work({ do: "set", pace })}
          className={`${press} aria-pressed:bg-ink aria-pressed:text-floor`}
        >
          {pace === 1 ? "In real time" : `${pace} times as fast`}
        </button>
      ))}
      <button type="button" onClick={() => setOpen(false)} className={press}>
        Put away
      </button>
      {refused && (
        <p role="alert" className="w-full text-stop">
          {refused}
        </p>
      )}
    </div>
  );
}
