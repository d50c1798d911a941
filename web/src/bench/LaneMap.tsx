import { useShop } from "../shop";
import type { LayerNow } from "./fold";
import type { LaneNow, lanesOf } from "./Pots";
import { countdown } from "./time";
import { useBench } from "./useBench";
import { layerStates } from "./words";

const fills: Record<LayerNow["state"], string> = {
  "to do": "var(--color-rule-faint)",
  wet: "var(--color-fresh)",
  tacky: "var(--color-cool)",
  closed: "var(--color-ink-soft)",
  mended: "var(--color-cool-pale)",
  hard: "var(--color-glass)",
};
/** Of the longest thing on the map, px. */
const LONGEST = 300;
const LEAST = 64;

/** The work lying flat, all to one scale, in the colour of what lies on top; what closes first stands first. */
export function LaneMap({ lanes, open, onOpen }: { lanes: LaneNow[]; open: string; onOpen: (lane: string) => void }) {
  const { state, now_min } = useBench();
  const { units } = useShop();
  const drawn = lanes.map((lane) => {
    const card = state.card.lanes?.find((each) => each.id === lane.id);
    const points = (card?.pieces ?? []).flat();
    const [wide, tall] = [0, 1].map((axis) => Math.max(0, ...points.map((point) => point[axis] ?? 0)));
    return { lane, card, wide: wide || card?.run_m || 0, tall: tall ?? 0 };
  });
  const longest = Math.max(...drawn.map(({ wide, tall }) => Math.max(wide, tall)), 0.01);
  const scale = LONGEST / longest;
  return (
    <ul aria-label="Map" className="mb-6 flex flex-wrap items-end gap-x-6 gap-y-4">
      {drawn.map(({ lane, card, wide, tall }) => {
        const top = topOf(state.card.layers, state.layers, lane.id);
        const [w, h] = [wide * scale, Math.max(tall * scale, 14)];
        const fill = fills[top?.state ?? "to do"];
        const until = top?.state === "tacky" ? top.closes_min : top?.state === "wet" ? top.opens_min : null;
        return (
          <li key={lane.id}>
            <button
              type="button"
              aria-pressed={open === lane.id}
              onClick={() => onOpen(lane.id)}
              className="block min-h-16 min-w-16 rounded-(--radius) border-2 border-transparent p-1 text-left aria-pressed:border-ink"
            >
              <svg
                width={Math.max(w + 4, LEAST)}
                height={h + 4}
                viewBox={`-2 -2 ${Math.max(w + 4, LEAST)} ${h + 4}`}
                role="img"
                aria-label={`${lane.name}, ${layerStates[top?.state ?? "to do"]}`}
              >
                {card?.pieces?.length ? (
                  card.pieces.map((piece, n) => (
                    <path
                      // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of a part have no other name
                      key={n}
                      d={`M${piece.map(([x = 0, y = 0]) => `${x * scale} ${y * scale}`).join("L")}Z`}
                      fill={fill}
                      stroke="var(--color-ink)"
                      strokeWidth="2"
                    />
                  ))
                ) : (
                  <path d={`M0 0H${w}V${h}H0Z`} fill={fill} stroke="var(--color-ink)" strokeWidth="2" />
                )}
                {card?.bays?.map((bay) => {
                  const own = topOf(state.card.layers, state.layers, lane.id, bay.words);
                  const [x = 0, y = 0] = bay.middle ?? [];
                  return (
                    <g key={bay.number}>
                      {bay.seams?.map(([x1 = 0, y1 = 0, x2 = 0, y2 = 0]) => (
                        <path
                          key={`${x1} ${y1}`}
                          d={`M${x1 * scale} ${y1 * scale}L${x2 * scale} ${y2 * scale}`}
                          stroke="var(--color-ink)"
                          strokeDasharray="5 4"
                        />
                      ))}
                      <circle
                        cx={x * scale}
                        cy={y * scale}
                        r="14"
                        fill={fills[own?.state ?? "to do"]}
                        stroke="var(--color-ink)"
                      />
                      <text
                        x={x * scale}
                        y={y * scale + 6}
                        textAnchor="middle"
                        fontSize="17"
                        className="fig"
                        fill="var(--color-ink)"
                      >
                        {bay.number}
                      </text>
                    </g>
                  );
                })}
              </svg>
              <span className="mt-1 block max-w-[19rem] text-[1.125rem] leading-tight">{lane.name}</span>
              <span className="block text-[1rem] text-ink-soft">
                {card?.run_m ? `${units.text("length", card.run_m)}, ` : ""}
                {top ? layerStates[top.state] : "to do"}
                {until !== null && ` ${countdown(until - now_min)}`}
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** The layer that lies on top of a lane, or of one of its bays; none where nothing is laid. */
function topOf(
  layers: Parameters<typeof lanesOf>[0]["card"]["layers"],
  states: LayerNow[],
  lane: string,
  bay?: string,
): LayerNow | undefined {
  return states.findLast(
    (now, n) => now.laid_min !== null && layers[n]?.lane === lane && (bay === undefined || layers[n]?.bay === bay),
  );
}
