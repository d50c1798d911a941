/**
 * The state of a run: its card, what happened, and the time, folded, as the core folds it: so a bench goes on without a
 * network. A test holds both to the same answers.
 */
import type { BenchCard, CardFlow, CardLayer, CardMark, CardPot, Happened } from "../api/client";
import { between } from "../drawing/heat";

export type Vessel = "cup" | "tray" | "bag" | "work";
export type PotState = "planned" | "weighing" | "live" | "used up" | "gelled" | "dumped";
export type LayerState = "to do" | "wet" | "tacky" | "closed" | "mended" | "hard";

/** An event as the fold takes it: minutes count from the run's issue. */
export interface Tap {
  id: string;
  about: Happened["about"];
  subject: string;
  kind: Happened["kind"];
  at_min: number;
  by: string;
  data: Record<string, unknown>;
  takes_back: string;
  /** Where it is written down; none of a tap that still waits. */
  event_id?: number;
}

/** One pot as it stands. Amounts are as the tools read them, in the order the parts go in. */
export interface PotNow {
  number: number;
  state: PotState;
  vessel: Vessel;
  cup_g: number | null;
  first: number | null;
  second: number | null;
  target: number | null;
  off_pct: number | null;
  mend: "" | "first" | "second";
  mend_amount: number;
  lost: boolean;
  stirred: boolean;
  filled: boolean;
  half_used: boolean;
  hot: boolean;
  touched_min: number | null;
  ended_min: number | null;
  life_used: number;
  use_by_min: number | null;
  gels_min: number | null;
  left_over_g: number | null;
}

/** One layer as it stands; `by` says whether a test tells its state or the clock. */
export interface LayerNow {
  id: string;
  state: LayerState;
  by: "clock" | "test";
  laid_min: number | null;
  opens_min: number | null;
  closes_min: number | null;
  hard_min: number | null;
  tested: boolean;
  strips: number[];
  film_um: number | null;
  peel_ply: boolean;
}

/** An infusion as it stands: its valve, and what its front says of its bed. */
export interface FlowNow {
  id: string;
  valve: "shut" | "open" | "throttled";
  opened_min: number | null;
  open_for_min: number;
  reached: number[];
  paces: number[];
  pace: number | null;
  full_min: number | null;
  sets_min: number | null;
  next_mark: number | null;
  next_min: number | null;
  drawn_g: number | null;
  trap_g: number | null;
}

export interface BenchState {
  card: BenchCard;
  pots: PotNow[];
  layers: LayerNow[];
  flows: FlowNow[];
  out: string[];
  ticked: string[];
  answered: string[];
  people: string[];
  goggled: string[];
  room_c: number | null;
  opened: boolean;
  night: boolean;
  outcome: string | null;
}

const STAYS = 1.1;
const FASTEST = 0.25;

type Changes<T> = [number, T][];
type Subjects = Map<string, Tap[]>;

/** Events in the order they happened, whatever the order they came in; each once, none that was taken back. */
export function standing(taps: Iterable<Tap>): Tap[] {
  const known = new Map<string, Tap>();
  for (const tap of taps) known.set(tap.id, tap);
  const gone = new Set([...known.values()].map((tap) => tap.takes_back).filter(Boolean));
  return [...known.values()]
    .filter((tap) => !gone.has(tap.id) && !tap.takes_back)
    .sort((one, other) => one.at_min - other.at_min || (one.id < other.id ? -1 : 1));
}

