import type { BuiltOut, BuiltPlace } from "../api/client";
import { useWidth } from "./useWidth";

const TALL = 46;
const LEFT = 8;

/** The layers of a joint, a coat or a pour on one another, the lowest below: what is laid in resin, what is not as an outline. */
export function LayersLaid({ layers, said }: { layers: BuiltPlace["layers"]; said: BuiltOut["layers_said"][number] }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const wide = Math.min(width - 2 * LEFT, 620);
  const height = layers.length * TALL + 34;
  const laid = layers.filter(({ state }) => state === "laid").length;
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${height}`}
      className="mt-3 w-full"
      role="img"
      aria-label={`${laid} of ${layers.length} laid`}
    >
      {layers.map((layer, at) => {
        const y = height - 30 - (at + 1) * TALL;
        const done = layer.state === "laid";
        return (
          <g key={layer.id}>
            <rect
              x={LEFT}
              y={y + 2}
              width={wide}
              height={TALL - 4}
              fill={done ? "var(--color-wetted)" : "none"}
              stroke="var(--color-ink)"
              strokeDasharray={done ? undefined : "6 4"}
            />
            <text
              x={LEFT + 14}
              y={y + 20}
              fontSize="15.5"
              fontWeight="600"
              fill={done ? "var(--color-on-resin)" : "var(--color-ink)"}
            >
              {layer.words}
            </text>
            <text
              x={LEFT + 14}
              y={y + 37}
              fontSize="13.5"
              fill={done ? "var(--color-on-resin)" : "var(--color-ink-soft)"}
            >
              {said[at]?.laid}
            </text>
          </g>
        );
      })}
      <path d={`M${LEFT - 6} ${height - 27}h${wide + 12}`} stroke="var(--color-ink)" strokeWidth="3" />
      <text x={LEFT} y={height - 8} fontSize="13.5" fill="var(--color-ink-soft)">
        the ground
      </text>
    </svg>
  );
}
