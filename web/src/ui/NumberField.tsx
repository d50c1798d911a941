import { useId } from "react";
import { useMayWrite } from "../shop";
import { useFault } from "./form";

/** A bare number whose unit stands in its label: a count, a share. Kept when the field is left. */
export function NumberField({
  label,
  path,
  value,
  placeholder,
  step = 1,
  min,
  max,
  large = false,
  hint = "",
  live = false,
  onCommit,
}: {
  label: string;
  path: string;
  value: number | null | undefined;
  placeholder?: string;
  step?: number;
  min?: number;
  max?: number;
  large?: boolean;
  hint?: string;
  /** Kept with every change instead of on leaving. */
  live?: boolean;
  onCommit: (value: number | null) => void;
}) {
  const id = useId();
  const mayWrite = useMayWrite();
  const fault = useFault(path);
  const shown = String(value ?? "");
  // A field that was only passed through says nothing.
  const commit = (text: string) => text.trim() !== shown && onCommit(text.trim() === "" ? null : Number(text));
  return (
    <div className="min-w-0" data-path={path}>
      <label htmlFor={id} className="lab mb-1 block">
        {label}
      </label>
      <input
        id={id}
        readOnly={!mayWrite}
        type="number"
        inputMode="decimal"
        step={step}
        min={min}
        max={max}
        placeholder={placeholder}
        key={live ? "live" : shown}
        defaultValue={value ?? ""}
        aria-invalid={fault ? true : undefined}
        aria-describedby={`${id}-note`}
        onChange={(event) => live && event.target.value && commit(event.target.value)}
        onBlur={(event) => !live && commit(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className={`fig w-full rounded-(--radius) border bg-sheet px-2.5 read-only:bg-floor hover:border-ink ${large ? "min-h-12 text-[1.375rem]" : "min-h-10 text-[1rem]"} ${fault ? "border-stop" : "border-rule"}`}
      />
      <p id={`${id}-note`} className={`mt-0.5 text-[0.7969rem] ${fault ? "text-stop" : "text-ink-soft"}`}>
        {fault?.message ?? hint}
      </p>
    </div>
  );
}