export function fold(issued: BenchCard, taps: Iterable<Tap>, now_min: number): BenchState {
  const stands = standing(taps).filter((tap) => tap.at_min <= now_min);
  const ofRun = stands.filter((tap) => tap.about === "run");
  let card = issued;
  for (const tap of ofRun)
    if (tap.kind === "plan taken" && tap.data.card) card = taken(card, tap.data.card as BenchCard);
  const bySubject: Subjects = new Map();
  for (const tap of stands) {
    const key = `${tap.about} ${tap.subject}`;
    const mine = bySubject.get(key);
    if (mine) mine.push(tap);
    else bySubject.set(key, [tap]);
  }
  const rooms: Changes<number> = ofRun
    .filter((tap) => tap.kind === "room read")
    .map((tap) => [tap.at_min, tap.data.room_c as number]);
  const pots = card.pots.map((pot) =>
    potNow(pot, bySubject.get(`pot ${pot.number}`) ?? [], rooms, now_min, issued.too_hot_c),
  );
  const ended = ofRun.filter((tap) => tap.kind === "closed").map((tap) => tap.data.outcome as string);
  const nights = ofRun.filter((tap) => tap.kind === "night" || tap.kind === "gone on");
  return {
    card,
    pots,
    layers: layersNow(card, bySubject, pots, rooms, now_min),
    flows: (card.flows ?? []).map((flow) => flowNow(flow, bySubject.get(`flow ${flow.id}`) ?? [], now_min)),
    out: stands.filter((tap) => tap.kind === "taken out").map((tap) => tap.subject),
    ticked: stands.filter((tap) => tap.kind === "ticked").map((tap) => tap.subject),
    answered: once(ofRun.filter((tap) => tap.kind === "answered").map((tap) => tap.data.key as string)),
    people: peopleAt(ofRun),
    goggled: once(ofRun.filter((tap) => tap.kind === "goggles on").map((tap) => tap.by)),
    room_c: rooms.at(-1)?.[1] ?? null,
    opened: ofRun.some((tap) => tap.kind === "opened"),
    night: nights.at(-1)?.kind === "night",
    outcome: ended.at(-1) ?? null,
  };
}

const VALVES: Partial<Record<Tap["kind"], FlowNow["valve"]>> = {
  "valve opened": "open",
  "valve throttled": "throttled",
  "valve closed": "shut",
};

/** The infusion of a card, from what was said of it in the order it happened. Throttled, its valve counts as open. */
function flowNow(card: CardFlow, taps: Tap[], now_min: number): FlowNow {
  let valve: FlowNow["valve"] = "shut";
  let opened: number | null = null;
  let since: number | null = null;
  let spent = 0;
  const paces = new Map<number, number>();
  const grams: Partial<Record<Tap["kind"], number>> = {};
  for (const tap of taps) {
    const soFar: number = spent + (since === null ? 0 : tap.at_min - since);
    const turned = VALVES[tap.kind];
    if (turned) {
      valve = turned;
      spent = soFar;
      since = valve === "shut" ? null : tap.at_min;
      if (opened === null && valve !== "shut") opened = tap.at_min;
    } else if (tap.kind === "front there") {
      const mark = card.marks?.find((each) => each.number === tap.data.mark);
      const planned = between(card.minutes, card.levels_s, soFar);
      if (mark && planned > 0 && !paces.has(mark.number)) paces.set(mark.number, mark.s / planned);
    } else if (tap.kind === "drawn" || tap.kind === "in the trap") grams[tap.kind] = tap.data.grams as number;
  }
  const openFor = spent + (since === null ? 0 : now_min - since);
  const pace = [...paces.values()].at(-1) ?? null;
  const ahead = (card.marks ?? [])
    .filter((mark) => !paces.has(mark.number))
    .reduce<CardMark | null>((first, mark) => (first === null || mark.s < first.s ? mark : first), null);
  const comes = (s: number): number | null => {
    const planned = s / (pace || 1);
    if (valve === "shut" || planned > (card.levels_s.at(-1) ?? 0) * (1 + 1e-9)) return null;
    return now_min + Math.max(0, between(card.levels_s, card.minutes, planned) - openFor);
  };
  return {
    id: card.id,
    valve,
    opened_min: opened,
    open_for_min: openFor,
    reached: [...paces.keys()],
    paces: [...paces.values()],
    pace,
    full_min: comes(card.full_s),
    sets_min: opened === null ? null : opened + card.sets_min,
    next_mark: ahead?.number ?? null,
    next_min: ahead ? comes(ahead.s) : null,
    drawn_g: grams.drawn ?? null,
    trap_g: grams["in the trap"] ?? null,
  };
}

