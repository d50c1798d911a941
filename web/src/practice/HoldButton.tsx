import type { ReactNode } from "react";

/** Does something for as long as it is held: by a finger, a mouse, or the space bar. */
export function HoldButton({
  onDown,
  onUp,
  on,
  disabled,
  children,
}: {
  onDown: () => void;
  onUp: () => void;
  on: boolean;
  disabled?: boolean;
  children: ReactNode;
}) {
  const keys = [" ", "Enter"];
  return (
    <button
      type="button"
      disabled={disabled}
      aria-pressed={on}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        onDown();
      }}
      onPointerUp={onUp}
      onPointerCancel={onUp}
      onContextMenu={(event) => event.preventDefault()}
      onKeyDown={(event) => {
        if (!keys.includes(event.key)) return;
        event.preventDefault();
        if (!event.repeat) onDown();
      }}
      onKeyUp={(event) => keys.includes(event.key) && onUp()}
      // The next button is pressed before this one is left.
      onBlur={() => on && onUp()}
      className="min-h-16 touch-none rounded-(--radius) border-2 border-rule bg-sheet px-5 text-[1.125rem] font-semibold select-none disabled:opacity-45 aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
    >
      {children}
    </button>
  );
}
