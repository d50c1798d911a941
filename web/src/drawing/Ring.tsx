import type { PointerEvent } from "react";
import { Drag } from "./Drag";

/** More steps than there are: a measure stops at its own ends. */
const ALL = 10_000;

/** The mark of what one drags: ink on a white ring. It moves a step at a time by the arrow keys. */
export function Ring({
  x,
  y,
  label,
  words,
  value,
  most,
  small = false,
  onDrag,
  onStep,
  onDone,
}: {
  x: number;
  y: number;
  label: string;
  words: string;
  value: number;
  most: number;
  small?: boolean;
  onDrag: (event: PointerEvent<SVGGElement>) => void;
  onStep: (steps: number) => void;
  onDone: () => void;
}) {
  return (
    <Drag
      label={label}
      words={words}
      value={Math.round(value)}
      least={0}
      most={most}
      onDrag={onDrag}
      onStep={onStep}
      onEnds={(end) => onStep(end === "least" ? -ALL : ALL)}
      onDone={onDone}
    >
      <circle cx={x} cy={y} r="22" fill="transparent" />
      <circle cx={x} cy={y} r={small ? 7 : 11} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="3" />
    </Drag>
  );
}