const once = (words: string[]) => [...new Set(words)];

/** The card once the rest was planned anew: what was poured stays as it was issued. */
function taken(card: BenchCard, rest: BenchCard): BenchCard {
  const first = rest.pots.length ? Math.min(...rest.pots.map((pot) => pot.number)) : Number.POSITIVE_INFINITY;
  const anew = new Set(rest.layers.map((layer) => layer.id));
  return {
    ...card,
    pots: [...card.pots.filter((pot) => pot.number < first), ...rest.pots],
    layers: [...card.layers.filter((layer) => !anew.has(layer.id) && layer.first_pot < first), ...rest.layers],
    stops: rest.stops ?? [],
  };
}

function peopleAt(taps: Tap[]): string[] {
  const here = new Set<string>();
  for (const tap of taps) {
    if (tap.kind === "came" || tap.kind === "opened") here.add(tap.by);
    else if (tap.kind === "left") here.delete(tap.by);
  }
  return [...here];
}

function potNow(card: CardPot, all: Tap[], rooms: Changes<number>, now_min: number, too_hot_c: number): PotNow {
  const taps = all.slice(all.findLastIndex((tap) => tap.kind === "started over") + 1);
  const at = (kind: Tap["kind"]) => taps.find((tap) => tap.kind === kind);
  const read = (kind: Tap["kind"]) => {
    const last = taps.findLast((tap) => tap.kind === kind);
    return last ? (last.data.amount as number) : null;
  };
  let [first, second] = card.b_first ? [read("B in"), read("A in")] : [read("A in"), read("B in")];
  const made = at("touched")?.data;
  if (made && made.a_g != null && made.b_g != null)
    [first, second] = asRead(card, made.a_g as number, made.b_g as number);
  const touched = touchedAt(card, at);
  const moves: Changes<Vessel> = taps
    .filter((tap) => tap.kind === "moved")
    .map((tap) => [tap.at_min, tap.data.to as Vessel]);
  const end = taps.find((tap) => tap.kind === "used up" || tap.kind === "gelled" || tap.kind === "dumped");
  const weighed = (kind: Tap["kind"]) =>
    (taps.findLast((tap) => tap.kind === kind)?.data.grams as number | undefined) ?? null;
  const told: PotNow = {
    number: card.number,
    state: taps.length ? "weighing" : "planned",
    vessel: moves.at(-1)?.[1] ?? "cup",
    cup_g: weighed("cup on"),
    first,
    second,
    ...onTheScale(card, first, second),
    // What is written down at once was mixed before.
    stirred: !!at("stirred") || !!at("poured over") || moves.length > 0 || made?.a_g != null,
    filled: !!at("filler in"),
    half_used: !!at("half used"),
    hot: taps.some(
      (tap) => tap.kind === "too hot" || (tap.kind === "surface" && (tap.data.temperature_c as number) >= too_hot_c),
    ),
    touched_min: touched,
    ended_min: null,
    life_used: 0,
    use_by_min: null,
    gels_min: null,
    left_over_g: weighed("left over"),
  };
  if (touched === null) return told;
  const until = end?.at_min ?? now_min;
  const life = lifeOf(card, massOf(card, first, second), rooms, moves);
  const used = life.used(touched, until);
  const lost = told.lost || (told.mend !== "" && used >= card.mended_until);
  return {
    ...told,
    state: (end?.kind as PotState | undefined) ?? "live",
    ended_min: end?.at_min ?? null,
    life_used: used,
    use_by_min: life.when(card.working_share, used, until),
    gels_min: life.when(1, used, until),
    lost,
    mend: lost ? "" : told.mend,
  };
}

