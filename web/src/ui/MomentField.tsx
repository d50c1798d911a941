import { useEffect, useId, useState } from "react";
import { useMayWrite } from "../shop";
import { fieldOf, momentOf } from "../zoned";

/** A date and a time by the shop's clock. */
export function MomentField({
  label,
  value,
  timeZone,
  fault,
  onCommit,
}: {
  label: string;
  value: number | null;
  timeZone: string;
  fault?: string;
  onCommit: (ms: number) => void;
}) {
  const id = useId();
  const mayWrite = useMayWrite();
  const [typed, type] = useState("");
  useEffect(() => type(value === null ? "" : fieldOf(value, timeZone)), [value, timeZone]);
  const take = () => {
    const ms = momentOf(typed, timeZone);
    if (ms !== null && ms !== value) onCommit(ms);
  };
  return (
    <div>
      <label htmlFor={id} className="lab mb-1 block">
        {label}
      </label>
      <input
        id={id}
        type="datetime-local"
        readOnly={!mayWrite}
        value={typed}
        aria-invalid={!!fault}
        aria-describedby={fault ? `${id}-fault` : undefined}
        onChange={(event) => type(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === "Enter" && take()}
        className="min-h-9 w-full rounded-(--radius) border border-rule bg-sheet px-2 text-[0.9375rem] aria-invalid:border-stop"
      />
      {fault && (
        <p id={`${id}-fault`} role="alert" className="text-[0.8125rem] text-stop">
          {fault}
        </p>
      )}
    </div>
  );
}
