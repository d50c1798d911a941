import { useEffect, useId, useRef, useState } from "react";
import { useMayWrite } from "../shop";
import { useFault } from "./form";
import { useSaid } from "./useSaid";

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
  const said = useSaid(shown);
  const [text, setText] = useState(shown);
  const within = useRef(false);
  useEffect(() => {
    // What comes back while the next is being typed does not take its place.
    if (!within.current) setText(shown);
  }, [shown]);
  const commit = (typed: string) => {
    const words = typed.trim();
    if (!said.saysNew(words)) return;
    said.say(words);
    onCommit(words === "" ? null : Number(words));
  };
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
        value={text}
        aria-invalid={fault ? true : undefined}
        aria-describedby={`${id}-note`}
        onFocus={() => {
          within.current = true;
        }}
        onChange={(event) => {
          setText(event.target.value);
          if (live && event.target.value) commit(event.target.value);
        }}
        onBlur={(event) => {
          within.current = false;
          if (!live) commit(event.target.value);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className={`field fig w-full ${large ? "min-h-12 text-[1.375rem]" : "text-[1rem]"}`}
      />
      <p id={`${id}-note`} className={`mt-0.5 text-[0.7969rem] ${fault ? "text-stop" : "text-ink-soft"}`}>
        {fault?.message ?? hint}
      </p>
    </div>
  );
}
