import type { PointerEvent, ReactNode } from "react";
import { limits, usual } from "../api/asked";
import type { Joint } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import { isFlat } from "./corner";
import { PasteGrain, WoodGrain } from "./hatches";
import { Ring } from "./Ring";
import { useWidth } from "./useWidth";

const HEIGHT = 320;

interface Props {
  joint: Joint;
  scaledFor: Joint;
  pointed: string;
  onPoint: (id: string) => void;
  onTry: (change: Partial<Joint>) => void;
  onDone: () => void;
}

/** A joint that is no corner, cut through to scale: glue line, scarf, gap, bedding, holes. The ring is its width or slope. */
export function Lap({ joint, scaledFor, pointed, onPoint, onTry, onDone }: Props) {
  const [picture, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const shape = shapeOf(joint, scaledFor, units.words.bind(units));
  const scale = Math.min((width - 120) / shape.wide, (HEIGHT - 130) / shape.tall, 14);
  const x0 = (width - shape.wide * scale) / 2;
  const y0 = 60 + Math.max(0, (HEIGHT - 150 - shape.tall * scale) / 2);
  const x = (mm: number) => x0 + mm * scale;
  const y = (mm: number) => y0 + mm * scale;
  const path = (points: readonly (readonly [number, number])[]) =>
    `M${points.map(([a, b]) => `${x(a).toFixed(1)} ${y(b).toFixed(1)}`).join("L")}Z`;
  function drag(event: PointerEvent) {
    const box = picture.current?.getBoundingClientRect();
    if (!box || !shape.ring) return;
    onTry(shape.ring.to((((event.clientX - box.left) / box.width) * width - x0) / scale));
  }
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with things to press and to drag in it
    <svg
      ref={picture}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="w-full"
      role="group"
      aria-label={`${joint.kind}, cut through to scale`}
    >
      <defs>
        <WoodGrain id="lap-grain" />
        <PasteGrain />
      </defs>
      {shape.boards.map((board) => (
        <path key={path(board)} d={path(board)} fill="url(#lap-grain)" stroke="var(--color-ink)" />
      ))}
      {shape.paste.map((paste) => (
        // biome-ignore lint/a11y/useSemanticElements: a button in a drawing
        <path
          key={path(paste)}
          d={path(paste)}
          role="button"
          aria-label="The paste"
          tabIndex={0}
          className="outline-none"
          onPointerEnter={() => onPoint("paste")}
          onPointerLeave={() => onPoint("")}
          onFocus={() => onPoint("paste")}
          onBlur={() => onPoint("")}
          fill="url(#paste)"
          stroke={shape.thin ? "var(--color-mid)" : "var(--color-ink)"}
          strokeWidth={pointed === "paste" ? 4 : shape.thin ? 2.5 : 1.2}
        />
      ))}
      {shape.measures.map(({ from, to, at, words }) => (
        <g key={words}>
          <path
            d={`M${x(from)} ${y(at) + 10}v12M${x(to)} ${y(at) + 10}v12M${x(from)} ${y(at) + 16}H${x(to)}`}
            stroke="var(--color-ink-soft)"
            fill="none"
          />
          <text
            x={x((from + to) / 2)}
            y={y(at) + 42}
            textAnchor="middle"
            fontSize="20"
            className="fig"
            fill="var(--color-ink)"
          >
            {words}
          </text>
        </g>
      ))}
      {shape.notes.map(({ at, words }) => (
        <text key={words} x={x(at[0])} y={y(at[1])} fontSize="14" fill="var(--color-ink-soft)">
          {words}
        </text>
      ))}
      {shape.ring && (
        <Ring
          x={x(shape.ring.at[0])}
          y={y(shape.ring.at[1])}
          label={shape.ring.label}
          words={shape.ring.words}
          value={shape.ring.value}
          most={1000}
          onDrag={drag}
          onStep={(steps) => shape.ring && onTry(shape.ring.step(steps))}
          onDone={onDone}
        />
      )}
    </svg>
  );
}

/** The joint's picture without its frame: the ring is said in words beneath. */
export function LapHint({ joint }: { joint: Joint }): ReactNode {
  if (joint.kind === "corner")
    return isFlat(joint) ? "Drag a strip's end, or type its width." : "Drag the ring, or type the radius.";
  return joint.kind === "scarf"
    ? "Drag the ring, or type the slope."
    : joint.kind === "holes"
      ? "Some of the holes, cut through."
      : "Drag the ring, or type the width.";
}

type Spot = readonly [number, number];

interface Shape {
  wide: number;
  tall: number;
  boards: Spot[][];
  paste: Spot[][];
  /** Paste too thin to be drawn by its edges. */
  thin: boolean;
  measures: { from: number; to: number; at: number; words: string }[];
  notes: { at: Spot; words: string }[];
  ring?: {
    at: Spot;
    label: string;
    words: string;
    value: number;
    to: (mm: number) => Partial<Joint>;
    step: (steps: number) => Partial<Joint>;
  };
}

const box = (left: number, top: number, wide: number, tall: number): Spot[] => [
  [left, top],
  [left + wide, top],
  [left + wide, top + tall],
  [left, top + tall],
];

const held = (to: number, [least, most]: [number, number]) => Math.min(most, Math.max(least, 1, Math.round(to)));

