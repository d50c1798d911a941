import type { PointerEvent, ReactNode } from "react";
import { useMayWrite } from "../shop";

const STEPS: Record<string, number> = {
  ArrowRight: 1,
  ArrowUp: 1,
  ArrowLeft: -1,
  ArrowDown: -1,
  PageUp: 10,
  PageDown: -10,
};

/** Something on a drawing that is dragged, or moved a step at a time by the arrow keys, ten by the page keys. */
export function Drag({
  label,
  words,
  value,
  least,
  most,
  onDrag,
  onStep,
  onEnds,
  onRemove,
  onDone,
  edits = true,
  children,
}: {
  label: string;
  words: string;
  value: number;
  least: number;
  most: number;
  onDrag?: (event: PointerEvent<SVGGElement>) => void;
  /** By so many steps; by which key, where it moves both ways. */
  onStep?: (steps: number, key: string) => void;
  /** Home and End, where it has ends. */
  onEnds?: (end: "least" | "most") => void;
  /** Delete, or backspace. */
  onRemove?: () => void;
  /** It was let go. */
  onDone?: () => void;
  /** It changes the job, which who only looks may not; else it only tries. */
  edits?: boolean;
  children: ReactNode;
}) {
  const mayWrite = useMayWrite();
  if (!onDrag || (edits && !mayWrite)) return <g>{children}</g>;
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={value}
      aria-valuemin={least}
      aria-valuemax={most}
      aria-valuetext={words}
      className="cursor-grab touch-none active:cursor-grabbing"
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && onDrag(event)}
      onPointerUp={onDone}
      onKeyUp={onDone}
      onKeyDown={(event) => {
        const steps = STEPS[event.key];
        if (steps) {
          event.preventDefault();
          onStep?.(steps, event.key);
        } else if (onEnds && (event.key === "Home" || event.key === "End")) {
          event.preventDefault();
          onEnds(event.key === "Home" ? "least" : "most");
        } else if (event.key === "Delete" || event.key === "Backspace") onRemove?.();
      }}
    >
      {children}
    </g>
  );
}
