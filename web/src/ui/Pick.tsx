import { Select } from "radix-ui";
import { useContext } from "react";
import { useMayWrite } from "../shop";
import { FormContext } from "./form";

/** One of a list. */
export function Pick({
  label,
  value,
  options,
  onChange,
  placeholder,
  fault,
  path,
  hint,
  hideLabel = false,
  onClosed,
}: {
  label: string;
  hideLabel?: boolean;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
  placeholder: string;
  fault?: string;
  path?: string;
  hint?: string;
  /** As the list closes, which gives the cursor back to its field: what is to have it instead keeps it from that. */
  onClosed?: (event: Event) => void;
}) {
  const mayWrite = useMayWrite();
  const form = useContext(FormContext);
  const refused = path ? form?.fault(path) : null;
  return (
    <div data-path={path}>
      {!hideLabel && <div className="lab mb-1">{label}</div>}
      <Select.Root value={value} onValueChange={onChange} disabled={!mayWrite}>
        <Select.Trigger
          aria-label={label}
          data-wanted={(fault && !value) || undefined}
          className="field flex w-full items-center justify-between gap-2 text-left"
        >
          <span className="truncate">
            <Select.Value placeholder={placeholder} />
          </span>
          <Select.Icon aria-hidden className="shrink-0 text-ink-soft">
            <ListMark />
          </Select.Icon>
        </Select.Trigger>
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            onCloseAutoFocus={onClosed}
            className="z-40 max-h-80 w-(--radix-select-trigger-width) overflow-auto rounded-(--radius) border border-ink bg-sheet"
          >
            <Select.Viewport className="p-1">
              {options.map(([option, words]) => (
                <Select.Item
                  key={option}
                  value={option}
                  className="min-h-11 cursor-pointer rounded-(--radius) px-2.5 py-2.5 outline-none data-[highlighted]:bg-rule-faint data-[state=checked]:font-semibold"
                >
                  <Select.ItemText>{words}</Select.ItemText>
                </Select.Item>
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      </Select.Root>
      {refused?.refused ? (
        <p role="alert" className="mt-1 text-[0.8125rem] text-stop">
          {refused.message}
        </p>
      ) : (
        hint && <p className="lab mt-1">{hint}</p>
      )}
      {fault && !value && <p className="mt-1 text-[0.8125rem] text-resin-ink">{fault}</p>}
    </div>
  );
}

/** The sign of a list behind a field: its lines, with the one that is taken. */
const ListMark = () => (
  <svg width="14" height="12" viewBox="0 0 14 12" aria-hidden="true">
    <path d="M0 1.5h14M0 10.5h14" stroke="currentColor" strokeWidth="1.2" />
    <path d="M0 6h9" stroke="var(--color-ink)" strokeWidth="2.6" />
  </svg>
);
