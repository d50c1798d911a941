import type { ButtonHTMLAttributes } from "react";
import { useMayWrite } from "../shop";

const looks = {
  main: "bg-ink text-sheet hover:opacity-90 disabled:bg-ink-soft px-5 min-h-11 font-semibold",
  plain: "border border-rule bg-sheet hover:border-ink px-3 min-h-10 pointer-coarse:min-h-11",
  text: "link hover:no-underline px-0.5 min-h-7 pointer-coarse:min-h-11",
};

/** `edits`: it changes something, which who only looks may not. */
export function Button({
  look = "plain",
  className = "",
  edits = false,
  disabled,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: keyof typeof looks; edits?: boolean }) {
  const mayWrite = useMayWrite();
  return (
    <button
      type="button"
      disabled={disabled || (edits && !mayWrite)}
      className={`rounded-(--radius) text-[0.875rem] ${looks[look]} ${className}`}
      {...rest}
    />
  );
}