/** Weights of A and B as the tools would have read them, in the order they go in. */
function asRead(card: CardPot, a_g: number, b_g: number): [number | null, number | null] {
  const scaled = card.pours.filter((pour) => pour.tool === "scale");
  const a = scaled.find((pour) => pour.part === "A" || pour.part === "resin");
  const b = scaled.find((pour) => pour.part !== "A" && pour.part !== "resin");
  const read: [number | null, number | null] = [a ? a_g / a.unit_is : null, b ? b_g / b.unit_is : null];
  return card.b_first ? [read[1], read[0]] : read;
}

function touchedAt(card: CardPot, at: (kind: Tap["kind"]) => Tap | undefined): number | null {
  const tapped = at("touched");
  if (tapped) return tapped.at_min;
  const a = at("A in");
  const b = card.pours.length > 1 ? at("B in") : a;
  return a && b ? Math.max(a.at_min, b.at_min) : null;
}

type OnScale = Pick<PotNow, "target" | "off_pct" | "mend" | "mend_amount" | "lost">;

/** What the second part poured must come to, and once it is in, how far it is off and what mends it. */
export function onTheScale(card: CardPot, first: number | null, second: number | null): OnScale {
  const nothing: OnScale = { target: null, off_pct: null, mend: "", mend_amount: 0, lost: false };
  if (card.second_per_first == null || first === null) return nothing;
  const target = card.b_first ? first / card.second_per_first : first * card.second_per_first;
  if (second === null) return { ...nothing, target };
  if (!first || !target) return { ...nothing, target, mend: "first", mend_amount: card.pours[0]?.amount ?? 0 };
  const off_pct = 100 * (second / target - 1);
  let [low, high] = [card.least_off_pct, card.most_off_pct];
  if (card.b_first) [low, high] = [100 / (1 + high / 100) - 100, 100 / (1 + low / 100) - 100];
  if (low <= off_pct && off_pct <= high) return { ...nothing, target, off_pct };
  const mend = off_pct < 0 ? "second" : "first";
  const mend_amount = off_pct < 0 ? target - second : (second * first) / target - first;
  const pour = card.pours[mend === "first" ? 0 : 1];
  const lost = pour?.tool === "scale" && massOf(card, first, second) + mend_amount * pour.unit_is > card.most_g;
  return { target, off_pct, mend: lost ? "" : mend, mend_amount: lost ? 0 : mend_amount, lost };
}

/** What is in the cup, g: as weighed, or as planned where a part is not weighed. */
function massOf(card: CardPot, first: number | null, second: number | null): number {
  const amounts = [first, second].filter((amount) => amount !== null);
  if (amounts.length < card.pours.length || card.pours.some((pour) => pour.tool !== "scale")) return card.mass_g;
  return card.pours.reduce((sum, pour, at) => sum + (amounts[at] ?? 0) * pour.unit_is, 0);
}

/** How a pot's life is spent, in the rooms it stood in; until it is said to be poured out, it ages as in its cup. */
function lifeOf(card: CardPot, mass_g: number, rooms: Changes<number>, moves: Changes<Vessel>) {
  const byMass = mass_g > 0 ? (mass_g / card.mass_g) ** card.by_mass : 1;
  const min = (at_min: number) =>
    byMass *
    lifeIn(card.lives, lastBefore(rooms, at_min, card.room_c), lastBefore<Vessel>(moves, at_min, "cup") === "cup");
  const out_min = moves.find(([, to]) => to !== "cup")?.[0];
  return {
    used: (from_min: number, to_min: number) => {
      const turns = [...rooms, ...moves].map(([at]) => at).filter((at) => from_min < at && at < to_min);
      const edges = [from_min, ...turns.sort((one, other) => one - other), to_min];
      return edges.slice(1).reduce((sum, end, at) => {
        const begin = edges[at] ?? end;
        return (begin === out_min ? poured(card.poured_left ?? [], sum) : sum) + (end - begin) / min(begin);
      }, 0);
    },
    when: (share: number, used: number, at_min: number) => at_min + (share - used) * min(at_min),
  };
}

