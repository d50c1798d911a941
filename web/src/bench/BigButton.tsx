import type { ButtonHTMLAttributes } from "react";
import { useMayWrite } from "../shop";

/** For a knuckle: at least 64 px high. `next` is the step that space and a pedal do too; it is one that can be taken back. */
export function BigButton({
  next = false,
  main = false,
  edits = true,
  className = "",
  disabled,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { next?: boolean; main?: boolean; edits?: boolean }) {
  const mayWrite = useMayWrite();
  return (
    <button
      type="button"
      data-next={next ? "" : undefined}
      disabled={disabled || (edits && !mayWrite)}
      className={`min-h-16 rounded-(--radius) border-2 px-6 text-[1.375rem] leading-tight font-semibold disabled:opacity-45 ${main || next ? "border-ink bg-ink text-floor" : "border-rule bg-sheet text-ink"} ${className}`}
      {...rest}
    />
  );
}
