import type { BagLayer } from "../api/client";
import { useShop } from "../shop";
import { useWidth } from "./useWidth";

const LETTERING = 262;
const [TOP, MOULD, LABEL_GAP] = [16, 44, 36];
const LEFT = 12;
/** No layer is thinner on the drawing than a line that can be seen. */
const LEAST = 2.5;

const fills: Record<BagLayer["kind"], string> = {
  mould: "var(--color-mould)",
  laminate: "var(--color-wetted)",
  core: "var(--color-core)",
  "peel ply": "var(--color-sheet)",
  "perforated film": "var(--color-cool-pale)",
  "flow mesh": "url(#bag-mesh)",
  breather: "url(#bag-breather)",
  bag: "var(--color-cool)",
};

/** What it lies on, where that is no mould. */
const grounds: Record<string, string> = {
  "bare plywood": "var(--color-wood)",
  timber: "var(--color-wood)",
  "sanded laminate": "var(--color-laminate)",
  "cured polyester": "var(--color-laminate)",
  "cured epoxy": "var(--color-laminate)",
  "foam core": fills.core,
  "polystyrene foam": fills.core,
};

/** What lies under a bag, cut through, to scale in thickness: the mould below, the film on top. */
export function BagSection({ layers, name, height = 400 }: { layers: BagLayer[]; name: string; height?: number }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const right = Math.max(LEFT + 90, width - LETTERING);
  const bottom = height - MOULD - 8;
  const over = layers.slice(1);
  const total = over.reduce((sum, layer) => sum + layer.thickness_mm, 0);
  const spare = over.length * LEAST;
  const scale = total > 0 ? (bottom - TOP - spare) / total : 0;
  let below = bottom;
  const drawn = over.map((layer) => {
    const h = LEAST + layer.thickness_mm * scale;
    below -= h;
    return { layer, y: below, h, mid: below + h / 2 };
  });
  let lowest = bottom + 8;
  const labelled = drawn.map((row) => {
    const at = Math.min(row.mid + 5, lowest - LABEL_GAP);
    lowest = at;
    return { ...row, at };
  });
  const lift = Math.max(0, TOP + 4 - (labelled.at(-1)?.at ?? TOP));
  const mould = layers[0];
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`Section through the bag of ${name}: ${over.map((layer) => layer.name).join(", ")}`}
    >
      <defs>
        <pattern id="bag-mesh" width="9" height="9" patternUnits="userSpaceOnUse">
          <rect width="9" height="9" fill="var(--color-wetted)" />
          <path d="M0 0L9 9M9 0L0 9" stroke="var(--color-glass-ink)" strokeWidth="1.6" />
        </pattern>
        <pattern id="bag-breather" width="14" height="9" patternUnits="userSpaceOnUse">
          <rect width="14" height="9" fill="var(--color-sheet)" />
          <path d="M0 6q4-8 8-2t6 0" fill="none" stroke="var(--color-ink-soft)" />
        </pattern>
      </defs>
      <path
        d={`M${LEFT} ${bottom}H${right}V${bottom + MOULD}l-14 -6l-16 7l-18 -7l-15 6L${LEFT} ${bottom + MOULD - 4}Z`}
        fill={grounds[mould?.name ?? ""] ?? fills.mould}
        stroke="var(--color-ink)"
      />
      <text x={right + 26} y={bottom + 22} fontSize="15" fontWeight="600" fill="var(--color-ink)">
        {capital(mould?.name ?? "")}
      </text>
      {labelled.map(({ layer, y, h, mid, at }) => (
        <g key={`${layer.kind} ${y}`}>
          <rect
            x={LEFT}
            y={y}
            width={right - LEFT}
            height={h}
            fill={fills[layer.kind]}
            stroke="var(--color-ink)"
            strokeWidth="1"
          />
          <path d={`M${right + 3} ${mid}L${right + 12} ${at + lift - 5}h8`} stroke="var(--color-ink)" fill="none" />
          <text x={right + 26} y={at + lift - 2} fontSize="15" fontWeight="500" fill="var(--color-ink)">
            {layer.name}
          </text>
          <text x={right + 26} y={at + lift + 13} fontSize="13" fill="var(--color-ink-soft)" className="cond">
            {layer.resin_gsm > 0 ? `${units.text("areal_weight", layer.resin_gsm)} resin · ` : ""}
            {units.text("area", layer.area_m2)} cut{layer.written ? "" : " · comes with it"}
          </text>
        </g>
      ))}
    </svg>
  );
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
