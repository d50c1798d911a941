/** What to do now at the bench, in its order, each with its reason; and what falls due. As the core has it. */
import type { Schemas } from "../api/client";
import type { BenchState, LayerNow, PotNow } from "./fold";

export type ToDo = Required<Schemas["ToDo"]>;
export type Due = Schemas["Due"];
export type Deviation = Schemas["Deviation"];

type CardLayer = BenchState["card"]["layers"][number];
type CardPot = BenchState["card"]["pots"][number];

const LAST_MIN = 3;
const LAST_SHARE = 0.25;
const COVER_WITHIN_MIN = 20;
const PAST_IT_MIN = 12 * 60;
const WATCH_MIN = 1;

function todo(
  code: ToDo["code"],
  about: ToDo["about"],
  subject: string | number,
  why: ToDo["why"],
  by?: number | null,
) {
  return { code, about, subject: String(subject), why, by_min: by ?? null, from_min: null } satisfies ToDo;
}

/** What to do, the first first. Never empty. */
export function toDo(state: BenchState, now_min: number): ToDo[] {
  if (state.outcome) return [todo("closed", "run", "", "")];
  const found = [...cannotWait(state, now_min), ...windows(state, now_min)];
  if (!state.opened && state.pots.every((pot) => pot.state === "planned"))
    return [...found, todo("begin", "run", "", "nobody has begun")];
  if (state.night) return [...found, todo("night", "run", "", "left for the night")];
  found.push(
    ...inHand(state),
    ...toFlow(state, now_min),
    ...toLay(state, now_min),
    ...toTick(state),
    ...next(state, now_min),
    ...takeOut(state, now_min),
  );
  return found.length ? found : [todo("close", "run", "", "all is laid")];
}

/** The pots that are ageing, the oldest first. */
export const liveOf = (state: BenchState): PotNow[] =>
  state.pots
    .filter((pot) => pot.state === "live")
    .sort((one, other) => (one.touched_min ?? 0) - (other.touched_min ?? 0));

export const onRatio = (pot: PotNow) => !pot.mend && !pot.lost;

function* cannotWait(state: BenchState, now_min: number): Generator<ToDo> {
  const live = liveOf(state);
  for (const pot of live) if (pot.hot) yield todo("get away", "pot", pot.number, "too hot");
  for (const pot of live) {
    if (pot.hot) continue;
    if (pot.lost) yield todo("dump", "pot", pot.number, "off its ratio, and too late or too large to mend");
    else if (pot.mend) yield todo("top up", "pot", pot.number, "off its ratio");
    const gels = pot.gels_min ?? now_min;
    if (now_min >= gels) {
      if (now_min - gels < PAST_IT_MIN) yield todo("what became of it", "pot", pot.number, "past its gel");
    } else if (onRatio(pot) && nearlyUsed(pot, now_min))
      yield todo("use up", "pot", pot.number, "nearly at the end of its working time", pot.use_by_min);
  }
}

function nearlyUsed(pot: PotNow, now_min: number): boolean {
  if (pot.use_by_min === null || pot.touched_min === null) return false;
  return pot.use_by_min - now_min < Math.max(LAST_MIN, LAST_SHARE * (pot.use_by_min - pot.touched_min));
}

/** Layers that close before the next is on them. */
function* windows(state: BenchState, now_min: number): Generator<ToDo> {
  for (const [layer, now] of waiting(state))
    if (now.state === "tacky" && now.closes_min !== null && now.closes_min - now_min < COVER_WITHIN_MIN)
      yield todo("cover", "layer", layer.id, "its window closes", now.closes_min);
}

/** Laid layers on which another is to come that is not laid yet. */
export function* waiting(state: BenchState): Generator<[CardLayer, LayerNow]> {
  for (const [at, layer] of state.card.layers.entries()) {
    const now = state.layers[at];
    const above = state.card.layers.findIndex((other, place) => place > at && samePlace(other, layer));
    if (now && now.laid_min !== null && above >= 0 && state.layers[above]?.laid_min === null) yield [layer, now];
  }
}

