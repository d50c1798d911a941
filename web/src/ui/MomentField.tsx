import { useEffect, useId, useState } from "react";
import { useMayWrite, useShop } from "../shop";
import { useMoment } from "./useMoment";

/** A day and an hour by the shop's clock, typed as one says it. Words it cannot take stay as typed. */
export function MomentField({
  label,
  value,
  fault,
  placeholder,
  onCommit,
}: {
  label: string;
  value: number | null;
  fault?: string;
  placeholder?: string;
  onCommit: (ms: number | null) => void;
}) {
  const { moment } = useShop();
  const id = useId();
  const mayWrite = useMayWrite();
  const shown = value === null ? "" : moment(value);
  const [typed, type] = useState(shown);
  const { read, error } = useMoment(false);
  useEffect(() => type(shown), [shown]);
  async function take() {
    if (typed.trim() === shown) return;
    const ms = await read(typed);
    if (ms === undefined) return;
    if (ms !== null) type(moment(ms));
    if (ms !== value) onCommit(ms);
  }
  const said = error || fault;
  return (
    <div>
      <label htmlFor={id} className="lab mb-1 block">
        {label}
      </label>
      <input
        id={id}
        readOnly={!mayWrite}
        autoComplete="off"
        value={typed}
        placeholder={placeholder}
        aria-invalid={!!said}
        aria-describedby={said ? `${id}-fault` : undefined}
        onChange={(event) => type(event.target.value)}
        onFocus={(event) => event.target.select()}
        onBlur={() => void take()}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="field fig w-full text-[1.0625rem]"
      />
      {said && (
        <p id={`${id}-fault`} role="alert" className="text-[0.8125rem] text-stop">
          {said}
        </p>
      )}
    </div>
  );
}
