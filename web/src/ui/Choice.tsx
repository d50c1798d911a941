import { RadioGroup } from "radix-ui";
import { useMayWrite } from "../shop";

/** One of a few words, all in sight; the arrow keys choose. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  hideLabel = false,
  small = false,
  looks = false,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  hideLabel?: boolean;
  small?: boolean;
  /** It changes only what is looked at. */
  looks?: boolean;
}) {
  const mayWrite = useMayWrite();
  return (
    <div>
      {!hideLabel && <div className="lab mb-1">{label}</div>}
      <RadioGroup.Root
        aria-label={label}
        value={value}
        disabled={!looks && !mayWrite}
        onValueChange={(next) => onChange(next as T)}
        className="inline-flex flex-wrap rounded-(--radius) border border-b-2 border-rule border-b-ink-soft bg-sheet"
      >
        {options.map(([option, words]) => (
          <RadioGroup.Item
            key={option}
            value={option}
            className={`enabled:hover:bg-rule-faint data-[state=checked]:bg-ink data-[state=checked]:text-sheet ${small ? "min-h-8 px-2 text-[0.8125rem] whitespace-nowrap pointer-coarse:min-h-11" : "min-h-11 px-3 text-[0.875rem]"}`}
          >
            {words}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </div>
  );
}
