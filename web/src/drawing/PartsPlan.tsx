import type { JobSpec } from "../api/client";
import { useShop } from "../shop";
import { useWidth } from "./useWidth";

const GAP = 54;
const fills: Record<string, string> = {
  "bare plywood": "url(#plan-grain)",
  "sanded laminate": "var(--color-laminate)",
  "foam core": "var(--color-core)",
  "waxed mould": "var(--color-mould)",
};

interface Piece {
  id: string;
  name: string;
  substrate: string;
  long: number;
  short: number;
  measured: boolean;
}

/** The pieces of a job, lying flat, to one scale; a typed area is drawn as the square it equals. */
function piecesOf(document: JobSpec): Piece[] {
  const found: Piece[] = [];
  for (const part of document.parts) {
    const shape = part.shape;
    const sides =
      shape.kind === "rectangle"
        ? [shape.width_m ?? 0, shape.length_m ?? 0]
        : [Math.sqrt(shape.area_m2 ?? 0), Math.sqrt(shape.area_m2 ?? 0)];
    const [short = 0, long = 0] = [...sides].sort((a, b) => a - b);
    if (!short) continue;
    for (let copy = 0; copy < Math.min(part.count, 6); copy++) {
      const name = part.count > 1 ? `${part.name} ${copy + 1}/${part.count}` : part.name;
      found.push({
        id: `${part.id}-${copy}`,
        name,
        substrate: part.substrate,
        long,
        short,
        measured: shape.kind === "rectangle",
      });
    }
  }
  return found;
}

/** Rows of pieces, each row filled to the width, at a scale. */
function rowsAt(pieces: Piece[], scale: number, width: number): { x: number; y: number; piece: Piece }[] | null {
  const placed: { x: number; y: number; piece: Piece }[] = [];
  let [x, y, tall] = [1, 24, 0];
  for (const piece of pieces) {
    const wide = Math.max(piece.long * scale, 60);
    if (x > 1 && x + wide > width - 50) [x, y, tall] = [1, y + tall + GAP, 0];
    if (wide > width - 50) return null;
    placed.push({ x, y, piece });
    x += wide + GAP + 8;
    tall = Math.max(tall, piece.short * scale);
  }
  return y + tall > 450 ? null : placed;
}

export function PartsPlan({ document }: { document: JobSpec }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const pieces = piecesOf(document);
  const longest = Math.max(0.01, ...pieces.map((piece) => piece.long));
  let scale = Math.min((width - 60) / longest, 420);
  let placed = rowsAt(pieces, scale, width);
  while (!placed && scale > 0.5) {
    scale *= 0.93;
    placed = rowsAt(pieces, scale, width);
  }
  if (!placed) return null;
  const bottom = Math.max(...placed.map(({ y, piece }) => y + piece.short * scale)) + 34;
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${bottom}`}
      className="w-full"
      role="img"
      aria-label={`${pieces.length} pieces to one scale`}
    >
      <defs>
        <pattern id="plan-grain" width="120" height="16" patternUnits="userSpaceOnUse">
          <rect width="120" height="16" fill="var(--color-wood)" />
          <path d="M0 4c30-2 60 2 120 0M0 11c40 2 80-2 120 0" fill="none" stroke="var(--color-grain)" />
        </pattern>
      </defs>
      {placed.map(({ x, y, piece }) => {
        const [w, h] = [piece.long * scale, piece.short * scale];
        return (
          <g key={piece.id} transform={`translate(${x} ${y})`}>
            <text y="-7" fontSize="14" fontWeight="600" fill="var(--color-ink)">
              {piece.name}
            </text>
            <rect width={w} height={h} fill={fills[piece.substrate]} stroke="var(--color-ink)" />
            {h > 34 && w > 70 && (
              <text
                x={w / 2}
                y={h / 2 + 7}
                textAnchor="middle"
                fontSize="20"
                fill="var(--color-on-resin)"
                className="fig"
              >
                {units.text("area", piece.long * piece.short)}
              </text>
            )}
            {piece.measured && (
              <g stroke="var(--color-ink-soft)" fontSize="13">
                <path d={`M0 ${h + 9}h${w}M0 ${h + 5}v8M${w} ${h + 5}v8`} fill="none" />
                <path d={`M${w + 9} 0v${h}M${w + 5} 0h8M${w + 5} ${h}h8`} fill="none" />
                <text x={w / 2} y={h + 26} textAnchor="middle" fill="var(--color-ink)" stroke="none" className="fig">
                  {units.text("length", piece.long)}
                </text>
                <text x={w + 15} y={h / 2 + 5} fill="var(--color-ink)" stroke="none" className="fig">
                  {units.number("length", piece.short)}
                </text>
              </g>
            )}
          </g>
        );
      })}
    </svg>
  );
}
