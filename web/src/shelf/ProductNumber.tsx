import { useEffect, useId, useState } from "react";
import type { Dimension, ProductField } from "../api/client";
import { plain, readNumber } from "../format";
import { useFault } from "../ui/form";
import { useReading } from "../ui/useReading";

const small = "field px-1.5 text-[0.875rem]";

/** A number off a label: its figures on the number pad, the unit it is printed in, and where it comes from. */
export function ProductNumber({
  field,
  path,
  value,
  source,
  sources,
  onChange,
  onSource,
}: {
  field: ProductField;
  path: string;
  value: unknown;
  source: string | undefined;
  sources: string[];
  onChange: (value: number | string | null) => void;
  onSource: (source: string) => void;
}) {
  const id = useId();
  const fault = useFault(path);
  const [unit, setUnit] = useState(field.unit);
  const printed = typeof value === "number" ? plain(value) : ((value as string | null) ?? "");
  const [text, setText] = useState(printed);
  const { read, error, understood } = useReading((field.dimension ?? "mass") as Dimension, field.unit);
  // A value put there by something else than this field's own typing is shown in the product's own unit.
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is typed must not be overwritten by what it was read as
  useEffect(() => {
    if (unit === field.unit) setText(printed);
  }, [printed]);

  async function take(words: string, inUnit: string) {
    const typed = readNumber(words);
    // A ratio goes on as it was typed; what was understood of it, with its order, stands under it.
    if (field.dimension === "ratio") void read(words);
    if (inUnit === field.unit || typeof typed !== "number") return onChange(typed);
    const taken = await read(`${words} ${inUnit}`);
    if (typeof taken === "number") onChange(Number(taken.toPrecision(8)));
  }

  const message = error || fault?.message;
  return (
    <div className="min-w-0" data-path={path}>
      <label htmlFor={id} className="lab mb-1 block first-letter:uppercase">
        {field.label}

        {field.hint && <span className="font-normal"> · {field.hint}</span>}
      </label>
      <div className="flex min-w-0 gap-1.5">
        <input
          id={id}
          value={text}
          inputMode="decimal"
          autoComplete="off"
          aria-required={field.required}
          aria-invalid={message ? true : undefined}
          aria-describedby={`${id}-note`}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => void take(text, unit)}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
          className={`fig min-h-11 w-full min-w-0 flex-1 rounded-(--radius) border bg-sheet px-2.5 text-[1.125rem] hover:border-ink ${message ? "border-stop" : "border-rule"}`}
        />
        {field.units.length > 1 ? (
          <select
            aria-label={`${field.label}, unit`}
            value={unit}
            onChange={(event) => {
              setUnit(event.target.value);
              if (text) void take(text, event.target.value);
            }}
            className={small}
          >
            {field.units.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        ) : (
          field.unit && <span className="lab self-center whitespace-nowrap">{field.unit}</span>
        )}
        {field.sourced && (
          <select
            aria-label={`${field.label}, where from`}
            value={source ?? "data sheet"}
            onChange={(event) => onSource(event.target.value)}
            className={`${small} max-w-[140px] text-ink-soft`}
          >
            {[...new Set([...sources, source ?? "data sheet"])].map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        )}
      </div>
      <p id={`${id}-note`} className={`mt-0.5 text-[0.7969rem] ${message ? "text-stop" : "text-cool"}`}>
        {message ?? understood}
      </p>
    </div>
  );
}
