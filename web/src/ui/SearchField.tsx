import { useId } from "react";

/** Words to look for, as they are typed. */
export function SearchField({
  label,
  value,
  onChange,
  autoFocus = false,
}: {
  label: string;
  value: string;
  onChange: (words: string) => void;
  autoFocus?: boolean;
}) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="lab mb-1 block">
        {label}
      </label>
      <input
        id={id}
        type="search"
        autoComplete="off"
        maxLength={120}
        // biome-ignore lint/a11y/noAutofocus: the page is opened to type here
        autoFocus={autoFocus}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="field w-full"
      />
    </div>
  );
}