const samePlace = (one: CardLayer, other: CardLayer) => one.lane === other.lane && one.bay === other.bay;

/** The pots that are being weighed and mixed. */
function* inHand(state: BenchState): Generator<ToDo> {
  for (const [at, pot] of state.pots.entries()) {
    const card = state.card.pots[at];
    if (pot.state === "weighing")
      yield todo(pot.first === null ? "weigh first" : "weigh second", "pot", pot.number, "in the cup");
    else if (card && pot.state === "live" && onRatio(pot) && !pot.hot) {
      if (!pot.stirred && pot.first !== null && pot.second === null && card.pours.length > 1)
        yield todo("weigh second", "pot", pot.number, "in the cup");
      else if (!pot.stirred) yield todo("stir", "pot", pot.number, "both parts are in");
      else if (card.filler_ml && !pot.filled && pot.vessel === "cup") yield todo("fill", "pot", pot.number, "mixed");
      else if (pot.vessel === "cup" && card.goes_to !== "cup" && !pot.half_used)
        yield todo("pour out", "pot", pot.number, "mixed");
    }
  }
}

/** The layers that live pots are for. */
function* toLay(state: BenchState, now_min: number): Generator<ToDo> {
  for (const pot of liveOf(state)) {
    if (!onRatio(pot) || pot.hot || !pot.stirred || gelled(pot, now_min)) continue;
    for (const [at, layer] of state.card.layers.entries())
      if (layer.first_pot <= pot.number && pot.number <= layer.last_pot && state.layers[at]?.laid_min === null)
        yield todo("lay", "layer", layer.id, "its pot is live", pot.use_by_min);
  }
}

/** Whether it has gelled by its clock, said or not. */
const gelled = (pot: PotNow, now_min: number) => pot.gels_min !== null && now_min >= pot.gels_min;

/** The next pot, or what it waits for. */
function* next(state: BenchState, now_min: number): Generator<ToDo> {
  if (lostWork(state)) {
    yield todo("plan anew", "run", "", "a pot was lost");
    return;
  }
  const waits = state.pots.some(
    (pot) => pot.state === "weighing" || (pot.state === "live" && (pot.hot || !onRatio(pot))),
  );
  const number = state.pots.find((pot) => pot.state === "planned" && !allLaid(state, pot.number))?.number;
  if (number === undefined || waits) return;
  const place = under(state, number);
  const layer = state.card.layers[place];
  const now = state.layers[place];
  if (layer && now) {
    const asks = onTopOf(layer, now, now_min);
    yield* asks.found;
    if (!asks.open) return;
  }
  const newest = liveOf(state)
    .filter((pot) => !pot.half_used && !gelled(pot, now_min))
    .at(-1);
  if (!newest) {
    yield todo("mix", "pot", number, "nothing is live");
    return;
  }
  const of = state.card.pots.find((pot) => pot.number === newest.number);
  if (of && newest.touched_min !== null && now_min >= newest.touched_min + of.contact_min + of.spread_min / 2)
    yield todo("mix", "pot", number, "half of the last is on the work");
}

/** What a layer asks before the next is laid on it, and whether the next pot may be mixed. */
function onTopOf(layer: CardLayer, now: LayerNow, now_min: number): { found: ToDo[]; open: boolean } {
  if (layer.test && now.laid_min === null) return { found: [], open: false };
  if (layer.test && now.opens_min !== null && now.opens_min > now_min) {
    const wait = todo("wait for tack", "layer", layer.id, "the layer under it is still wet");
    return { found: [{ ...wait, from_min: now.opens_min }], open: false };
  }
  if (now.state === "closed" || now.state === "hard")
    return { found: [todo("key", "layer", layer.id, "its window has closed")], open: false };
  if (layer.test && (now.state === "wet" || now.state === "tacky") && !now.tested)
    return { found: [todo("test", "layer", layer.id, "touch decides", now.closes_min)], open: true };
  return { found: [], open: true };
}

