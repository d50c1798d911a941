/** The words of the bench: what is to do, why, and what was said. */
import type { CardFlow, CardLayer, CardPot, Happened } from "../api/client";
import type { Units } from "../units";
import type { BenchState, LayerState } from "./fold";
import type { Due, ToDo } from "./toDo";

export const potOf = (state: BenchState, subject: string): CardPot | undefined =>
  state.card.pots.find((pot) => String(pot.number) === subject);

export const layerOf = (state: BenchState, subject: string): CardLayer | undefined =>
  state.card.layers.find((layer) => layer.id === subject);

/** The infusion of a lane, where it is one. */
export const flowOf = (state: BenchState, lane: string | undefined): CardFlow | undefined =>
  state.card.flows?.find((flow) => flow.lane === lane);

/** Where a layer lies, in words. */
export const whereOf = (layer: CardLayer) => [layer.lane_name, layer.bay].filter(Boolean).join(", ");

export const potWhere = (pot: CardPot) => [pot.owner_name, pot.bay].filter(Boolean).join(", ");

/** What is to do, in a line. */
export function sayToDo(state: BenchState, todo: ToDo): string {
  const layer = layerOf(state, todo.subject);
  const of = layer ? `${whereOf(layer)}: ${layer.words}` : "";
  const fixing = state.card.fixings?.find((each) => each.id === todo.subject);
  const face = state.card.faces?.find((each) => each.id === todo.subject);
  switch (todo.code) {
    case "get away":
      return `Pot ${todo.subject} is too hot: get away from it`;
    case "dump":
      return `Do not use pot ${todo.subject}`;
    case "top up":
      return `Mend pot ${todo.subject}`;
    case "what became of it":
      return `What became of pot ${todo.subject}?`;
    case "use up":
      return `Use up pot ${todo.subject}`;
    case "cover":
      return `Cover ${of}`;
    case "weigh first":
    case "weigh second":
      return `Weigh pot ${todo.subject}`;
    case "stir":
      return `Stir pot ${todo.subject}`;
    case "fill":
      return `Stir the filler into pot ${todo.subject}`;
    case "pour out":
      return `Pour pot ${todo.subject} out of its cup`;
    case "test":
      return `Touch ${of}`;
    case "key":
      return `Wash and sand ${of}`;
    case "lay":
      return flowOf(state, layer?.lane) ? `Into the bucket: ${of}` : `Lay ${of}`;
    case "mix":
      return `Mix pot ${todo.subject}`;
    case "plan anew":
      return "Plan the rest again";
    case "wait for tack":
      return `Wait for ${of}`;
    case "tick":
      return `Look at it before it closes: ${face?.lane_name ?? ""}`;
    case "take out":
      return `Take out: ${fixing?.words ?? ""}, ${fixing?.lane_name ?? ""}`;
    case "open the valve":
      return `Open the valve: ${flowOf(state, todo.subject)?.lane_name ?? ""}`;
    case "watch the front":
      return `Watch the front: ${flowOf(state, todo.subject)?.lane_name ?? ""}`;
    case "close the valve":
      return `Close the valve: ${flowOf(state, todo.subject)?.lane_name ?? ""}`;
    case "night":
      return "Left for the night";
    case "begin":
      return "Start the bench";
    case "close":
      return "All is laid: close the run";
    case "closed":
      return "This run is closed";
  }
}

const whys: Record<ToDo["why"], string> = {
  "too hot": "it is too hot to come near, or it smokes",
  "off its ratio": "it is off its ratio, and can still be mended",
  "off its ratio, and too late or too large to mend": "it is off its ratio, and it is too late or too large to mend",
  "past its gel": "it is past the time at which it gels",
  "nearly at the end of its working time": "its working time is nearly over",
  "its window closes": "after that nothing bonds to it until it is washed and sanded",
  "in the cup": "it is on the scale",
  "both parts are in": "both parts are in: it ages now",
  mixed: "it is mixed",
  "touch decides": "by the clock it is tacky now: touch decides",
  "its window has closed": "its window has closed: nothing bonds to it as it is",
  "its pot is live": "its pot is mixed and ages",
  "half of the last is on the work": "half of the last pot is on the work",
  "nothing is live": "no pot is open",
  "the layer under it is still wet": "it is still wet, and what comes next needs it tacky",
  "nobody reaches it again": "the next work hides it, and nobody reaches it again",
  "it is hard enough": "it is hard enough to hold by itself",
  "its first resin is in the bucket": "its first resin is in the bucket: every hose end under it, and no air in it",
  "the front tells how open the bed is": "where the front is tells how open the bed is, and when it will be full",
  "it is full": "by its front it is full: clamp the feed, and leave the vacuum on",
  "a pot was lost": "a pot was lost, and its work is not laid",
  "left for the night": "the bench sleeps until you go on",
  "nobody has begun": "then it may sound, and the screen stays on",
  "all is laid": "no pot and no layer is left to do",
  "": "",
};

