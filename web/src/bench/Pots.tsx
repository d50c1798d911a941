import { useId } from "react";
import { useShop } from "../shop";
import type { PotNow } from "./fold";
import { timesOf } from "./heard";
import { Heard } from "./Surface";
import { countdown } from "./time";
import { liveOf } from "./toDo";
import { useBench } from "./useBench";
import { potOf, potWhere, sayToDo, sayWhat, whereOf } from "./words";

/** A pot that burns: from fresh to kick, thinner as its working time goes, with the moment on it. */
export function Wedge({ pot, now_min, height = 52 }: { pot: PotNow; now_min: number; height?: number }) {
  const from = pot.touched_min ?? now_min;
  const [use, gel] = [pot.use_by_min ?? now_min, pot.gels_min ?? now_min];
  const x = (minute: number) => Math.min(240, Math.max(0, (240 * (minute - from)) / Math.max(gel - from, 0.1)));
  const id = useId();
  return (
    <svg
      viewBox={`0 0 246 ${height + 10}`}
      className="block w-full"
      role="img"
      aria-label={`pot ${pot.number} burning down`}
    >
      <defs>
        <linearGradient id={id}>
          <stop offset="0" stopColor="var(--color-fresh)" />
          <stop offset=".6" stopColor="var(--color-mid)" />
          <stop offset="1" stopColor="var(--color-kick-fill)" />
        </linearGradient>
      </defs>
      <path d={`M0 5H${x(use) * 0.45}L${x(use)} ${height + 1}V${height + 5}H0Z`} fill={`url(#${id})`} />
      <path d={`M${x(use)} ${height + 3}H240`} stroke="var(--color-kick)" strokeWidth="3" strokeDasharray="3 5" />
      <path d={`M240 ${height - 8}v16`} stroke="var(--color-kick)" strokeWidth="4" />
      <path d={`M${Math.max(2, x(now_min))} 0v${height + 10}`} stroke="var(--color-ink)" strokeWidth="4" />
    </svg>
  );
}

/** The clock of one pot: the minutes to use it up, and to its gel. */
export function PotClock({ pot }: { pot: PotNow }) {
  const { state, now_min, heard } = useBench();
  const card = potOf(state, String(pot.number));
  const times = timesOf(pot, heard, now_min);
  const left = times.use_by_min - now_min;
  const gels = times.gels_min - now_min;
  // By its surface it has not gelled while the band still reaches on.
  const past = (times.gels_high_min ?? times.gels_min) <= now_min;
  const tone = pot.hot || past ? "text-kick" : left <= 0 ? "text-kick" : "text-resin-ink";
  return (
    <div>
      <div className="flex items-baseline justify-between gap-3">
        <span className="text-[1.375rem] font-semibold">Pot {pot.number}</span>
        <span className={`fig text-[2.75rem] leading-none ${tone}`}>
          {past ? "gelled?" : left <= 0 ? `+${countdown(-left)}` : countdown(left)}
        </span>
      </div>
      <Wedge pot={{ ...pot, use_by_min: times.use_by_min, gels_min: times.gels_min }} now_min={now_min} />
      <p className="text-[1.125rem] leading-snug">
        {pot.lost || pot.mend ? (
          <b className="text-stop">off its ratio</b>
        ) : past ? (
          "past its gel: write down what it did"
        ) : left <= 0 ? (
          "over its working time"
        ) : (
          "to use it up"
        )}
        {!past && `; kicks in ${countdown(Math.max(0, gels))}`}
        {!past && times.gels_high_min !== null && ` to ${countdown(times.gels_high_min - now_min)}, by its surface`}
      </p>
      <p className="text-[1rem] text-ink-soft">
        {card && potWhere(card)}
        {pot.vessel === "cup" && card && card.goes_to !== "cup" && "; still in its cup"}
      </p>
      <Heard pot={pot.number} />
    </div>
  );
}

