import type { PartResult } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import { Hatch, WoodGrain } from "./hatches";
import { useWidth } from "./useWidth";

const LEFT = 72;
/** Room for the lettering beside the section. */
const LETTERING = 210;
const TOP = 26;
const SUBSTRATE = 56;
const LABEL_GAP = 38;

const substrateFill: Record<string, string> = {
  "bare plywood": "url(#grain)",
  timber: "url(#grain)",
  "cured polyester": "var(--color-laminate)",
  "cured epoxy": "var(--color-laminate)",
  "polystyrene foam": "var(--color-core)",
  "sanded laminate": "var(--color-laminate)",
  "foam core": "var(--color-core)",
  "waxed mould": "var(--color-mould)",
};

/** One pattern serves every ply of a kind. */
const hatchOf = ({ architecture, fibre }: PartResult["plies"][number]) =>
  `hatch-${architecture}-${fibre}`.replaceAll(" ", "-");

/** What shows between the lines of a hatch: resin, or the core itself. */
const beneath = (architecture: PartResult["plies"][number]["architecture"]) =>
  architecture === "core" ? "var(--color-core)" : "var(--color-wetted)";

/** A step of the ruler that gives four to ten marks. */
function rulerStep(total: number): number {
  return [0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.25, 0.5, 1, 2, 5, 10].find((step) => total / step <= 9) ?? 20;
}

/** The laminate cut through, to scale in thickness: the surface below, the first ply on it, resin as the amber between. */
export function Section({
  part,
  focus,
  onFocus,
  height = 500,
  tallestMm,
}: {
  part: PartResult;
  focus: string;
  onFocus: (id: string) => void;
  height?: number;
  /** What fills the height, where it stands beside another. */
  tallestMm?: number;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const axis = units.axis("thickness");
  const RIGHT = Math.max(LEFT + 90, Math.min(width - LETTERING, 480));
  const total = part.thickness_mm;
  const bottom = height - SUBSTRATE - 12;
  const whole = tallestMm ?? total;
  const scale = whole > 0 ? (bottom - TOP) / whole : 0;
  const many = part.plies.length > Math.floor((bottom - TOP) / LABEL_GAP);
  const reading = axis.shown(whole);
  const step = rulerStep(reading);
  let below = 0;
  // What comes off again is not in the section.
  const layers = part.plies
    .filter((ply) => ply.stays && ply.thickness_mm > 0)
    .map((ply) => {
      const y = bottom - (below + ply.thickness_mm) * scale;
      below += ply.thickness_mm;
      return { ply, y, h: ply.thickness_mm * scale, mid: y + (ply.thickness_mm * scale) / 2 };
    });
  let lowest = bottom + 12;
  const labelled = layers.map((layer) => {
    const at = Math.min(layer.mid, lowest - LABEL_GAP);
    lowest = at;
    return { ...layer, at };
  });
  const lift = Math.max(0, TOP - 8 - (labelled.at(-1)?.at ?? TOP));
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`Section through ${part.name || "the part"}: ${part.plies.length} plies, ${units.text("thickness", total)}`}
    >
      <defs>
        <WoodGrain id="grain" />
        {[...new Map(layers.map(({ ply }) => [hatchOf(ply), ply])).entries()].map(([id, ply]) => (
          <Hatch key={id} id={id} architecture={ply.architecture} fibre={ply.fibre} />
        ))}
      </defs>
      {whole > 0 && (
        <g stroke="var(--color-ink-soft)" strokeWidth="1">
          <path d={`M${LEFT - 12} ${bottom}V${TOP - 10}`} />
          {Array.from({ length: Math.floor(reading / step) + 1 }, (_, mark) => mark * step).map((mark) => (
            <g key={mark}>
              <path d={`M${LEFT - 24} ${bottom - axis.value(mark) * scale}h12`} />
              <text
                x={LEFT - 29}
                y={bottom - axis.value(mark) * scale + 5}
                textAnchor="end"
                fontSize="14"
                fill="var(--color-ink-soft)"
                stroke="none"
              >
                {fixed(mark, step < 0.01 ? 3 : step < 0.1 || step === 0.25 ? 2 : step < 1 ? 1 : 0)}
              </text>
            </g>
          ))}
          <text x={LEFT - 29} y={bottom + 22} textAnchor="end" fontSize="13" fill="var(--color-ink-soft)" stroke="none">
            {axis.unit}
          </text>
        </g>
      )}
      <path
        d={`M${LEFT} ${bottom}H${RIGHT}V${bottom + SUBSTRATE}l-12 -7l-14 8l-16 -6l-19 7l-15 -8L${LEFT} ${bottom + SUBSTRATE - 4}Z`}
        fill={substrateFill[part.substrate] ?? "var(--color-mould)"}
        stroke="var(--color-ink)"
        strokeWidth="1"
      />
      <path d={`M${RIGHT + 4} ${bottom + 26}h18`} stroke="var(--color-ink)" />
      <text x={RIGHT + 30} y={bottom + 25} fontSize="15" fill="var(--color-ink)" className="font-semibold">
        {part.substrate[0]?.toUpperCase() + part.substrate.slice(1)}
      </text>
      <text x={RIGHT + 30} y={bottom + 43} fontSize="13.5" fill="var(--color-ink-soft)" className="cond">
        {part.wet_out_gsm > 0
          ? `the surface soaks up ${units.text("areal_weight", part.wet_out_gsm)} first`
          : "film side down"}
      </text>
      {part.plies.length === 0 && (
        <text x={(LEFT + RIGHT) / 2} y={bottom - 30} textAnchor="middle" fontSize="16" fill="var(--color-ink-soft)">
          no ply yet
        </text>
      )}
      {labelled.map(({ ply, y, h, mid, at }) => {
        const on = ply.id === focus;
        return (
          <g key={ply.id} onPointerEnter={() => onFocus(ply.id)} onPointerLeave={() => onFocus("")}>
            <rect x={LEFT} y={y} width={RIGHT - LEFT} height={h} fill={beneath(ply.architecture)} />
            <rect
              x={LEFT}
              y={y}
              width={RIGHT - LEFT}
              height={h}
              fill={`url(#${hatchOf(ply)})`}
              stroke="var(--color-ink)"
              strokeWidth="1"
            />
            {on && (
              <rect
                x={LEFT - 2}
                y={y}
                width={RIGHT - LEFT + 4}
                height={h}
                fill="none"
                stroke="var(--color-ink)"
                strokeWidth="3.5"
              />
            )}
            {!many && (
              <>
                <path d={`M${RIGHT + 4} ${mid}L${RIGHT + 14} ${at + lift}h8`} stroke="var(--color-ink)" fill="none" />
                <text
                  x={RIGHT + 30}
                  y={at + lift - 1}
                  fontSize="15"
                  fill="var(--color-ink)"
                  fontWeight={on ? 700 : 500}
                >
                  {ply.name}
                  {ply.angle ? ` ±${ply.angle}` : ""}
                </text>
                <text x={RIGHT + 30} y={at + lift + 15} fontSize="13.5" fill="var(--color-ink-soft)" className="cond">
                  {units.text("areal_weight", ply.resin_gsm)} resin · {units.text("thickness", ply.thickness_mm)}
                </text>
              </>
            )}
          </g>
        );
      })}
      {many && (
        <text x={RIGHT + 20} y={TOP + 40} fontSize="15" fill="var(--color-ink)">
          {part.plies.length} plies, listed beside
        </text>
      )}
    </svg>
  );
}

