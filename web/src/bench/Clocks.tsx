import { useShop } from "../shop";
import { lanesOf, PotClock } from "./Pots";
import { ReadSurface } from "./Surface";
import { SurfaceLine } from "./SurfaceLine";
import { countdown } from "./time";
import { liveOf, shiftOf } from "./toDo";
import { useBench } from "./useBench";
import { sayWhat } from "./words";

/** All that runs: pots, windows, what comes out. */
export function Clocks() {
  const { state, due, now_min, at, heard } = useBench();
  const { clock, day } = useShop();
  const live = liveOf(state);
  const today = day(new Date(at(now_min)).toISOString());
  return (
    <>
      <h2 className="sr-only">Clocks</h2>
      {live.length > 0 && (
        <div className="mb-6 grid gap-6 sm:grid-cols-2 lg:hidden">
          {live.map((pot) => (
            <PotClock key={pot.number} pot={pot} />
          ))}
        </div>
      )}
      {live.map((pot) => (
        <div key={pot.number} className="mb-4 flex flex-wrap items-center gap-3">
          <p className="text-[1.375rem] font-semibold">Pot {pot.number}</p>
          <ReadSurface pot={pot.number} />
          {heard
            .filter((told) => told.number === pot.number)
            .map((told) => (
              <SurfaceLine key={told.number} told={told} />
            ))}
        </div>
      ))}
      {due.length === 0 && (
        <p className="text-[1.5rem] text-ink-soft">
          Nothing runs. As soon as a pot is mixed or a layer is laid, its clocks stand here, and sound when they are
          due.
        </p>
      )}
      <ol>
        {due.map((one) => {
          const left = one.at_min - now_min;
          const moment = new Date(at(one.at_min)).toISOString();
          return (
            <li
              key={one.key}
              className="grid grid-cols-[7.5rem_1fr] items-baseline gap-x-4 border-b border-rule-faint py-3 sm:grid-cols-[7.5rem_7rem_1fr]"
            >
              <span
                className={`fig text-[2rem] leading-none ${left <= 0 ? "text-kick" : one.level === "now" ? "text-resin-ink" : ""}`}
              >
                {left <= 0 ? "now" : countdown(left)}
              </span>
              <span className="fig text-[1.375rem] text-ink-soft max-sm:hidden">
                {clock(moment)}
                {day(moment) !== today && <span className="block text-[1rem]">{day(moment)}</span>}
              </span>
              <span className="text-[1.375rem] leading-tight">{sayWhat(state, one)}</span>
            </li>
          );
        })}
      </ol>
      <Later />
      <p className="mt-5 text-[1.125rem] text-ink-soft">
        Two low tones: soon. Three: now, again every 20 s until somebody presses “I hear”. A tone without an end: get
        away.
      </p>
    </>
  );
}

/** What comes without a sound: cures, and where the plan leaves the work for the night. */
function Later() {
  const { state, now_min, at } = useBench();
  const { clock, weekday } = useShop();
  const shift = shiftOf(state, now_min);
  const moment = (minute: number) => `${weekday(at(minute))} ${clock(at(minute))}`;
  const cures = lanesOf(state)
    .filter((lane) => lane.done === lane.of)
    .map((lane) => ({
      lane,
      hard: Math.max(...lane.layers.map((id) => state.layers.find((now) => now.id === id)?.hard_min ?? 0)),
    }))
    .filter(({ hard }) => hard > now_min);
  const stops = (state.card.stops ?? []).filter((stop) => stop.planned_from_min + shift > now_min);
  if (!cures.length && !stops.length) return null;
  return (
    <ul className="mt-6">
      {cures.map(({ lane, hard }) => (
        <li
          key={lane.id}
          className="grid grid-cols-[11rem_1fr] gap-x-4 border-b border-rule-faint py-3 max-sm:grid-cols-1"
        >
          <span className="fig text-[1.375rem]">{moment(hard)}</span>
          <span className="text-[1.375rem] leading-tight">{lane.name}: hard, it can be sanded</span>
        </li>
      ))}
      {stops.map((stop) => (
        <li
          key={`${stop.lane} ${stop.planned_from_min}`}
          className="grid grid-cols-[11rem_1fr] gap-x-4 border-b border-rule-faint py-3 max-sm:grid-cols-1"
        >
          <span className="fig text-[1.375rem]">{moment(stop.planned_from_min + shift)}</span>
          <span className="text-[1.375rem] leading-tight">
            {stop.lane_name}, left for the night: {stop.words}
          </span>
        </li>
      ))}
    </ul>
  );
}