export const sayWhy = (todo: ToDo): string => whys[todo.why];

export const layerStates: Record<LayerState, string> = {
  "to do": "to do",
  wet: "wet",
  tacky: "open for the next",
  closed: "closed",
  mended: "sanded",
  hard: "hard",
};

/** What was tapped, as the log tells it. */
export function sayEvent(
  event: Pick<Happened, "about" | "subject" | "kind" | "data">,
  units: Units,
  state?: BenchState,
): string {
  const layer = state && layerOf(state, event.subject);
  const words = event.data?.words as string | undefined;
  const thing =
    event.about === "pot"
      ? `pot ${event.subject}: `
      : event.about === "layer"
        ? `${layer ? `${whereOf(layer)}, ${layer.words}` : "a layer"}: `
        : event.about === "face"
          ? `${state?.card.faces?.find((each) => each.id === event.subject)?.lane_name ?? "a hidden face"}: `
          : event.about === "fixing"
            ? `${state?.card.fixings?.find((each) => each.id === event.subject)?.words ?? "a fixing"}: `
            : event.about === "flow"
              ? `${(state && flowOf(state, event.subject)?.lane_name) ?? "an infusion"}: `
              : "";
  const said = words ? `${event.kind === "note" ? "" : `${event.kind}, `}“${words}”` : kindWords(event, units);
  return `${thing}${said}`;
}

function kindWords(event: Pick<Happened, "kind" | "data">, units: Units): string {
  const number = (name: string) => Number(event.data?.[name]);
  switch (event.kind) {
    case "room read":
      return `room read at ${units.text("temperature", number("room_c"))}`;
    case "surface":
      return `surface read at ${units.text("temperature", number("temperature_c"))}`;
    case "film read":
      return `wet film read at ${units.text("film", number("wet_um"))}`;
    case "front there":
      return `front at mark ${number("mark")}`;
    case "drawn":
      return `${units.text("mass", number("grams"))} drawn so far`;
    case "in the trap":
      return `${units.text("mass", number("grams"))} in the trap`;
    case "strip laid":
      return `piece ${number("number")} laid`;
    case "left over":
      return `${units.text("mass", number("grams"))} left over`;
    case "filler in":
      return `${units.text("volume", number("loose_ml"))} of filler in`;
    case "touched":
      return "parts touched";
    case "ticked":
      return "looked at before it closed";
    case "tested":
      return `found ${event.data?.shows as string}`;
    case "moved":
      return event.data?.to === "bag" ? "into the bag" : "poured out of its cup";
    case "closed":
      return `closed, ${event.data?.outcome as string}`;
    default:
      return event.kind;
  }
}

/** What an alarm is about. */
export function sayWhat(state: BenchState, due: Due): string {
  const layer = layerOf(state, due.subject);
  const of = layer ? `${whereOf(layer)}, ${layer.words}` : "";
  const fixing = state.card.fixings?.find((each) => each.id === due.subject);
  const [what = "", , end] = due.key.split(" ");
  switch (what) {
    case "pot":
      if (end === "out") return `Pot ${due.subject}: out of its cup now, or outdoors`;
      if (end === "prepare") return `Pot ${due.subject} warms by itself: use it up`;
      if (end === "half") return `Pot ${due.subject}: half of its working time`;
      if (end === "end") return `Pot ${due.subject}: the end of its working time`;
      if (end === "gel") return `Pot ${due.subject} gels, by its clock`;
      return `Pot ${due.subject} is too hot`;
    case "mark":
      return `${flowOf(state, due.subject)?.lane_name ?? ""}: the front at mark ${end === undefined ? "" : due.key.split(" ")[1]}, by the plan`;
    case "full":
      return `${flowOf(state, due.subject)?.lane_name ?? ""} is full, by its front`;
    case "test":
      return `Touch ${of}`;
    case "closing":
      return `${of}: 20 min until its window closes`;
    case "closes":
      return `${of}: its window closes`;
    default:
      return `${fixing?.lane_name ?? ""}: ${fixing?.words ?? "fixings"}, may come out`;
  }
}
