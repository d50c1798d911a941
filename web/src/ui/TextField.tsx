import { useEffect, useId, useState } from "react";
import { useMayWrite } from "../shop";
import { useFault } from "./form";
import { useSaid } from "./useSaid";

/** Plain words, kept when the field is left. */
export function TextField({
  label,
  path,
  value,
  onCommit,
  placeholder,
  hideLabel = false,
  className = "",
  list,
  hint = "",
}: {
  label: string;
  path: string;
  value: string;
  onCommit: (text: string) => void;
  placeholder?: string;
  hideLabel?: boolean;
  className?: string;
  /** The id of a datalist with words to choose from. */
  list?: string;
  /** What was understood of the words, under them. */
  hint?: string;
}) {
  const id = useId();
  const mayWrite = useMayWrite();
  const fault = useFault(path);
  const said = useSaid(value);
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return (
    <div className="min-w-0" data-path={path}>
      <label htmlFor={id} className={hideLabel ? "sr-only" : "lab mb-1 block"}>
        {label}
      </label>
      <input
        id={id}
        readOnly={!mayWrite}
        value={text}
        placeholder={placeholder}
        autoComplete="off"
        list={list}
        aria-invalid={fault ? true : undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          if (!said.saysNew(text)) return;
          said.say(text);
          onCommit(text);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className={`field w-full ${className}`}
      />
      {(fault || hint) && (
        <p className={`mt-0.5 text-[0.7969rem] ${fault ? "text-stop" : "text-cool"}`}>{fault?.message ?? hint}</p>
      )}
    </div>
  );
}
