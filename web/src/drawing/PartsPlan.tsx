import { Popover } from "radix-ui";
import type { ReactNode } from "react";
import type { PartResult, SheetBay, SheetLane } from "../api/client";
import { useShop } from "../shop";
import { BaysOnPart } from "./BaysOnPart";
import { useWidth } from "./useWidth";

const GAP = 62;
const HEIGHT = 470;
const MOST_COPIES = 6;
const fills: Record<string, string> = {
  "bare plywood": "url(#plan-grain)",
  timber: "url(#plan-grain)",
  "sanded laminate": "var(--color-laminate)",
  "cured polyester": "var(--color-laminate)",
  "cured epoxy": "var(--color-laminate)",
  "foam core": "var(--color-core)",
  "polystyrene foam": "var(--color-core)",
};

interface Copy {
  part: PartResult;
  number: number;
  mirrored: boolean;
  paired: boolean;
  wide: number;
  tall: number;
}

function copiesOf(parts: PartResult[], pairs: Set<string>): Copy[] {
  return parts.flatMap((part) => {
    const points = (part.pieces ?? []).flat();
    const wide = Math.max(0, ...points.map(([x]) => x ?? 0));
    const tall = Math.max(0, ...points.map(([, y]) => y ?? 0));
    if (!wide || !tall) return [];
    return Array.from({ length: Math.min(part.count, MOST_COPIES) }, (_, number) => ({
      part,
      number,
      mirrored: pairs.has(part.id) && number % 2 === 1,
      paired: pairs.has(part.id) && part.count === 2,
      wide,
      tall,
    }));
  });
}

/** Rows of pieces, each row filled to the width, at a scale. */
function rowsAt(copies: Copy[], scale: number, width: number): { x: number; y: number; copy: Copy }[] | null {
  const placed: { x: number; y: number; copy: Copy }[] = [];
  let [x, y, tall] = [1, 24, 0];
  for (const copy of copies) {
    const wide = Math.max(copy.wide * scale, 60);
    if (x > 1 && x + wide > width - 50) [x, y, tall] = [1, y + tall + GAP, 0];
    if (wide > width - 50) return null;
    placed.push({ x, y, copy });
    x += wide + GAP + 8;
    tall = Math.max(tall, copy.tall * scale);
  }
  return y + tall > HEIGHT ? null : placed;
}

