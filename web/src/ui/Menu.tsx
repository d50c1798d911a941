import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

const row =
  "flex min-h-9 cursor-pointer items-center gap-2 rounded-(--radius) px-3 py-1.5 text-[0.9062rem] outline-none data-[highlighted]:bg-rule-faint";

/** A short list that hangs from a button. */
export function Menu({ label, face, children }: { label: string; face: ReactNode; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={label}
        title={label}
        className="flex min-h-9 min-w-9 shrink-0 items-center justify-center rounded-full border border-rule bg-sheet text-[0.9375rem] font-semibold hover:border-ink"
      >
        {face}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="z-40 max-h-[85dvh] min-w-[210px] overflow-auto rounded-(--radius) border border-ink bg-sheet p-1.5"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export function MenuItem({ children, onSelect }: { children: ReactNode; onSelect: () => void }) {
  return (
    <DropdownMenu.Item className={row} onSelect={onSelect}>
      {children}
    </DropdownMenu.Item>
  );
}

export function MenuChoice<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  return (
    <DropdownMenu.RadioGroup value={value} onValueChange={(next) => onChange(next as T)}>
      <DropdownMenu.Label className="lab px-3 pt-1.5">{label}</DropdownMenu.Label>
      {options.map(([option, words]) => (
        <DropdownMenu.RadioItem key={option} value={option} className={row}>
          <span className="h-2 w-2 rounded-full border border-ink in-data-[state=checked]:bg-ink" />
          {words}
        </DropdownMenu.RadioItem>
      ))}
    </DropdownMenu.RadioGroup>
  );
}

export function MenuRule() {
  return <DropdownMenu.Separator className="my-1.5 h-px bg-rule" />;
}
