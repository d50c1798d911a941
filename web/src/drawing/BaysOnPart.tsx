import { useState } from "react";
import { bayLimits } from "../api/asked";
import type { SheetBay } from "../api/client";
import { useShop } from "../shop";
import { Drag } from "./Drag";

/** A seam moves by so much of a metre at a step of the keys. */
const STEP_M = 0.05;

/** The bays of a part in laying order, on its drawing: each seam to be dragged along the part. */
export function BaysOnPart({
  bays,
  scale,
  partName,
  mirrored,
  onSeams,
}: {
  bays: SheetBay[];
  scale: number;
  partName: string;
  mirrored: boolean;
  onSeams?: (seamsM: number[]) => void;
}) {
  const { units } = useShop();
  const [held, hold] = useState<{ at: number; m: number } | null>(null);
  const ends = bays.map((bay, at) => (held?.at === at ? held.m : bay.ends));
  const length = bays.at(-1)?.ends ?? 0;
  const move = (at: number, m: number) => {
    const least = (at ? (bays[at - 1]?.ends ?? 0) : 0) + bayLimits.least_m;
    const most = (bays[at + 1]?.ends ?? length) - bayLimits.least_m;
    const next = Math.max(least, Math.min(most, Math.round(m / 0.01) * 0.01));
    hold({ at, m: next });
    return next;
  };
  const done = (at: number, m: number) => {
    hold(null);
    if (Math.abs(m - (bays[at]?.ends ?? 0)) > 0.001)
      onSeams?.(bays.slice(0, -1).map((bay, n) => (n === at ? m : bay.ends)));
  };
  return (
    <g>
      {bays.slice(0, -1).map((bay, at) => {
        const [ax = 0, ay = 0, bx = 0, by = 0] = bay.seams[0] ?? [];
        const across = Math.hypot(bx - ax, by - ay) || 1;
        // Along the part: square to the seam, away from the first bay.
        const [mx = 0, my = 0] = bay.middle;
        let [nx, ny] = [(by - ay) / across, -(bx - ax) / across];
        if (((ax + bx) / 2 - mx) * nx + ((ay + by) / 2 - my) * ny < 0) [nx, ny] = [-nx, -ny];
        const shift = ((ends[at] ?? bay.ends) - bay.ends) * scale;
        const lines = bay.seams.map(
          ([x1 = 0, y1 = 0, x2 = 0, y2 = 0]) =>
            `M${x1 * scale + nx * shift} ${y1 * scale + ny * shift}L${x2 * scale + nx * shift} ${y2 * scale + ny * shift}`,
        );
        const [hx, hy] = [((ax + bx) / 2) * scale + nx * shift, ((ay + by) / 2) * scale + ny * shift];
        return (
          <Drag
            key={bay.number}
            label={`Seam after bay ${bay.number} of ${partName || "the part"}`}
            words={units.text("length", ends[at] ?? bay.ends)}
            value={Math.round((ends[at] ?? bay.ends) * 1000)}
            least={0}
            most={Math.round(length * 1000)}
            onDrag={
              onSeams &&
              ((event) => {
                const group = event.currentTarget.getScreenCTM();
                if (!group) return;
                const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(group.inverse());
                const along = (point.x / scale - (ax + bx) / 2) * nx + (point.y / scale - (ay + by) / 2) * ny;
                move(at, bay.ends + along);
              })
            }
            onStep={(steps) => move(at, (ends[at] ?? bay.ends) + steps * STEP_M)}
            onDone={() => done(at, ends[at] ?? bay.ends)}
          >
            <path d={lines.join("")} stroke="transparent" strokeWidth="24" fill="none" />
            <path d={lines.join("")} stroke="var(--color-ink)" strokeWidth="1.6" strokeDasharray="7 4" fill="none" />
            {onSeams && (
              <circle cx={hx} cy={hy} r="6" fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="2.4" />
            )}
            {held?.at === at && (
              <text
                x={hx + 10}
                y={hy - 10}
                fontSize="14"
                fontWeight="600"
                fill="var(--color-ink)"
                className="fig"
                transform={mirrored ? `translate(${2 * hx} 0) scale(-1 1)` : undefined}
              >
                {units.text("length", ends[at] ?? bay.ends)}
              </text>
            )}
          </Drag>
        );
      })}
      {bays.map((bay) => {
        const [mx = 0, my = 0] = bay.middle;
        // The handles of the seams lie in the middle: the numbers a little above it.
        const [cx, cy] = [mx * scale, my * scale];
        return (
          <text
            key={bay.number}
            x={cx}
            y={cy + 9}
            textAnchor="middle"
            fontSize="26"
            fontWeight="600"
            fill="var(--color-on-resin)"
            className="fig"
            transform={mirrored ? `translate(${2 * cx} 0) scale(-1 1)` : undefined}
          >
            {bay.number}
          </text>
        );
      })}
    </g>
  );
}
