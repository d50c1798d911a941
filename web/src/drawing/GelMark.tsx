import type { PointerEvent } from "react";
import type { LabelPoint } from "../api/client";
import { Drag } from "./Drag";

/** A time on the gel chart: a square off the label, a cross gelled here; hollow where it does not fit the rest. */
export function GelMark({
  point,
  x,
  y,
  words,
  under,
  onMove,
  onRemove,
}: {
  point: LabelPoint;
  x: number;
  y: number;
  words: string;
  under: (event: PointerEvent<SVGElement>) => { temperature_c: number; minutes: number };
  onMove?: (row: number, to: { temperature_c: number; minutes: number }) => void;
  onRemove?: (row: number) => void;
}) {
  if (point.shop)
    return (
      <path
        d={`M${x - 5} ${y - 5}l10 10m0 -10l-10 10`}
        stroke="var(--color-ink)"
        strokeWidth={point.far_off ? 1 : 2}
        strokeDasharray={point.far_off ? "2 2" : undefined}
      >
        <title>{`gelled here: ${words}`}</title>
      </path>
    );
  const { row, times_told = 1 } = point;
  const movable = row != null && onMove;
  const square = (
    <>
      <title>{`the label: ${words}${point.far_off ? ", far from the rest" : ""}`}</title>
      <rect
        x={x - 5}
        y={y - 5}
        width="10"
        height="10"
        fill={point.far_off ? "var(--color-sheet)" : "var(--color-ink)"}
        stroke="var(--color-ink)"
        strokeWidth="1.6"
      />
    </>
  );
  if (!movable) return <g>{square}</g>;
  const told = (minutes: number) => Number((minutes / times_told).toPrecision(2));
  return (
    <Drag
      label={`The label's time at ${words}`}
      words={words}
      value={point.minutes}
      least={0}
      most={10000}
      onDrag={(event) => {
        const { temperature_c, minutes } = under(event);
        onMove(row, { temperature_c, minutes: told(minutes) });
      }}
      onStep={(steps) =>
        onMove(row, {
          temperature_c: point.temperature_c,
          minutes: told(point.minutes) + steps * (point.minutes > 10 ? 1 : 0.5),
        })
      }
      onRemove={onRemove && (() => onRemove(row))}
    >
      <rect x={x - 16} y={y - 16} width="32" height="32" fill="transparent" />
      {square}
    </Drag>
  );
}