/** Every part as it lies flat, to one scale, its dimensions on it. A press on a dimension opens it to be typed. */
export function PartsPlan({
  parts,
  pairs,
  fieldOf,
  lanes = [],
  onSeams,
}: {
  parts: PartResult[];
  pairs: Set<string>;
  fieldOf: (partId: string, field: string) => ReactNode;
  /** The lanes of the run sheet, with the bays each is laid in. */
  lanes?: SheetLane[];
  onSeams?: (partId: string, seamsM: number[]) => void;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const copies = copiesOf(parts, pairs);
  const longest = Math.max(0.01, ...copies.map(({ wide }) => wide));
  let scale = (width - 60) / longest;
  let placed = rowsAt(copies, scale, width);
  while (!placed && scale > 0.5) {
    scale *= 0.93;
    placed = rowsAt(copies, scale, width);
  }
  if (!placed?.length) return null;
  const bottom = Math.max(...placed.map(({ y, copy }) => y + copy.tall * scale)) + 40;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with buttons in it is a group; an image may hold none
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${bottom}`}
      className="w-full"
      role="group"
      aria-label={`${copies.length} pieces to one scale`}
    >
      <defs>
        <pattern id="plan-grain" width="120" height="16" patternUnits="userSpaceOnUse">
          <rect width="120" height="16" fill="var(--color-wood)" />
          <path d="M0 4c30-2 60 2 120 0M0 11c40 2 80-2 120 0" fill="none" stroke="var(--color-grain)" />
        </pattern>
      </defs>
      {placed.map(({ x, y, copy }) => (
        <Piece
          key={`${copy.part.id} ${copy.number}`}
          copy={copy}
          x={x}
          y={y}
          scale={scale}
          fieldOf={(field) => fieldOf(copy.part.id, field)}
          bays={lanes.find((lane) => lane.owner_id === copy.part.id)?.bays ?? []}
          onSeams={onSeams && ((seams) => onSeams(copy.part.id, seams))}
        />
      ))}
    </svg>
  );
}

function Piece({
  copy,
  x,
  y,
  scale,
  fieldOf,
  bays,
  onSeams,
}: {
  copy: Copy;
  x: number;
  y: number;
  scale: number;
  fieldOf: (field: string) => ReactNode;
  bays: SheetBay[];
  onSeams?: (seamsM: number[]) => void;
}) {
  const { units } = useShop();
  const { part, number, mirrored, paired, wide, tall } = copy;
  const holed = (part.pieces ?? []).length > 1 && part.area_rule.startsWith("the hole");
  const [w, h] = [wide * scale, tall * scale];
  const path = (part.pieces ?? [])
    .map(
      (piece) =>
        `M${piece.map(([px = 0, py = 0]) => `${(px * scale).toFixed(1)} ${(py * scale).toFixed(1)}`).join("L")}Z`,
    )
    .join("");
  const side = paired ? (mirrored ? ", starboard" : ", port") : part.count > 1 ? ` ${number + 1}/${part.count}` : "";
  return (
    <g transform={`translate(${x} ${y})`}>
      <text y="-7" fontSize="14" fontWeight="600" fill="var(--color-ink)">
        {part.name}
        {side}
        {bays.length > 0 && (
          <tspan fontWeight="400" fill="var(--color-ink-soft)">
            {` ${units.text("area", part.area_m2)}, ${bays.length} bays`}
          </tspan>
        )}
      </text>
      <path
        d={path}
        fillRule="evenodd"
        transform={mirrored ? `translate(${w} 0) scale(-1 1)` : undefined}
        fill={fills[part.substrate] ?? "var(--color-mould)"}
        stroke="var(--color-ink)"
      />
      {bays.length > 0 && (
        <g transform={mirrored ? `translate(${w} 0) scale(-1 1)` : undefined}>
          <BaysOnPart bays={bays} scale={scale} partName={part.name} mirrored={mirrored} onSeams={onSeams} />
        </g>
      )}
      {h > 34 && w > 90 && !holed && bays.length === 0 && (
        <text x={w / 2} y={h / 2 + 7} textAnchor="middle" fontSize="20" fill="var(--color-on-resin)" className="fig">
          {units.text("area", part.area_m2)}
        </text>
      )}
      {!mirrored &&
        part.dimensions?.map((dimension) => (
          <Dimension key={dimension.field} dimension={dimension} scale={scale} field={fieldOf(dimension.field)} />
        ))}
    </g>
  );
}

const OFF = 10;

/** One dimension line with its figure; the figure opens its field. */
function Dimension({
  dimension,
  scale,
  field,
}: {
  dimension: PartResult["dimensions"] extends (infer D)[] | undefined ? D : never;
  scale: number;
  field: ReactNode;
}) {
  const { units } = useShop();
  const [ax = 0, ay = 0] = dimension.a.map((value) => value * scale);
  const [bx = 0, by = 0] = dimension.b.map((value) => value * scale);
  const upright = Math.abs(ax - bx) < Math.abs(ay - by);
  const inside = dimension.field.startsWith("stations.");
  const dx = upright && !inside ? OFF : 0;
  const dy = upright ? 0 : OFF;
  const [mx, my] = [(ax + bx) / 2 + dx, (ay + by) / 2 + dy];
  const tick = upright ? "m-4 0h8" : "m0 -4v8";
  const label = units.text("length", dimension.value_m);
  const wide = label.length * 7.4 + 12;
  return (
    <g>
      <path
        d={`M${ax + dx} ${ay + dy}L${bx + dx} ${by + dy}M${ax + dx} ${ay + dy}${tick}M${bx + dx} ${by + dy}${tick}`}
        fill="none"
        stroke="var(--color-ink-soft)"
        strokeDasharray={inside ? "3 3" : undefined}
      />
      <foreignObject
        x={inside ? mx - wide / 2 : upright ? mx + 4 : mx - wide / 2}
        y={inside ? by + 3 : upright ? my - 12 : my + 5}
        width={wide}
        height="24"
      >
        {field ? (
          <Popover.Root>
            <Popover.Trigger
              aria-label={`${label}, change it`}
              className="fig min-h-6 w-full rounded-(--radius) text-[0.8125rem] leading-none whitespace-nowrap hover:bg-sheet"
            >
              {label}
            </Popover.Trigger>
            <Popover.Portal>
              <Popover.Content
                aria-label="Type this measure"
                sideOffset={4}
                collisionPadding={8}
                className="z-40 w-44 rounded-(--radius) border border-ink bg-sheet px-3 pt-2 pb-1"
              >
                {field}
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
        ) : (
          <span className="fig block min-h-6 text-center text-[0.8125rem] leading-6 whitespace-nowrap">{label}</span>
        )}
      </foreignObject>
    </g>
  );
}
