import type { CardLane } from "../api/client";

const LONGEST = 240;

/** A lane lying flat, its bays to be pressed: where on it is asked for. */
export function PlaceMap({
  lane,
  bay,
  onBay,
}: {
  lane: CardLane;
  /** The words of the bay that is asked for. */
  bay: string;
  onBay: (words: string) => void;
}) {
  const points = (lane.pieces ?? []).flat();
  const [wide, tall] = [0, 1].map((axis) => Math.max(0.01, ...points.map((point) => point[axis] ?? 0)));
  if (!points.length || !wide || !tall) return null;
  const scale = LONGEST / Math.max(wide, tall);
  const [w, h] = [wide * scale, tall * scale];
  const bays = lane.bays ?? [];
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with buttons in it is a group; an image may hold none
    <svg
      width={w + 8}
      height={h + 8}
      viewBox={`-4 -4 ${w + 8} ${h + 8}`}
      className="max-w-full"
      role="group"
      aria-label={`${lane.name} as it lies flat`}
    >
      {lane.pieces?.map((piece, n) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of a part have no other name
          key={n}
          d={`M${piece.map(([x = 0, y = 0]) => `${x * scale} ${y * scale}`).join("L")}Z`}
          fill="var(--color-wetted)"
          stroke="var(--color-ink)"
          strokeWidth="1.6"
        />
      ))}
      {bays.map((each) => (
        <g key={each.number}>
          {each.seams?.map(([x1 = 0, y1 = 0, x2 = 0, y2 = 0]) => (
            <path
              key={`${x1} ${y1}`}
              d={`M${x1 * scale} ${y1 * scale}L${x2 * scale} ${y2 * scale}`}
              stroke="var(--color-ink)"
              strokeDasharray="6 4"
            />
          ))}
        </g>
      ))}
      {bays.map((each) => {
        const [x = 0, y = 0] = each.middle ?? [];
        const on = each.words === bay;
        return (
          // biome-ignore lint/a11y/useSemanticElements: a button inside a drawing
          <g
            key={each.number}
            role="button"
            tabIndex={0}
            aria-pressed={on}
            aria-label={each.words}
            className="cursor-pointer"
            onClick={() => onBay(each.words)}
            onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && onBay(each.words)}
          >
            <circle
              cx={x * scale}
              cy={y * scale}
              r="22"
              fill={on ? "var(--color-ink)" : "var(--color-sheet)"}
              stroke="var(--color-ink)"
            />
            <text
              x={x * scale}
              y={y * scale + 7}
              textAnchor="middle"
              fontSize="20"
              className="fig"
              fill={on ? "var(--color-sheet)" : "var(--color-ink)"}
            >
              {each.number}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
