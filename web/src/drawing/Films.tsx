import type { CoatResult, PlyResult } from "../api/client";
import { plural } from "../format";
import { useShop } from "../shop";
import { Hatch, WoodGrain } from "./hatches";
import { useWidth } from "./useWidth";

const [LEFT, TOP, BESIDE] = [16, 10, 280];
const [GROUND, PLIES, LEAST, MOST_HIGH] = [34, 22, 5, 210];
const LINE = 34;

/** A part cut through its coats: films to one scale over their ground, with the plies between as a band. */
export function Films({
  plies,
  coats,
  substrate,
  chosen,
  onChoose,
}: {
  plies: PlyResult[];
  coats: CoatResult[];
  substrate: string;
  chosen: string;
  onChoose: (plyId: string) => void;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const of = new Map(coats.map((coat) => [coat.ply_id, coat]));
  const thick = coats.reduce((sum, coat) => sum + coat.count * coat.each_wet_um, 0);
  const scale = Math.min(0.3, MOST_HIGH / Math.max(1, thick));
  // From the ground up: a coat, or as many plies as lie together.
  const layers: { id: string; coat?: CoatResult; plies: number; high: number }[] = [];
  for (const ply of plies) {
    const coat = of.get(ply.id);
    const last = layers.at(-1);
    if (coat)
      layers.push({
        id: ply.id,
        coat,
        plies: 0,
        high: Math.max(LEAST * coat.count, coat.count * coat.each_wet_um * scale),
      });
    else if (last && !last.coat) last.plies += 1;
    else layers.push({ id: ply.id, plies: 1, high: PLIES });
  }
  const tall = layers.reduce((sum, layer) => sum + layer.high, 0);
  const words = layers.length * LINE;
  const floor = TOP + Math.max(tall, words - 8);
  const right = width - Math.min(BESIDE, width * 0.55);
  const wood = /plywood|timber/.test(substrate);
  let top = floor;
  let said = floor + 8;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with things to press in it
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${floor + GROUND + 6}`}
      className="w-full"
      role="group"
      aria-label={`Films over ${substrate}, from the ground up: ${coats.map((coat) => `${coat.name}, ${units.words("film", coat.each_wet_um)} wet`).join("; ")}`}
    >
      <WoodGrain id="coated" />
      <Hatch id="between" architecture="woven cloth" fibre="E-glass" wet />
      <rect
        x={LEFT}
        y={floor}
        width={right - LEFT}
        height={GROUND}
        fill={wood ? "url(#coated)" : "var(--color-mould)"}
        stroke="var(--color-ink)"
      />
      <text x={right + 12} y={floor + 22} fontSize="13" fill="var(--color-ink-soft)">
        {substrate}
      </text>
      {layers.map(({ id, coat, plies: count, high }) => {
        top -= high;
        said = Math.min(said - LINE, top + high / 2 + 8);
        const [from, line] = [top, said];
        const on = id === chosen;
        const label = coat
          ? `${coat.count > 1 ? `${coat.count} × ` : ""}${coat.name}`
          : plural(count, "ply between", "plies between");
        return (
          <g
            key={id}
            {...(coat && {
              role: "button",
              tabIndex: 0,
              "aria-pressed": on,
              className: "cursor-pointer",
              onClick: () => onChoose(id),
              onKeyDown: (event: React.KeyboardEvent) => {
                if (event.key === "Enter" || event.key === " ") {
                  event.preventDefault();
                  onChoose(id);
                }
              },
            })}
          >
            <rect
              x={LEFT}
              y={from}
              width={right - LEFT}
              height={high}
              fill={coat ? "var(--color-fresh)" : "url(#between)"}
              stroke="var(--color-ink)"
              strokeWidth={on ? 2.4 : 0.8}
            />
            {coat &&
              Array.from({ length: coat.count - 1 }, (_, at) => (
                <path
                  // biome-ignore lint/suspicious/noArrayIndexKey: a coat is its place
                  key={at}
                  d={`M${LEFT} ${from + ((at + 1) * high) / coat.count}H${right}`}
                  stroke="var(--color-ink)"
                  strokeWidth=".8"
                />
              ))}
            <path
              d={`M${right} ${from + high / 2}L${right + 8} ${line - 4}`}
              stroke="var(--color-ink-soft)"
              fill="none"
            />
            <text x={right + 12} y={line} fontSize="14" fontWeight={on ? 700 : 600} fill="var(--color-ink)">
              {label}
            </text>
            {coat && (
              <text x={right + 12} y={line + 15} fontSize="12.5" fill="var(--color-ink-soft)" className="fig">
                {units.words("film", coat.each_wet_um)} wet · {units.words("areal_weight", coat.each_gsm)} ·{" "}
                {units.words("coverage", coat.spreads_m2_per_l)}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
