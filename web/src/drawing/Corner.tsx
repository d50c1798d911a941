import type { Joint } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import { WoodGrain } from "./hatches";
import { useWidth } from "./useWidth";

const HEIGHT = 500;

/** The corner to scale: two panels, the fillet with its radius. The ring is dragged to change the radius. */
export function Corner({
  joint,
  scaledFor,
  onRadius,
}: {
  joint: Joint;
  scaledFor: number;
  onRadius: (radius_mm: number, done: boolean) => void;
}) {
  const [picture, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const radius = joint.radius_mm ?? 0;
  const panel = joint.panel_thickness_mm;
  const reach = Math.max(scaledFor * 2.1, panel * 7, 40);
  const scale = Math.min(330, width * 0.4) / reach;
  const [r, t] = [radius * scale, panel * scale];
  const both = joint.sides === 2;
  // The corner where the upright's face meets the bottom's face.
  const [x0, y0] = [both ? width / 2 + t / 2 : Math.min(150, width * 0.24) + t, 400];
  const mid = Math.SQRT1_2;
  const ring = { x: x0 + r * (1 - mid), y: y0 - r * (1 - mid) };
  const bead = (side: 1 | -1, from: number) =>
    `M${from} ${y0 - r}V${y0}H${from + side * r}A${r} ${r} 0 0 ${side === 1 ? 1 : 0} ${from} ${y0 - r}Z`;

  function drag(event: React.PointerEvent, done: boolean) {
    const box = picture.current?.getBoundingClientRect();
    if (!box) return;
    const px = ((event.clientX - box.left) / box.width) * width - x0;
    const py = y0 - ((event.clientY - box.top) / box.height) * HEIGHT;
    const next = Math.max(0, (px + py) / 2) / (1 - mid) / scale;
    onRadius(Math.min(200, Math.max(2, Math.round(next))), done);
  }

  return (
    <svg
      ref={picture}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="w-full"
      role="img"
      aria-label={`Fillet of radius ${units.words("size", radius)}, to scale`}
    >
      <defs>
        <WoodGrain id="corner-grain" />
        <WoodGrain id="upright-grain" upright />
        <pattern id="paste" width="9" height="9" patternUnits="userSpaceOnUse">
          <rect width="9" height="9" fill="var(--color-fresh)" />
          <path
            d="M2 2h.1M6 5h.1M3 7.5h.1"
            stroke="var(--color-on-resin)"
            strokeWidth="1.6"
            opacity=".7"
            strokeLinecap="round"
          />
        </pattern>
      </defs>
      <rect x={x0 - t} y="40" width={t} height={y0 - 40} fill="url(#upright-grain)" stroke="var(--color-ink)" />
      <rect
        x={both ? 40 : x0 - t}
        y={y0}
        width={both ? width - 80 : width - 40 - x0 + t}
        height={t}
        fill="url(#corner-grain)"
        stroke="var(--color-ink)"
      />
      {r > 0 && <path d={bead(1, x0)} fill="url(#paste)" stroke="var(--color-ink)" strokeWidth="1.4" />}
      {r > 0 && both && <path d={bead(-1, x0 - t)} fill="url(#paste)" stroke="var(--color-ink)" strokeWidth="1.4" />}
      <text x={x0 - t - 10} y="60" textAnchor="end" fontSize="15" fontWeight="600" fill="var(--color-ink)">
        Upright
      </text>
      <text x={x0 - t - 10} y="79" textAnchor="end" fontSize="14" fill="var(--color-ink-soft)">
        {units.words("size", panel)}
      </text>
      <text x={width - 44} y={y0 + t + 22} textAnchor="end" fontSize="15" fontWeight="600" fill="var(--color-ink)">
        Bottom
      </text>
      {r > 0 && (
        <>
          <path
            d={`M${ring.x} ${ring.y}L${x0 + r} ${y0 - r}L${x0 + r + 40} ${y0 - r - 40}`}
            stroke="var(--color-ink)"
            fill="none"
          />
          <circle cx={x0 + r} cy={y0 - r} r="3.5" fill="var(--color-ink)" />
          <text x={x0 + r + 48} y={y0 - r - 42} fontSize="30" fill="var(--color-ink)" className="fig">
            R {units.words("size", radius)}
          </text>
          <path
            d={`M${x0} ${y0 + t + 14}v16M${x0 + r} ${y0 + t + 14}v16M${x0} ${y0 + t + 22}h${r}`}
            stroke="var(--color-ink-soft)"
            fill="none"
          />
          <text
            x={x0 + r / 2}
            y={y0 + t + 48}
            textAnchor="middle"
            fontSize="14"
            fill="var(--color-ink)"
            className="fig"
          >
            leg {units.words("size", radius)}, {fixed(radius / panel, 1)} × panel
          </text>
          <circle
            cx={ring.x}
            cy={ring.y}
            r="11"
            fill="var(--color-sheet)"
            stroke="var(--color-ink)"
            strokeWidth="3"
            className="cursor-grab touch-none"
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && drag(event, false)}
            onPointerUp={(event) => drag(event, true)}
          />
        </>
      )}
    </svg>
  );
}

/** What each consistency looks like, falling off the stick. */
export function ConsistencyPicture({ consistency }: { consistency: Joint["consistency"] }) {
  const shapes = {
    runs: "M31 2h4v16h-4zM10 24a23 4 0 0 0 46 0a23 4 0 0 0-46 0z",
    drapes: "M27 2h12l4 15H23zM9 28c8-8 14-9 24-9s16 1 24 9z",
    peaks: "M8 28c16-2 20-8 26-22c1 10 6 18 24 22z",
    stands: "M14 28V11c4-5 8-1 11-4s8-1 10 1s7-3 10 0s5-1 7 3v17z",
  };
  return (
    <svg viewBox="0 0 66 30" width="66" height="30" aria-hidden="true">
      <path d={shapes[consistency]} fill="var(--color-mid)" />
    </svg>
  );
}
