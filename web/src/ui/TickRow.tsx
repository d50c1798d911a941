import { Checkbox } from "radix-ui";
import type { ReactNode } from "react";
import { useMayWrite } from "../shop";

/** A large tick for a gloved hand, with what it ticks beside it. */
export function TickRow({
  label,
  done,
  waived = false,
  lit = false,
  onToggle,
  onPoint,
  children,
  after,
}: {
  label: string;
  done: boolean;
  waived?: boolean;
  lit?: boolean;
  onToggle: () => void;
  onPoint?: (on: boolean) => void;
  children: ReactNode;
  after?: ReactNode;
}) {
  const mayWrite = useMayWrite();
  return (
    <li
      onPointerEnter={() => onPoint?.(true)}
      onPointerLeave={() => onPoint?.(false)}
      className={`flex items-stretch border-b border-rule-faint ${lit ? "bg-floor" : ""}`}
    >
      <Checkbox.Root
        checked={done}
        disabled={!mayWrite}
        aria-label={label}
        onCheckedChange={onToggle}
        className="flex min-h-13 min-w-0 flex-1 items-center gap-3 px-1.5 py-1.5 text-left hover:bg-floor"
      >
        <span
          className={`flex h-8 w-8 shrink-0 items-center justify-center rounded-(--radius) border-2 ${done ? "border-cool bg-cool text-sheet" : "border-ink bg-sheet"}`}
        >
          {done && (
            <svg
              viewBox="0 0 12 12"
              width="18"
              height="18"
              fill="none"
              stroke="currentColor"
              strokeWidth="2.2"
              aria-hidden="true"
            >
              <path d={waived ? "M2 6h8" : "M1.5 6.5l3 3 6-7"} />
            </svg>
          )}
        </span>
        <span className="min-w-0 flex-1">{children}</span>
      </Checkbox.Root>
      {after}
    </li>
  );
}
