import type { CutRoll } from "../api/client";
import { plural } from "../format";
import { useShop } from "../shop";
import { Hatch } from "./hatches";
import { useRowsInSight } from "./useRowsInSight";
import { useWidth } from "./useWidth";

const LEAST_TALL = 92;
const MOST_TALL = 210;
const FOOT = 22;

/** A roll lying along the screen with its pieces, broken into even lengths where it would be too small to read. */
export function Roll({
  roll,
  done,
  focus,
  onFocus,
  onTick,
}: {
  roll: CutRoll;
  done: (pieceId: string) => boolean;
  focus: string;
  onFocus: (pieceId: string) => void;
  onTick: (pieceId: string) => void;
}) {
  const { units } = useShop();
  const [box, width] = useWidth<SVGSVGElement>();
  const run = roll.run_m * 1000;
  const rows = Math.ceil((LEAST_TALL * run) / width / roll.roll_width_mm);
  const scale = Math.min((width * rows) / run, MOST_TALL / roll.roll_width_mm);
  const tall = roll.roll_width_mm * scale;
  const [from, to] = useRowsInSight(box, rows);
  const hatch = `roll-${roll.fabric_id}-${roll.lot_id}-${roll.number}`;
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${rows * (tall + FOOT)}`}
      className="w-full"
      role="img"
      aria-label={`${roll.fabric_name}: ${plural(roll.pieces.length, "piece")} on ${units.text("roll_run", roll.run_m)} of roll`}
    >
      <defs>
        <Hatch id={hatch} architecture={roll.architecture} fibre={roll.fibre} />
      </defs>
      {Array.from({ length: rows }, (_, row) => {
        const start = (run * row) / rows;
        const end = (run * (row + 1)) / rows;
        const id = `${hatch}-row-${row}`;
        if (row < from || row >= to) return null;
        return (
          <g key={id} transform={`translate(0 ${row * (tall + FOOT)})`}>
            <clipPath id={id}>
              <rect x="0" y="0" width={(end - start) * scale} height={tall} />
            </clipPath>
            <g clipPath={`url(#${id})`}>
              <rect x="0" y="0" width={(end - start) * scale} height={tall} fill="var(--color-rule-faint)" />
              <rect x="0" y="0" width={(end - start) * scale} height={tall} fill={`url(#${hatch})`} opacity=".3" />
              {roll.pieces
                .filter((piece) => piece.y_mm < end && piece.y_mm + piece.along_mm > start)
                .map((piece) => (
                  <Piece
                    key={piece.piece_id}
                    piece={piece}
                    x={(piece.y_mm - start) * scale}
                    shownTo={(end - start) * scale}
                    scale={scale}
                    done={done(piece.piece_id)}
                    lit={focus === piece.piece_id}
                    onFocus={onFocus}
                    onTick={onTick}
                  />
                ))}
              <path
                d={`M0 .5H${(end - start) * scale}M0 ${tall - 0.5}H${(end - start) * scale}`}
                stroke="var(--color-ink)"
              />
            </g>
            <Tape start={start} end={end} scale={scale} tall={tall} />
          </g>
        );
      })}
    </svg>
  );
}

function Piece({
  piece,
  x,
  shownTo,
  scale,
  done,
  lit,
  onFocus,
  onTick,
}: {
  piece: CutRoll["pieces"][number];
  x: number;
  /** Where this length of the roll ends on the screen. */
  shownTo: number;
  scale: number;
  done: boolean;
  lit: boolean;
  onFocus: (pieceId: string) => void;
  onTick: (pieceId: string) => void;
}) {
  const { units } = useShop();
  const [y, wide, tall] = [piece.x_mm * scale, piece.along_mm * scale, piece.across_mm * scale];
  const size = Math.max(12.5, Math.min(30, 0.45 * Math.min(tall, wide / 1.6)));
  const [from, to] = [Math.max(x, 0), Math.min(x + wide, shownTo)];
  const middle = (from + to) / 2;
  const twoRows = tall > 44 && to - from > 92;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the same tick stands in the list beside, for keys and readers
    <g
      onPointerEnter={() => onFocus(piece.piece_id)}
      onPointerLeave={() => onFocus("")}
      onClick={() => piece.number > 0 && onTick(piece.piece_id)}
      className={piece.number > 0 ? "cursor-pointer" : ""}
    >
      <rect
        x={x}
        y={y}
        width={wide}
        height={tall}
        fill={done ? "var(--color-cool-pale)" : "var(--color-sheet)"}
        stroke="var(--color-ink)"
        strokeWidth={lit ? 3 : 1}
      />
      <text
        x={middle}
        y={y + tall / 2 + (twoRows ? 0 : size * 0.35)}
        textAnchor="middle"
        fontSize={size}
        fontWeight="700"
        fill={done ? "var(--color-cool)" : "var(--color-ink)"}
      >
        {piece.number || "spare"}
        {done ? " ✓" : ""}
      </text>
      {twoRows && (
        <text
          x={middle}
          y={y + tall / 2 + 17}
          textAnchor="middle"
          fontSize="13"
          fill="var(--color-ink-soft)"
          className="cond"
        >
          {units.number("cut", piece.along_mm)} × {units.number("cut", piece.across_mm)}
        </text>
      )}
    </g>
  );
}

/** The roll's own tape: a mark each half metre or half yard, from where it begins. */
function Tape({ start, end, scale, tall }: { start: number; end: number; scale: number; tall: number }) {
  const { units } = useShop();
  const { unit, value } = units.axis("roll_run");
  const halfMm = 500 * value(1);
  const first = Math.ceil(start / halfMm);
  const marks = Array.from({ length: Math.max(0, Math.floor(end / halfMm) - first + 1) }, (_, at) => first + at);
  return (
    <g stroke="var(--color-ink-soft)">
      {marks.map((half) => {
        const x = (half * halfMm - start) * scale;
        return (
          <g key={half}>
            <path d={`M${x} ${tall + 1}v${half % 2 ? 4 : 6}`} />
            {half % 2 === 0 && (
              <text
                x={x}
                y={tall + 18}
                textAnchor={x < 12 ? "start" : x > (end - start) * scale - 12 ? "end" : "middle"}
                fontSize="12.5"
                fill="var(--color-ink-soft)"
                stroke="none"
              >
                {half / 2}
                {half === first || half === first + 1 ? ` ${unit}` : ""}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