/** A stack in little, for the floor. */
export function MiniSection({
  plies,
  substrate,
  id,
}: {
  plies: {
    architecture: PartResult["plies"][number]["architecture"];
    fibre: PartResult["plies"][number]["fibre"];
    thickness_mm: number;
  }[];
  substrate: string;
  id: string;
}) {
  const total = plies.reduce((sum, ply) => sum + ply.thickness_mm, 0);
  const scale = total ? 42 / total : 0;
  let below = 0;
  return (
    <svg viewBox="0 0 120 66" width="120" height="66" aria-hidden="true">
      <defs>
        {plies.map((ply, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a picture of a fixed list
          <Hatch key={at} id={`mini-${id}-${at}`} architecture={ply.architecture} fibre={ply.fibre} />
        ))}
      </defs>
      <rect
        x="1"
        y="48"
        width="118"
        height="16"
        fill={substrate === "bare plywood" ? "var(--color-wood)" : "var(--color-mould)"}
        stroke="var(--color-ink)"
        strokeWidth=".8"
      />
      {plies.map((ply, at) => {
        below += ply.thickness_mm * scale;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a picture of a fixed list
          <g key={at}>
            <rect x="1" y={48 - below} width="118" height={ply.thickness_mm * scale} fill={beneath(ply.architecture)} />
            <rect
              x="1"
              y={48 - below}
              width="118"
              height={ply.thickness_mm * scale}
              fill={`url(#mini-${id}-${at})`}
              stroke="var(--color-ink)"
              strokeWidth=".8"
            />
          </g>
        );
      })}
    </svg>
  );
}
