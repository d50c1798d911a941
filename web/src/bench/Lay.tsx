import { useState } from "react";
import type { CardLayer } from "../api/client";
import { useShop } from "../shop";
import { BigButton } from "./BigButton";
import { FlowNowView } from "./FlowNowView";
import { type LayerNow, stripsOf } from "./fold";
import { Gauge } from "./Gauge";
import { LaneMap } from "./LaneMap";
import { lanesOf } from "./Pots";
import { NextStrip } from "./Strips";
import { TouchButtons } from "./TouchButtons";
import { countdown } from "./time";
import { useBench } from "./useBench";
import { flowOf, layerStates } from "./words";

const tones: Record<LayerNow["state"], string> = {
  "to do": "border-rule text-ink-soft",
  wet: "border-mid bg-resin-pale text-resin-ink",
  tacky: "border-cool bg-cool-pale text-ink",
  closed: "border-ink bg-rule-faint text-ink",
  mended: "border-cool bg-cool-pale text-ink",
  hard: "border-rule bg-rule-faint text-ink-soft",
};

/** Every lane, n of N, layer by layer; what closes first stands first. */
export function Lay() {
  const { state, now_min } = useBench();
  const [open, setOpen] = useState("");
  const [lane, setLane] = useState("");
  const closes = (lane: string) =>
    Math.min(
      ...state.layers
        .filter((now, at) => state.card.layers[at]?.lane === lane && now.state === "tacky")
        .map((now) => now.closes_min ?? Number.POSITIVE_INFINITY),
    );
  // What the rest will hide comes before the rest.
  const hides = (lane: string) =>
    Number(!state.card.faces?.some((face) => face.lane === lane && !state.ticked.includes(face.id)));
  const lanes = lanesOf(state).sort(
    (one, other) => hides(one.id) - hides(other.id) || closes(one.id) - closes(other.id) || 0,
  );
  return (
    <>
      <h2 className="sr-only">Layers</h2>
      {(state.card.flows ?? []).map((flow) => (
        <div key={flow.id} className="mb-6 border-b border-rule pb-4">
          <h3 className="text-[1.5rem] font-semibold">{flow.lane_name}, infused</h3>
          <FlowNowView lane={flow.lane} />
        </div>
      ))}
      <LaneMap
        lanes={lanes.filter((each) => !flowOf(state, each.id))}
        open={lane}
        onOpen={(id) => {
          setLane(lane === id ? "" : id);
          document.getElementById(`lane-${id}`)?.scrollIntoView({ block: "center" });
        }}
      />
      <ul className="space-y-6">
        {lanes.map((lane) => (
          <li key={lane.id} id={`lane-${lane.id}`}>
            <p className="flex items-baseline gap-4">
              <span className="fig text-[3rem] leading-none">{lane.done}</span>
              <span className="text-[1.375rem] text-ink-soft">of {lane.of}</span>
              <span className="min-w-0 flex-1 text-[1.5rem] font-semibold">
                {lane.name}
                {state.card.faces?.some((face) => face.lane === lane.id) && (
                  <span className="block text-[1.125rem] font-normal text-ink-soft">
                    {state.ticked.includes(lane.id) ? "looked at before it closed" : "it will be hidden"}
                  </span>
                )}
              </span>
            </p>
            <ul className="mt-2 flex flex-wrap gap-2">
              {lane.layers.map((id) => {
                const layer = state.card.layers.find((each) => each.id === id) as CardLayer;
                const now = state.layers.find((each) => each.id === id) as LayerNow;
                return (
                  <li key={id} className="min-w-[8.5rem] flex-1">
                    <button
                      type="button"
                      aria-expanded={open === id}
                      onClick={() => setOpen(open === id ? "" : id)}
                      className={`min-h-20 w-full rounded-(--radius) border-2 px-3 py-2 text-left leading-tight ${tones[now.state]}`}
                    >
                      <span className="block text-[1.25rem] font-semibold">
                        {layer.words}
                        {layer.bay ? `, ${layer.bay}` : ""}
                      </span>
                      <span className="block text-[1.125rem]">
                        {layerStates[now.state]}
                        {now.laid_min === null && stripsOf(layer) > 1 && `, ${now.strips.length} of ${stripsOf(layer)}`}
                        {now.state === "wet" && now.opens_min !== null && ` ${countdown(now.opens_min - now_min)}`}
                        {now.state === "tacky" && now.closes_min !== null && ` ${countdown(now.closes_min - now_min)}`}
                      </span>
                    </button>
                  </li>
                );
              })}
            </ul>
            {lane.layers.includes(open) && <Open id={open} />}
          </li>
        ))}
      </ul>
    </>
  );
}

/** What is it now, by what, until when; and what can be said of it. */
function Open({ id }: { id: string }) {
  const { state, tap, at } = useBench();
  const { clock } = useShop();
  const layer = state.card.layers.find((each) => each.id === id);
  const now = state.layers.find((each) => each.id === id);
  if (!layer || !now) return null;
  const say = (kind: "laid" | "wetted through" | "peel ply on" | "peel ply off") =>
    tap({ about: "layer", subject: id, kind });
  const moment = (minute: number | null) => (minute === null ? "–" : clock(at(minute)));
  return (
    <div className="mt-3 border-l-4 border-ink pl-4">
      <p className="text-[1.5rem] leading-snug">
        What is it now? <b className="first-letter:uppercase">{layerStates[now.state]}</b>
        {now.laid_min !== null && (now.by === "test" ? ", as touch told" : ", by the clock")}.
      </p>
      <Gauge layer={layer} />
      {now.laid_min === null ? (
        <>
          <p className="mt-1 text-[1.25rem] text-ink-soft">
            Pots {layer.first_pot} to {layer.last_pot} are for it.
          </p>
          <div className="mt-3 flex flex-wrap gap-3">
            <NextStrip layer={layer} />
            <BigButton main onClick={() => say("laid")}>
              {stripsOf(layer) > 1 ? "All of it is laid" : "It is laid"}
            </BigButton>
          </div>
        </>
      ) : (
        <>
          <p className="mt-1 text-[1.25rem] text-ink-soft">
            Laid {moment(now.laid_min)}; the next bonds from {moment(now.opens_min)} to {moment(now.closes_min)}; hard
            from {moment(now.hard_min)}.
          </p>
          <TouchButtons layer={layer} />
          <div className="mt-3 flex flex-wrap gap-3">
            {(now.state === "closed" || now.state === "hard") && (
              <BigButton
                onClick={() =>
                  tap({ about: "layer", subject: id, kind: "mended", data: { words: "washed and sanded" } })
                }
              >
                Washed and sanded
              </BigButton>
            )}
            <BigButton onClick={() => say(now.peel_ply ? "peel ply off" : "peel ply on")}>
              {now.peel_ply ? "Peel ply is off" : "Peel ply is on"}
            </BigButton>
          </div>
        </>
      )}
    </div>
  );
}
