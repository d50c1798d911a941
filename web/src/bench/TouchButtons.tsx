import type { CardLayer } from "../api/client";
import { BigButton } from "./BigButton";
import { useBench } from "./useBench";

const answers = {
  thumb: [
    ["wet", "It strings: still wet"],
    ["tacky", "A mark, nothing on the finger"],
    ["closed", "No mark: closed"],
  ],
  brush: [
    ["wet", "The brush drags: too early"],
    ["tacky", "A faint mark: now"],
    ["closed", "No mark: closed"],
  ],
  lift: [
    ["wet", "Warm, or a nail dents it"],
    ["tacky", "Cool, no dent: pour on"],
    ["closed", "Glassy hard: sand it first"],
  ],
} as const;

/** What a test showed: it sets the state of the layer, whatever the clock says. */
export function TouchButtons({ layer }: { layer: CardLayer }) {
  const { tap } = useBench();
  const test = layer.test ?? "thumb";
  return (
    <div className="mt-3 flex flex-wrap gap-3">
      {answers[test].map(([shows, words]) => (
        <BigButton
          key={shows}
          onClick={() => tap({ about: "layer", subject: layer.id, kind: "tested", data: { test, shows } })}
        >
          {words}
        </BigButton>
      ))}
    </div>
  );
}
