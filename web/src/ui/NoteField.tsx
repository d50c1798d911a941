import { useEffect, useId, useState } from "react";
import { useMayWrite } from "../shop";
import { useFault } from "./form";
import { useSaid } from "./useSaid";

/** Words of several lines, kept when the field is left. */
export function NoteField({
  label,
  path,
  value,
  most,
  placeholder,
  onCommit,
}: {
  label: string;
  path: string;
  value: string;
  most: number;
  placeholder?: string;
  onCommit: (text: string) => void;
}) {
  const id = useId();
  const mayWrite = useMayWrite();
  const fault = useFault(path);
  const said = useSaid(value);
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return (
    <div data-path={path}>
      <label htmlFor={id} className="lab mb-1 block">
        {label}
      </label>
      <textarea
        id={id}
        rows={Math.min(8, Math.max(2, text.split("\n").length))}
        readOnly={!mayWrite}
        value={text}
        maxLength={most}
        placeholder={placeholder}
        aria-invalid={fault ? true : undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          if (!said.saysNew(text)) return;
          said.say(text);
          onCommit(text);
        }}
        className="field w-full py-2"
      />
      {fault && <p className="mt-0.5 text-[0.7969rem] text-stop">{fault.message}</p>}
    </div>
  );
}
