import type { Stiffened } from "../api/client";
import { fixed, percent } from "../format";
import { useShop } from "../shop";
import { useWidth } from "./useWidth";

const LETTERING = 250;
const [TOP, BOTTOM, LEFT] = [26, 24, 12];
const LABEL_GAP = 36;
/** No layer is thinner on the drawing than a line that can be seen. */
const LEAST = 3;

const olds: Record<string, string> = {
  plywood: "var(--color-wood)",
  timber: "var(--color-wood)",
  foam: "var(--color-core)",
  "end-grain balsa": "var(--color-core)",
};

/** A strip cut through, to scale in thickness: what lies there below, what is laid on it above, its neutral axis before and after. */
export function StiffSection({ told, height = 330 }: { told: Stiffened; height?: number }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const right = Math.max(LEFT + 110, Math.min(width - LETTERING, 430));
  const total = told.layers.reduce((sum, layer) => sum + layer.thickness_mm, 0);
  const scale = total > 0 ? (height - TOP - BOTTOM) / total : 0;
  const yOf = (mm: number) => height - BOTTOM - mm * scale;
  let from = 0;
  const drawn = told.layers.map((layer, at) => {
    const low = from;
    from += layer.thickness_mm;
    const h = Math.max(LEAST, layer.thickness_mm * scale);
    return { layer, at, y: yOf(from), h, mid: yOf((low + from) / 2) };
  });
  // From below upward each beside its layer, then from above down so that the uppermost is in the picture.
  let lowest = height - BOTTOM + 14;
  const raised = drawn.map((row) => {
    const label = Math.min(row.mid + 4, lowest - LABEL_GAP);
    lowest = label;
    return { ...row, label };
  });
  let highest = TOP - 10 - LABEL_GAP;
  const labelled = raised.reverse().map((row) => {
    const label = Math.max(row.label, highest + LABEL_GAP);
    highest = label;
    return { ...row, label };
  });
  const axis = (mm: number, words: string, colour: string, above: boolean) => (
    <g>
      <path d={`M${LEFT - 6} ${yOf(mm)}H${right + 8}`} stroke={colour} strokeWidth="2.4" strokeDasharray="14 4 3 4" />
      <text
        x={LEFT + 8}
        y={yOf(mm) + (above ? -7 : 18)}
        fontSize="13.5"
        fontWeight="600"
        fill={colour}
        stroke="var(--color-sheet)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {words}
      </text>
    </g>
  );
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`Section of the strip: ${told.layers.map((layer) => layer.name).join(", ")}; the middle of its bending moves from ${units.text("thickness", told.axis_before_mm)} to ${units.text("thickness", told.axis_after_mm)}`}
    >
      {labelled.map(({ layer, at, y, h, mid, label }) => (
        <g key={at}>
          <rect
            x={LEFT}
            y={y}
            width={right - LEFT}
            height={h}
            fill={layer.old ? (olds[layer.name] ?? "var(--color-laminate)") : "var(--color-wetted)"}
            stroke="var(--color-ink)"
          />
          <path
            d={`M${right + 4} ${mid}L${right + 18} ${label - 5}H${right + 24}`}
            fill="none"
            stroke="var(--color-ink-soft)"
          />
          <text x={right + 30} y={label} fontSize="15" fontWeight="600" fill="var(--color-ink)">
            {capital(layer.name)}
          </text>
          <text x={right + 30} y={label + 15} fontSize="12.5" fill="var(--color-ink-soft)">
            {units.text("thickness", layer.thickness_mm)} · {fixed(layer.modulus_gpa, layer.modulus_gpa < 1 ? 2 : 1)}{" "}
            GPa · {percent(layer.share)} % of it
          </text>
        </g>
      ))}
      {axis(told.axis_before_mm, "before", "var(--color-ink-soft)", told.axis_before_mm > told.axis_after_mm)}
      {axis(told.axis_after_mm, "after", "var(--color-cool)", told.axis_before_mm <= told.axis_after_mm)}
    </svg>
  );
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