/** Whether a pot was lost whose work is not laid. */
function lostWork(state: BenchState): boolean {
  const lost = state.pots.filter((pot) => pot.state === "dumped" || pot.state === "gelled").map((pot) => pot.number);
  return state.card.layers.some(
    (layer, at) =>
      state.layers[at]?.laid_min === null &&
      lost.some((number) => layer.first_pot <= number && number <= layer.last_pot),
  );
}

/** Whether all that a pot is for is laid without it. */
function allLaid(state: BenchState, number: number): boolean {
  const mine = state.layers.filter((_, at) => {
    const layer = state.card.layers[at];
    return layer && layer.first_pot <= number && number <= layer.last_pot;
  });
  return mine.length > 0 && mine.every((now) => now.laid_min !== null);
}

/** The place of the layer that lies under what a pot begins; none is −1. */
function under(state: BenchState, number: number): number {
  const first = state.card.layers.findIndex((layer) => layer.first_pot === number);
  const layer = state.card.layers[first];
  return layer ? state.card.layers.findLastIndex((other, at) => at < first && samePlace(other, layer)) : -1;
}

/** The valves, and the marks that a front is about to come to. */
function* toFlow(state: BenchState, now_min: number): Generator<ToDo> {
  for (const [at, card] of (state.card.flows ?? []).entries()) {
    const flow = state.flows[at];
    if (!flow) continue;
    if (flow.opened_min === null) {
      if (firstIsIn(state, card.lane))
        yield todo("open the valve", "flow", card.id, "its first resin is in the bucket");
    } else if (flow.valve !== "shut") {
      if (flow.full_min !== null && flow.full_min <= now_min && flow.next_mark === null)
        yield todo("close the valve", "flow", card.id, "it is full");
      else if (flow.next_min !== null && flow.next_min - now_min < WATCH_MIN)
        yield {
          ...todo("watch the front", "flow", card.id, "the front tells how open the bed is"),
          from_min: flow.next_min,
        };
    }
  }
}

/** Whether the first pot of a lane is mixed. */
function firstIsIn(state: BenchState, lane: string): boolean {
  const number = state.card.pots.find((pot) => pot.lane === lane)?.number;
  const pot = state.pots.find((each) => each.number === number);
  return pot !== undefined && (pot.stirred || pot.state === "used up");
}

/** Faces whose lane is laid, and that are not looked at yet. */
function* toTick(state: BenchState): Generator<ToDo> {
  for (const face of state.card.faces ?? []) {
    const laid = state.layers.filter((_, at) => state.card.layers[at]?.lane === face.lane);
    if (!state.ticked.includes(face.id) && laid.length && laid.every((now) => now.laid_min !== null))
      yield todo("tick", "face", face.id, "nobody reaches it again");
  }
}

function* takeOut(state: BenchState, now_min: number): Generator<ToDo> {
  for (const [id, at_min] of stillIn(state))
    if (at_min <= now_min) yield { ...todo("take out", "fixing", id, "it is hard enough"), from_min: at_min };
}

/** What is still in, and when it may be taken out: once all of its lane is laid. */
export function* stillIn(state: BenchState): Generator<[string, number]> {
  for (const fixing of state.card.fixings ?? []) {
    const laid = state.layers.filter((_, at) => state.card.layers[at]?.lane === fixing.lane).map((now) => now.laid_min);
    const known = laid.filter((at) => at !== null);
    if (!state.out.includes(fixing.id) && laid.length && known.length === laid.length)
      yield [fixing.id, Math.max(...known) + fixing.after_min];
  }
}

/** The moments that sound, in their order, without those that were answered. */
export function dueOf(state: BenchState): Due[] {
  if (state.outcome) return [];
  const found = [...dueOfPots(state), ...dueOfLayers(state)];
  for (const [id, at_min] of stillIn(state))
    found.push({ key: `fixing ${id}`, level: "soon", at_min, about: "fixing", subject: id });
  found.push(...dueOfFlows(state));
  return found
    .filter((due) => !state.answered.includes(due.key))
    .sort((one, other) => one.at_min - other.at_min || (one.key < other.key ? -1 : 1));
}

