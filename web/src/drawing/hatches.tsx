import type { PlyResult } from "../api/client";

type Architecture = PlyResult["architecture"];
type Fibre = PlyResult["fibre"];

const inks: Record<Fibre, string> = {
  "E-glass": "#5E867A",
  carbon: "#2E3338",
  aramid: "#8f7510",
  basalt: "#4b4a3c",
  flax: "#8a7f4a",
  polyester: "#4E6168",
  foam: "#a89b78",
  balsa: "#a8895a",
  polyethylene: "#4E6168",
  none: "#8a6a2a",
};

const MAT = { width: 173, height: 89 };

/** Short random strokes that repeat the same each time: a small linear congruential walk. */
function strokes(): string {
  let seed = 7;
  const next = () => {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    return seed / 2147483648;
  };
  return Array.from({ length: 128 }, () => {
    const [x, y, turn] = [next() * MAT.width, next() * MAT.height, next() * Math.PI];
    return `M${x.toFixed(1)} ${y.toFixed(1)}l${(Math.cos(turn) * 7).toFixed(1)} ${(Math.sin(turn) * 5).toFixed(1)}`;
  }).join("");
}

const matPath = strokes();

interface Tile {
  width: number;
  height: number;
  path: string;
}

const matTile: Tile = { ...MAT, path: matPath };
const weave: Tile = { width: 10, height: 10, path: "M0 2.5h5M5 7.5h5M7.5 0v5M2.5 5v5" };
const stitched: Tile = { width: 9, height: 9, path: "M0 0l9 9M9 0L0 9" };

const tiles: Record<Architecture, Tile> = {
  "chopped mat": matTile,
  "continuous filament mat": matTile,
  veil: matTile,
  "woven cloth": weave,
  tape: weave,
  "woven roving": weave,
  biaxial: stitched,
  triaxial: stitched,
  "bleeder or breather": stitched,
  "flow mesh": stitched,
  "perforated film": { width: 9, height: 9, path: "M4.5 3.5a1 1 0 1 0 .1 0" },
  core: {
    width: 26,
    height: 22,
    path: "M4 4a2.4 2.4 0 1 0 .1 0M17 9a2 2 0 1 0 .1 0M9 16a2.2 2.2 0 1 0 .1 0M22 18a1.6 1.6 0 1 0 .1 0",
  },
  coat: { width: 14, height: 7, path: "M0 3.5h4" },
  "peel ply": { width: 7, height: 7, path: "M0 7L7 0" },
  "spread tow": { width: 22, height: 22, path: "M0 0h11v11H0zM11 11h11v11H11z" },
  "chopped tow": { width: 30, height: 20, path: "M3 4l9 4M18 3l8 5M8 14l10-3M22 16l6-5" },
  unidirectional: { width: 8, height: 5, path: "M0 2.5h8" },
  combination: { width: 16, height: 16, path: "M0 0l16 16M16 0L0 16M3 8h4M10 3l3 2M9 13l4-1" },
};

/** The hatch of an architecture, as a pattern to fill with; `wet` with the resin it holds behind it. */
export function Hatch({
  id,
  architecture,
  fibre,
  wet = false,
}: {
  id: string;
  architecture: Architecture;
  fibre: Fibre;
  wet?: boolean;
}) {
  const { width, height, path } = tiles[architecture];
  return (
    <pattern id={id} width={width} height={height} patternUnits="userSpaceOnUse">
      {wet && <rect width={width} height={height} fill="var(--color-wetted)" />}
      <path d={path} fill="none" stroke={inks[fibre]} strokeWidth={fibre === "carbon" ? 1.8 : 1.3} />
    </pattern>
  );
}

export function WoodGrain({ id, upright = false }: { id: string; upright?: boolean }) {
  return (
    <pattern
      id={id}
      width="90"
      height="24"
      patternUnits="userSpaceOnUse"
      patternTransform={upright ? "rotate(90)" : undefined}
    >
      <rect width="90" height="24" fill="var(--color-wood)" />
      <path
        d="M0 4c20-3 30 3 50 1s25-3 40-1M0 11c15 3 40-2 60 1s20 1 30-1M0 19c25-3 30 2 45 0s30 2 45 0"
        fill="none"
        stroke="var(--color-grain)"
        strokeWidth="1"
      />
    </pattern>
  );
}

/** A thickened mix: resin with powder in it. */
export function PasteGrain() {
  return (
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
  );
}
