import type { PatchDrawn } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import { Drag } from "./Drag";
import { useWidth } from "./useWidth";

const [PAD, PLAN_HIGH, SECTION_HIGH] = [46, 330, 200];
/** How thick the old laminate stands in section at the most. */
const THICK = 84;
/** A skin is thin beside its ground: it is drawn so many times as thick at the most. */
const MOST_TALLER = 8;
const [LEAST_TAPER, MOST_TAPER] = [4, 40];

/** A patch in plan and in section: the damage, its ground, each new ply, what lies behind. The edge of the ground is dragged. */
export function PatchPicture({ drawn, onTaper }: { drawn: PatchDrawn; onTaper: (taper: number) => void }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const { ground_mm: ground, depth_mm: deep, skin_mm: skin } = drawn;
  const past = Math.max(ground, drawn.backing_mm, ...drawn.plies.map((ply) => ply.past_mm));
  const lies = drawn.length_mm >= drawn.width_mm;
  const [along, across] = lies ? [drawn.length_mm, drawn.width_mm] : [drawn.width_mm, drawn.length_mm];
  const scale = Math.min((width - 2 * PAD) / (along + 2 * past), (PLAN_HIGH - 2 * PAD) / (across + 2 * past));
  const middle = width / 2;
  const plan = { x: middle, y: PLAN_HIGH / 2 };
  const taller = Math.min(MOST_TALLER, Math.max(1, THICK / (skin * scale)));
  const thick = skin * scale * taller;
  const top = PLAN_HIGH + 62;
  const half = (along / 2) * scale;
  const ring = (far: number) => ({
    x: plan.x - half - far * scale,
    y: plan.y - (across / 2) * scale - far * scale,
    width: 2 * half + 2 * far * scale,
    height: across * scale + 2 * far * scale,
    rx: Math.min((across / 2) * scale, 10 * scale) + far * scale,
  });
  const halfMm = along / 2;
  /** How high the ground stands over the bottom of the damage, so far from its middle, mm. */
  const floorAt = (x: number) => (x <= halfMm ? 0 : Math.min(deep, (deep * (x - halfMm)) / Math.max(0.01, ground)));
  /** A ply in section, from its middle outward: it lies on the ground and on what was laid before it, as far as each reaches. */
  const sideOf = (at: number) => {
    const own = drawn.plies[at];
    const before = drawn.plies.slice(0, at);
    const over = (x: number, past: boolean) =>
      before
        .filter((ply) => (past ? halfMm + ply.past_mm > x + 1e-6 : halfMm + ply.past_mm >= x - 1e-6))
        .reduce((sum, ply) => sum + ply.thickness_mm, 0);
    const end = halfMm + (own?.past_mm ?? 0);
    const steps = before.map((ply) => halfMm + ply.past_mm).filter((x) => x < end);
    const xs = [0, halfMm, ...steps, end].sort((a, b) => a - b);
    return xs.flatMap((x) => {
      const both = x === end ? [false] : [false, true];
      return both.map((past): [number, number] => [x, floorAt(x) + over(x, past)]);
    });
  };
  const bottom = top + deep * scale * taller;
  const edge = middle + half + ground * scale;
  const drag = (x: number) => {
    const taper = (x - middle - half) / scale / Math.max(0.01, deep);
    onTaper(Math.round(2 * Math.min(MOST_TAPER, Math.max(LEAST_TAPER, taper))) / 2);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with an edge to drag in it
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${PLAN_HIGH + SECTION_HIGH}`}
      className="w-full"
      role="group"
      aria-label={`The patch in plan and in section: ground ${units.text("thickness", ground)} past it, ${fixed(drawn.taper, 1)} to 1, ${drawn.plies.length} plies`}
    >
      {drawn.backing_mm > 0 && (
        <rect {...ring(drawn.backing_mm)} fill="none" stroke="var(--color-ink-soft)" strokeDasharray="6 5" />
      )}
      <rect {...ring(ground)} fill="var(--color-laminate)" stroke="var(--color-ink)" strokeWidth="1.6" />
      {[...drawn.plies]
        .sort((a, b) => b.past_mm - a.past_mm)
        .map((ply) => (
          <rect
            key={ply.past_mm}
            {...ring(ply.past_mm)}
            fill="var(--color-wetted)"
            fillOpacity="0.55"
            stroke="var(--color-glass-ink)"
          />
        ))}
      <rect
        {...ring(0)}
        fill={drawn.through ? "var(--color-floor)" : "var(--color-mould)"}
        stroke="var(--color-ink)"
        strokeWidth="2.2"
      />
      <text x={plan.x} y={plan.y + 5} textAnchor="middle" fontSize="14" fontWeight="600" fill="var(--color-ink)">
        {drawn.through ? "hole" : "damage"}
      </text>
      <text
        x={plan.x}
        y={plan.y - (across / 2 + ground) * scale - 10}
        textAnchor="middle"
        fontSize="14"
        fill="var(--color-ink)"
      >
        ground {units.text("size", ground)} past it, {fixed(drawn.taper, drawn.taper % 1 ? 1 : 0)} to 1
      </text>
      <path
        d={`M${PAD / 2} ${top}H${middle - half - ground * scale}L${middle - half} ${bottom}V${top + thick}H${PAD / 2}Z`}
        fill="var(--color-laminate)"
        stroke="var(--color-ink)"
      />
      <path
        d={`M${width - PAD / 2} ${top}H${edge}L${middle + half} ${bottom}V${top + thick}H${width - PAD / 2}Z`}
        fill="var(--color-laminate)"
        stroke="var(--color-ink)"
      />
      {!drawn.through && (
        <rect
          x={middle - half}
          y={bottom}
          width={2 * half}
          height={Math.max(0, top + thick - bottom)}
          fill="var(--color-laminate)"
        />
      )}
      {drawn.backing_mm > 0 && (
        <rect
          x={middle - half - drawn.backing_mm * scale}
          y={top + thick + 2}
          width={2 * half + 2 * drawn.backing_mm * scale}
          height="6"
          fill="var(--color-wetted)"
          stroke="var(--color-ink)"
        />
      )}
      {drawn.plies.map((ply, at) => {
        const under = sideOf(at);
        const upper = under.map(([x, y]): [number, number] => [x, y + ply.thickness_mm]);
        const mirrored = (points: [number, number][]) => points.map(([x, y]): [number, number] => [-x, y]);
        const outline = [...under, ...[...upper].reverse(), ...mirrored(upper), ...mirrored(under).reverse()];
        return (
          <path
            key={ply.past_mm}
            d={`M${outline.map(([x, y]) => `${(middle + x * scale).toFixed(1)} ${(bottom - y * scale * taller).toFixed(1)}`).join("L")}Z`}
            fill="var(--color-wetted)"
            stroke="var(--color-glass-ink)"
          />
        );
      })}
      <text x={PAD / 2} y={top - 12} fontSize="13" fill="var(--color-ink-soft)">
        in section{taller > 1.05 ? `, ${fixed(taller, 0)} times as thick as it is` : ", to scale"}
      </text>
      <text x={PAD / 2} y={top + thick + 26} fontSize="13.5" fontWeight="600" fill="var(--color-ink)">
        old laminate
      </text>
      <Drag
        label="Edge of the ground"
        words={`${fixed(drawn.taper, 1)} to 1, ${units.text("size", ground)}`}
        value={drawn.taper}
        least={LEAST_TAPER}
        most={MOST_TAPER}
        onDrag={(event) => {
          const at = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
          if (at) drag(((event.clientX - at.left) * width) / at.width);
        }}
        onStep={(steps) => onTaper(Math.min(MOST_TAPER, Math.max(LEAST_TAPER, drawn.taper + 0.5 * steps)))}
      >
        <circle cx={edge} cy={top} r="22" fill="transparent" />
        <circle cx={edge} cy={top} r="8" fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="3" />
      </Drag>
    </svg>
  );
}
