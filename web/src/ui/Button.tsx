import type { ButtonHTMLAttributes } from "react";

const looks = {
  main: "bg-ink text-sheet hover:opacity-90 disabled:bg-ink-soft px-5 min-h-11 font-semibold",
  plain: "border border-rule bg-sheet hover:border-ink px-3 min-h-9",
  text: "link hover:no-underline px-0.5 min-h-7",
};

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: keyof typeof looks }) {
  return (
    <button type="button" className={`rounded-(--radius) text-[0.875rem] ${looks[look]} ${className}`} {...rest} />
  );
}