/** Everything in mm, from the top left of the picture. */
function shapeOf(joint: Joint, scaledFor: Joint, words: (quantity: "size" | "thickness", mm: number) => string): Shape {
  const t = joint.panel_thickness_mm;
  const glue = joint.glue_mm ?? usual.glue_mm;
  const w = joint.width_mm ?? 0;
  const typed = { ...joint.typed };
  delete typed.width_mm;
  const toWidth = (left: number) => ({
    to: (mm: number) => ({ width_mm: held(mm - left, limits.width_mm), typed }),
    step: (steps: number) => ({ width_mm: held(w + steps, limits.width_mm), typed }),
  });
  switch (joint.kind) {
    case "scarf": {
      const run = t * joint.slope;
      // Its thickness is square to the face.
      const glueAlong = glue * Math.hypot(1, joint.slope);
      const side = Math.max(3 * t, 20);
      const most = scaledFor.panel_thickness_mm * scaledFor.slope;
      return {
        wide: most + 2 * side,
        tall: t,
        boards: [
          [
            [0, 0],
            [side, 0],
            [side + run, t],
            [0, t],
          ],
          [
            [side + glueAlong, 0],
            [most + 2 * side, 0],
            [most + 2 * side, t],
            [side + run + glueAlong, t],
          ],
        ],
        paste: [
          [
            [side, 0],
            [side + glueAlong, 0],
            [side + run + glueAlong, t],
            [side + run, t],
          ],
        ],
        thin: true,
        measures: [
          { from: side, to: side + run, at: t, words: `1 in ${fixed(joint.slope, 0)}: ${words("size", run)}` },
        ],
        notes: [{ at: [0, -3], words: `${words("size", t)} stock, ${words("thickness", glue)} of paste` }],
        ring: {
          at: [side + run, t],
          label: "Slope of the scarf",
          words: `1 in ${fixed(joint.slope, 0)}`,
          value: joint.slope,
          to: (mm) => ({ slope: held((mm - side) / t, limits.slope) }),
          step: (steps) => ({ slope: held(joint.slope + steps, limits.slope) }),
        },
      };
    }
    case "gap": {
      const side = Math.max(w * 2, t, 12);
      const deep = joint.depth_mm ?? t;
      return {
        wide: (scaledFor.width_mm ?? w) + 2 * side,
        tall: Math.max(t, deep),
        boards: [box(0, 0, side, Math.max(t, deep)), box(side + w, 0, side, Math.max(t, deep))],
        paste: [box(side, 0, w, deep)],
        thin: false,
        measures: [{ from: side, to: side + w, at: Math.max(t, deep), words: words("size", w) }],
        notes: [{ at: [0, -3], words: `${words("size", deep)} deep` }],
        ring: {
          at: [side + w, deep / 2],
          label: "Width of the gap",
          words: words("size", w),
          value: w,
          ...toWidth(side),
        },
      };
    }
    case "bedding": {
      const high = joint.depth_mm ?? 0;
      const teeth = Math.max(1, Math.min(40, Math.round(w / Math.max(2 * high, 1))));
      const tooth = w / teeth;
      return {
        wide: (scaledFor.width_mm ?? w) + 30,
        tall: t + high + t,
        boards: [box(0, t + high, w + 30, t), box(15, -high * 0.8, w, t)],
        paste: Array.from({ length: teeth }, (_, n) => box(15 + n * tooth, t, tooth / 2, high)),
        thin: false,
        measures: [{ from: 15, to: 15 + w, at: t + high + t, words: words("size", w) }],
        notes: [{ at: [0, -3 - high], words: `teeth ${words("size", high)} high, half of it left` }],
        ring: {
          at: [15 + w, t + high / 2],
          label: "Width of the bed",
          words: words("size", w),
          value: w,
          ...toWidth(15),
        },
      };
    }
    case "holes": {
      const [across, deep] = [joint.diameter_mm ?? 0, joint.depth_mm ?? 0];
      const shown = Math.min(6, joint.hole_count ?? 0);
      const step = Math.max(across * 3, 10);
      const tall = Math.max(t, deep * 1.1);
      return {
        wide: step * (shown + 1),
        tall,
        boards: [box(0, 0, step * (shown + 1), tall)],
        paste: Array.from({ length: shown }, (_, n) => box(step * (n + 1) - across / 2, 0, across, deep)),
        thin: false,
        measures: shown
          ? [{ from: step - across / 2, to: step + across / 2, at: tall, words: words("size", across) }]
          : [],
        notes: [{ at: [0, -3], words: `${joint.hole_count ?? 0} of them, ${words("size", deep)} deep` }],
      };
    }
    default: {
      const side = Math.max(3 * t, 18);
      const most = scaledFor.width_mm ?? w;
      return {
        wide: most + 2 * side,
        tall: 2 * t + glue,
        boards: [box(0, t + glue, side + w, t), box(side, 0, most + side, t)],
        // What oozes out all along both edges.
        paste: [
          [
            [side - glue * 2, t + glue],
            [side, t - glue],
            [side, t],
            [side + w, t],
            [side + w + glue * 2, t],
            [side + w, t + glue * 2],
            [side + w, t + glue],
          ],
        ],
        thin: true,
        measures: [{ from: side, to: side + w, at: 2 * t + glue, words: words("size", w) }],
        notes: [
          { at: [0, -3], words: `${words("size", t)} on ${words("size", t)}, ${words("thickness", glue)} of paste` },
        ],
        ring: {
          at: [side + w, t + glue / 2],
          label: "Width of the glue line",
          words: words("size", w),
          value: w,
          ...toWidth(side),
        },
      };
    }
  }
}