function* dueOfPots(state: BenchState): Generator<Due> {
  for (const pot of liveOf(state)) {
    if (pot.touched_min === null || pot.use_by_min === null || pot.gels_min === null) continue;
    const about = { about: "pot", subject: String(pot.number) } as const;
    const half = pot.touched_min + (pot.use_by_min - pot.touched_min) / 2;
    yield { key: `pot ${pot.number} half`, level: "soon", at_min: half, ...about };
    yield { key: `pot ${pot.number} end`, level: "now", at_min: pot.use_by_min, ...about };
    yield { key: `pot ${pot.number} gel`, level: "now", at_min: pot.gels_min, ...about };
    if (pot.hot) yield { key: `pot ${pot.number} hot`, level: "get away", at_min: pot.touched_min, ...about };
  }
}

/** The next mark of each front, and when it is full. */
function* dueOfFlows(state: BenchState): Generator<Due> {
  for (const flow of state.flows) {
    if (flow.valve === "shut") continue;
    const about = { level: "soon", about: "flow", subject: flow.id } as const;
    if (flow.next_min !== null) yield { key: `mark ${flow.next_mark} ${flow.id}`, at_min: flow.next_min, ...about };
    if (flow.full_min !== null) yield { key: `full ${flow.id}`, at_min: flow.full_min, ...about };
  }
}

function* dueOfLayers(state: BenchState): Generator<Due> {
  for (const [layer, now] of waiting(state)) {
    if (now.opens_min === null || now.closes_min === null) continue;
    if (now.state === "closed" || now.state === "mended" || now.state === "hard") continue;
    const about = { about: "layer", subject: layer.id } as const;
    if (layer.test && !now.tested) yield { key: `test ${layer.id}`, level: "soon", at_min: now.opens_min, ...about };
    yield { key: `closing ${layer.id}`, level: "soon", at_min: now.closes_min - COVER_WITHIN_MIN, ...about };
    yield { key: `closes ${layer.id}`, level: "now", at_min: now.closes_min, ...about };
  }
}

/** How far a run has left its plan, by its pots. */
export function deviationOf(state: BenchState): Deviation {
  const mixed = state.pots.filter((pot) => pot.touched_min !== null).sort((one, other) => one.number - other.number);
  const card = (pot: PotNow | undefined) => state.card.pots.find((each) => each.number === pot?.number);
  const first = mixed[0];
  const last = [...mixed].sort((one, other) => (one.touched_min ?? 0) - (other.touched_min ?? 0)).at(-1);
  const done = (last?.touched_min ?? 0) - (first?.touched_min ?? 0);
  const planned = (card(last)?.planned_touch_min ?? 0) - (card(first)?.planned_touch_min ?? 0);
  return {
    minutes: done - planned,
    grams: mixed.reduce((sum, pot) => sum + overG(card(pot), pot), 0),
    pots: mixed.filter((pot) => pot.state === "dumped").length,
  };
}

function overG(card: CardPot | undefined, pot: PotNow): number {
  if (!card || card.pours.some((pour) => pour.tool !== "scale")) return 0;
  const amounts = [pot.first, pot.second].slice(0, card.pours.length);
  if (amounts.some((amount) => amount === null)) return 0;
  return card.pours.reduce((sum, pour, at) => sum + ((amounts[at] ?? 0) - pour.amount) * pour.unit_is, 0);
}

/** What brings the plan's minutes to the run's: its first pot as it was mixed, or now. */
export function shiftOf(state: BenchState, now_min: number): number {
  const first = state.pots.find((pot) => pot.touched_min !== null);
  const card = state.card.pots.find((pot) => pot.number === (first?.number ?? state.card.pots[0]?.number));
  return (first?.touched_min ?? now_min) - (card?.planned_touch_min ?? 0);
}
