import type { CardLayer } from "../api/client";
import { BigButton } from "./BigButton";
import { stripsOf } from "./fold";
import { useBench } from "./useBench";

/** The next strip of a layer that is laid in several, and how many are; nothing once it is laid. */
export function NextStrip({ layer, next = false }: { layer: CardLayer; next?: boolean }) {
  const { state, tap } = useBench();
  const now = state.layers.find((each) => each.id === layer.id);
  const of = stripsOf(layer);
  if (!now || now.laid_min !== null || of === 1) return null;
  const number = Array.from({ length: of }, (_, at) => at + 1).find((each) => !now.strips.includes(each));
  return (
    <BigButton
      next={next}
      onClick={() => tap({ about: "layer", subject: layer.id, kind: "strip laid", data: { number } })}
    >
      Piece {number} of {of} is laid
    </BigButton>
  );
}
