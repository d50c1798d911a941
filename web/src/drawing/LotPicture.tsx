import type { Article, Fabric, Lot } from "../api/client";
import { Hatch } from "./hatches";

const DAY_MS = 86_400_000;
// A tin is drawn by the cube root of what it holds, so that its size grows as a tin's does.
const [LEAST_SIDE, MOST_SIDE, SIDE_OF_A_KILO] = [34, 104, 44];
const ROLL = 76;

/** How near a lot is to the end of its life, 0 to 1, and over it: by its dates, else nothing is known. */
function aged(lot: Lot, today: string): number {
  if (!lot.until) return 0;
  const [now, until] = [Date.parse(today), Date.parse(lot.until)];
  if (until < now) return 2;
  const from = Date.parse(lot.made ?? lot.received);
  return until <= from ? 1 : Math.min(1, Math.max(0, (now - from) / Math.max(DAY_MS, until - from)));
}

/** Fresh resin is pale amber; it ages with its date and is red past it. */
function tint(lot: Lot, today: string): string {
  const share = aged(lot, today);
  if (share > 1) return "var(--color-kick-fill)";
  return `color-mix(in oklab, var(--color-mid) ${Math.round(100 * share)}%, var(--color-fresh))`;
}

/** What ages as resin does is drawn as resin; a filler is not. */
const pours = (lot: Lot) => !lot.article.startsWith("filler ");

function sideOf(lot: Lot, article: Article): number {
  if (article.unit !== "g") return article.unit === "m" ? ROLL : 56;
  const kilos = Math.max(lot.came_with, lot.left) / 1000;
  return Math.min(MOST_SIDE, Math.max(LEAST_SIDE, SIDE_OF_A_KILO * Math.cbrt(kilos)));
}

/** A lot as it stands on its board: a tin with what is left in it, a roll from its end, a box. */
export function LotPicture({
  lot,
  article,
  today,
  fabric,
  times = 1,
}: {
  lot: Lot;
  article: Article;
  today: string;
  fabric?: Fabric;
  times?: number;
}) {
  const side = sideOf(lot, article);
  const full = Math.max(lot.came_with, lot.left) || 1;
  const share = Math.min(1, lot.left / full);
  return (
    <svg
      viewBox={`0 0 ${side} ${side}`}
      width={side * times}
      height={side * times}
      className="block shrink-0"
      aria-hidden="true"
    >
      {article.unit === "g" && (
        <Tin side={side} share={share} fill={pours(lot) ? tint(lot, today) : "var(--color-rule)"} />
      )}
      {article.unit === "m" &&
        (lot.width_mm == null ? (
          <Roll share={share} id={lot.id} fabric={fabric} />
        ) : (
          <Offcut wide={lot.width_mm} long={1000 * lot.left} id={lot.id} fabric={fabric} />
        ))}
      {article.unit === "" && <Box side={side} share={share} />}
      {lot.bad && (
        <path
          d={`M2 2L${side - 2} ${side - 2}M${side - 2} 2L2 ${side - 2}`}
          stroke="var(--color-stop)"
          strokeWidth="4"
        />
      )}
    </svg>
  );
}

/** A tin cut open: a lid, a wall, and the resin to its level. */
function Tin({ side, share, fill }: { side: number; share: number; fill: string }) {
  const [lid, wall] = [Math.max(4, side * 0.1), 1.5];
  const room = side - lid - 2 * wall;
  return (
    <>
      <rect x={side * 0.08} y={lid} width={side * 0.84} height={side - lid - 0.75} fill="var(--color-sheet)" />
      <rect
        x={side * 0.08 + wall}
        y={side - wall - share * room}
        width={side * 0.84 - 2 * wall}
        height={share * room}
        fill={fill}
      />
      <rect
        x={side * 0.08}
        y={lid}
        width={side * 0.84}
        height={side - lid - 0.75}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth={wall}
      />
      <rect
        x={side * 0.03}
        y={0.75}
        width={side * 0.94}
        height={lid}
        fill="var(--color-rule)"
        stroke="var(--color-ink)"
      />
    </>
  );
}

/** A piece that was left over, lying flat, as long and as wide as it is. */
function Offcut({ wide, long, id, fabric }: { wide: number; long: number; id: string; fabric?: Fabric | undefined }) {
  const scale = (ROLL - 6) / Math.max(wide, long);
  const [w, h] = [Math.max(6, long * scale), Math.max(6, wide * scale)];
  const hatch = `offcut-${id}`;
  const box = { x: (ROLL - w) / 2, y: ROLL - h - 2, width: w, height: h };
  return (
    <>
      {fabric && <Hatch id={hatch} architecture={fabric.architecture} fibre={fabric.fibre} />}
      <rect {...box} fill="var(--color-sheet)" />
      <rect {...box} fill={fabric ? `url(#${hatch})` : "none"} stroke="var(--color-ink)" strokeWidth="1.5" />
    </>
  );
}

/** A roll seen from its end: as thick as what is left of it, on its tube. */
function Roll({ share, id, fabric }: { share: number; id: string; fabric?: Fabric }) {
  const [middle, tube, most] = [ROLL / 2, 9, ROLL / 2 - 1.5];
  const outer = Math.sqrt(tube ** 2 + share * (most ** 2 - tube ** 2));
  const rings = Math.max(1, Math.floor((outer - tube) / 5));
  const foot = ROLL - outer;
  const hatch = `lot-${id}`;
  return (
    <g transform={`translate(0 ${foot - middle})`}>
      {fabric && (
        <defs>
          <Hatch id={hatch} architecture={fabric.architecture} fibre={fabric.fibre ?? "E-glass"} />
        </defs>
      )}
      <circle cx={middle} cy={middle} r={outer} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="1.5" />
      {fabric && <circle cx={middle} cy={middle} r={outer} fill={`url(#${hatch})`} />}
      {Array.from({ length: rings }, (_, ring) => (
        <circle
          // biome-ignore lint/suspicious/noArrayIndexKey: a turn of the roll has no name but its place
          key={ring}
          cx={middle}
          cy={middle}
          r={tube + ((outer - tube) * ring) / rings}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth=".7"
        />
      ))}
      <circle
        cx={middle}
        cy={middle}
        r={tube - 1}
        fill="var(--color-floor)"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
    </g>
  );
}

function Box({ side, share }: { side: number; share: number }) {
  const tall = side * 0.7;
  return (
    <>
      <rect
        x="1"
        y={side - tall}
        width={side - 2}
        height={tall - 0.75}
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      <rect
        x="3"
        y={side - 2.5 - share * (tall - 5)}
        width={side - 6}
        height={share * (tall - 5)}
        fill="var(--color-rule)"
      />
    </>
  );
}