/** The share of its life out of its cup that a pot has spent, which had spent such a share of its life in it. */
function poured(left: readonly number[], used: number): number {
  if (!left.length || used < 0 || used >= 1) return used;
  const at = used * (left.length - 1);
  const low = Math.floor(at);
  const [one, other] = [left[low] ?? 0, left[low + 1] ?? 0];
  return 1 - (one + (at - low) * (other - one));
}

function lastBefore<T>(changes: Changes<T>, at_min: number, otherwise: T): T {
  return changes.findLast(([at]) => at <= at_min)?.[1] ?? otherwise;
}

/** The life of a pot in a room, min, between those the card knows; past them the nearest stands. */
export function lifeIn(lives: CardPot["lives"], room_c: number, cup: boolean): number {
  const of = (row: CardPot["lives"][number] | undefined) => (cup ? row?.cup_min : row?.vessel_min) ?? 0;
  const above = lives.findIndex((row) => row.room_c > room_c);
  if (above === 0) return of(lives[0]);
  if (above < 0) return of(lives.at(-1));
  const [low, high] = [lives[above - 1], lives[above]];
  const share = (room_c - (low?.room_c ?? 0)) / ((high?.room_c ?? 1) - (low?.room_c ?? 0));
  return Math.exp((1 - share) * Math.log(of(low)) + share * Math.log(of(high)));
}

interface Shown {
  at_min: number;
  id: string;
  layer: CardLayer;
  least: number;
  most: number;
}

function layersNow(
  card: BenchCard,
  bySubject: Subjects,
  pots: PotNow[],
  rooms: Changes<number>,
  now_min: number,
): LayerNow[] {
  const tapsOf = (layer: CardLayer) => bySubject.get(`layer ${layer.id}`) ?? [];
  const laid = new Map(card.layers.map((layer) => [layer.id, laidAt(layer, tapsOf(layer), pots)]));
  const warmth = new Map(card.layers.map((layer) => [layer.id, warmthOf(layer, card, rooms)]));
  const shown: Shown[] = [];
  for (const layer of card.layers) {
    const at_min = laid.get(layer.id) ?? null;
    for (const tap of tapsOf(layer))
      if (tap.kind === "tested" && at_min !== null && tap.at_min > at_min) {
        const age = (tap.at_min - at_min) / (warmth.get(layer.id) ?? 1);
        shown.push({ at_min: tap.at_min, id: tap.id, layer, ...toldBy(layer, tap.data.shows as string, age) });
      }
  }
  shown.sort((one, other) => one.at_min - other.at_min || (one.id < other.id ? -1 : 1));
  return card.layers.map((layer) =>
    layerNow(layer, laid.get(layer.id) ?? null, warmth.get(layer.id) ?? 1, tapsOf(layer), shown, now_min),
  );
}

/** Between which factors the clock of a layer must go, for a test to show what it showed. */
function toldBy(layer: CardLayer, shows: string, age_min: number): { least: number; most: number } {
  const opens = Math.max(layer.opens_after_min, 1e-9);
  const closes = Math.max(layer.closes_after_min, 1e-9);
  // What is found wet or tacky later than told stays so for a while.
  if (shows === "wet") return { least: (STAYS * age_min) / opens, most: Number.POSITIVE_INFINITY };
  if (shows === "tacky") {
    const most = Math.max(age_min / opens, FASTEST);
    return { least: Math.min((STAYS * age_min) / closes, most), most };
  }
  return { least: 0, most: age_min / closes };
}

