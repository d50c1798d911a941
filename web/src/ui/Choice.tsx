import { ToggleGroup } from "radix-ui";

/** One of a few words, all in sight. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  hideLabel = false,
  small = false,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  hideLabel?: boolean;
  small?: boolean;
}) {
  return (
    <div>
      {!hideLabel && <div className="lab mb-1">{label}</div>}
      <ToggleGroup.Root
        type="single"
        aria-label={label}
        value={value}
        onValueChange={(next) => next && onChange(next as T)}
        className="inline-flex flex-wrap rounded-(--radius) border border-rule bg-sheet"
      >
        {options.map(([option, words]) => (
          <ToggleGroup.Item
            key={option}
            value={option}
            className={`hover:bg-rule-faint data-[state=on]:bg-ink data-[state=on]:text-sheet ${small ? "min-h-8 px-2 text-[13px] whitespace-nowrap" : "min-h-9 px-3 text-[14px]"}`}
          >
            {words}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
