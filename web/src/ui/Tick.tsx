import { Checkbox } from "radix-ui";
import { useId } from "react";
import { useMayWrite } from "../shop";

/** Yes or no, in a word. */
export function Tick({
  label,
  checked,
  path,
  onChange,
}: {
  label: string;
  checked: boolean;
  path?: string;
  onChange: (checked: boolean) => void;
}) {
  const id = useId();
  const mayWrite = useMayWrite();
  return (
    <div className="flex min-h-8 items-center gap-2 pointer-coarse:min-h-11" data-path={path}>
      <Checkbox.Root
        id={id}
        checked={checked}
        disabled={!mayWrite}
        onCheckedChange={(next) => onChange(next === true)}
        className="flex h-5 w-5 shrink-0 items-center justify-center rounded-(--radius) border border-ink bg-sheet data-[state=checked]:bg-ink data-[state=checked]:text-sheet"
      >
        <Checkbox.Indicator>
          <svg
            width="13"
            height="13"
            viewBox="0 0 12 12"
            fill="none"
            stroke="currentColor"
            strokeWidth="2.2"
            aria-hidden="true"
          >
            <path d="M1.5 6.5l3 3 6-7" />
          </svg>
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className="text-[0.875rem] leading-tight">
        {label}
      </label>
    </div>
  );
}