function layerNow(
  layer: CardLayer,
  laid_min: number | null,
  warmth: number,
  taps: Tap[],
  shown: Shown[],
  now_min: number,
): LayerNow {
  const peels = taps.filter((tap) => tap.kind === "peel ply on" || tap.kind === "peel ply off");
  const films = taps.filter((tap) => tap.kind === "film read").map((tap) => tap.data.wet_um as number);
  const film_um = films.length ? films.reduce((sum, film) => sum + film, 0) / films.length : null;
  const strips = [...stripsLaid(layer, taps).keys()].sort((one, other) => one - other);
  const peel_ply = laid_min !== null && peels.at(-1)?.kind === "peel ply on";
  if (laid_min === null)
    return {
      id: layer.id,
      state: "to do",
      by: "clock",
      laid_min,
      opens_min: null,
      closes_min: null,
      hard_min: null,
      tested: false,
      strips,
      film_um,
      peel_ply,
    };
  const own = shown.filter((test) => test.layer.id === layer.id);
  const others = shown.filter((test) => test.layer.use_id === layer.use_id && test.layer.id !== layer.id);
  // What it showed itself stands over what others of its resin showed.
  const pace = warmth * [...others, ...own].reduce((f, test) => Math.min(Math.max(f, test.least), test.most), 1);
  let opens = laid_min + pace * layer.opens_after_min;
  const closes = laid_min + pace * layer.closes_after_min;
  const hard = laid_min + pace * layer.hard_after_min;
  const last = own.at(-1);
  const wet = last !== undefined && last.most === Number.POSITIVE_INFINITY;
  // It was tacky when it was touched, whatever its clock says.
  if (last && !wet && last.least > 0) opens = Math.min(opens, last.at_min);
  const mended = taps.findLast((tap) => tap.kind === "mended");
  let state: LayerState = now_min >= hard ? "hard" : "closed";
  if (mended && mended.at_min >= opens) state = "mended";
  else if (now_min < opens) state = "wet";
  else if (now_min < closes) state = "tacky";
  return {
    id: layer.id,
    state,
    by: own.length || others.length ? "test" : "clock",
    laid_min,
    opens_min: opens,
    closes_min: closes,
    hard_min: hard,
    tested: own.length > 0 && !wet,
    strips,
    film_um,
    peel_ply,
  };
}

/** How many strips it is laid in; cards written before did not say. */
export const stripsOf = (layer: CardLayer) => layer.strips ?? 1;

/** When each of its strips was laid: two who tap the same one have laid it once. */
function stripsLaid(layer: CardLayer, taps: Tap[]): Map<number, number> {
  const laid = new Map<number, number>();
  for (const { kind, data, at_min } of taps) {
    if (kind !== "strip laid") continue;
    const number = data.number as number;
    if (number <= stripsOf(layer) && !laid.has(number)) laid.set(number, at_min);
  }
  return laid;
}

/** When it was laid: as tapped, or when its last strip was, or the last of its pots was used up. */
function laidAt(layer: CardLayer, taps: Tap[], pots: PotNow[]): number | null {
  const tapped = taps.filter((tap) => tap.kind === "laid").map((tap) => tap.at_min);
  const strips = stripsLaid(layer, taps);
  if (stripsOf(layer) > 1 && strips.size === stripsOf(layer)) tapped.push(Math.max(...strips.values()));
  if (tapped.length) return Math.min(...tapped);
  const mine = pots.filter((pot) => layer.first_pot <= pot.number && pot.number <= layer.last_pot);
  if (!mine.length || mine.some((pot) => pot.state !== "used up")) return null;
  return Math.max(...mine.map((pot) => pot.ended_min ?? Number.NEGATIVE_INFINITY));
}

/** How much longer its clock takes in the room as it was last read than in the room it was planned for. */
function warmthOf(layer: CardLayer, card: BenchCard, rooms: Changes<number>): number {
  const pot = card.pots.find((each) => each.number === layer.last_pot);
  const room_c = rooms.at(-1)?.[1];
  if (room_c === undefined || !pot) return 1;
  return lifeIn(pot.lives, room_c, true) / lifeIn(pot.lives, layer.room_c, true);
}
