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
          className={`flex min-h-10 w-full items-center justify-between gap-2 rounded-(--radius) border bg-sheet px-3 text-left ${fault && !value ? "border-mid" : "border-rule"} hover:border-ink`}
        >
          <span className="truncate">
            <Select.Value placeholder={placeholder} />
          </span>
          <Select.Icon aria-hidden className="text-ink-soft">
            ▾
          </Select.Icon>
        </Select.Trigger>
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            className="z-40 max-h-80 w-(--radix-select-trigger-width) overflow-auto rounded-(--radius) border border-ink bg-sheet"
          >
            <Select.Viewport className="p-1">
              {options.map(([option, words]) => (
                <Select.Item
                  key={option}
                  value={option}
                  className="min-h-9 cursor-pointer rounded-(--radius) px-2.5 py-2 outline-none data-[highlighted]:bg-rule-faint data-[state=checked]:font-semibold"
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