/** What stands at the edge: every pot that ages, what comes next, how far each lane is. */
export function Beside() {
  const { state, due, now_min, at } = useBench();
  const { clock } = useShop();
  const live = liveOf(state);
  const next = due.find((one) => one.at_min > now_min && one.about !== "pot");
  const layer = next && state.card.layers.find((each) => each.id === next.subject);
  return (
    <aside aria-label="Live" className="sticky top-0 space-y-5 self-start px-5 py-4 max-lg:hidden">
      {live.map((pot) => (
        <PotClock key={pot.number} pot={pot} />
      ))}
      {next && (
        <div className={live.length ? "border-t border-rule pt-3" : ""}>
          <p className="text-[1.0625rem] text-ink-soft">Next to look at, {clock(at(next.at_min))}</p>
          <p className="text-[1.25rem] leading-tight font-semibold">
            {layer ? whereOf(layer) : next.about === "flow" ? sayWhat(state, next) : "fixings come out"}
            {layer && <span className="block font-normal">{layer.words}</span>}
          </p>
        </div>
      )}
      <div className="space-y-3 border-t border-rule pt-3">
        {nearest(lanesOf(state)).map((lane) => (
          <div key={lane.id}>
            <p className="flex items-baseline justify-between gap-2">
              <span className="text-[1.0625rem] leading-tight text-ink-soft">{lane.name}</span>
              <span className="whitespace-nowrap">
                <span className="fig text-[1.5rem]">{lane.done}</span>{" "}
                <span className="text-[1.0625rem] text-ink-soft">of {lane.of}</span>
              </span>
            </p>
            <div className="mt-1 flex gap-1" aria-hidden="true">
              {lane.layers.map((id, n) => (
                <span key={id} className={`h-3 flex-1 ${n < lane.done ? "bg-glass" : "bg-rule-faint"}`} />
              ))}
            </div>
          </div>
        ))}
      </div>
    </aside>
  );
}

export interface LaneNow {
  id: string;
  name: string;
  layers: string[];
  done: number;
  of: number;
}

/** Each lane, with how many of its layers are laid. */
export function lanesOf(state: ReturnType<typeof useBench>["state"]): LaneNow[] {
  const lanes = new Map<string, LaneNow>();
  state.card.layers.forEach((layer, n) => {
    const lane = lanes.get(layer.lane) ?? { id: layer.lane, name: layer.lane_name, layers: [], done: 0, of: 0 };
    lane.layers.push(layer.id);
    lane.of += 1;
    if (state.layers[n]?.laid_min !== null) lane.done += 1;
    lanes.set(layer.lane, lane);
  });
  return [...lanes.values()];
}

const MOST_LANES = 6;

/** What is begun stands first, then what is to come, then what is done. */
function nearest(lanes: LaneNow[]): LaneNow[] {
  const place = (lane: LaneNow) => (lane.done === lane.of ? 2 : lane.done ? 0 : 1);
  return [...lanes].sort((one, other) => place(one) - place(other)).slice(0, MOST_LANES);
}

function StripPot({ pot }: { pot: PotNow }) {
  const { now_min, heard } = useBench();
  const times = timesOf(pot, heard, now_min);
  const left = times.use_by_min - now_min;
  return (
    <li className="min-w-[7rem] flex-1">
      <p className="flex items-baseline justify-between gap-2">
        <span className="text-[1.125rem] font-semibold">Pot {pot.number}</span>
        <span className={`fig text-[1.625rem] leading-none ${left <= 0 ? "text-kick" : "text-resin-ink"}`}>
          {left <= 0 ? `+${countdown(-left)}` : countdown(left)}
        </span>
      </p>
      <Wedge pot={{ ...pot, use_by_min: times.use_by_min, gels_min: times.gels_min }} now_min={now_min} height={24} />
    </li>
  );
}

/** On a narrow screen the pots stand in a row over what is to do. */
export function PotStrip() {
  const { state, todo } = useBench();
  const live = liveOf(state);
  if (!live.length) return null;
  return (
    <ul aria-label="Live pots" className="flex gap-4 overflow-x-auto border-b border-rule px-3 py-2 lg:hidden">
      {live.map((pot) => (
        <StripPot key={pot.number} pot={pot} />
      ))}
      {todo[0] && <li className="sr-only">{sayToDo(state, todo[0])}</li>}
    </ul>
  );
}
