import { useEffect, useId, useRef, useState } from "react";
import type { Dimension } from "../api/client";
import { plain } from "../format";
import { useMayWrite, useShop } from "../shop";
import { useFault, useForm } from "./form";
import { useReading } from "./useReading";
import { useSaid } from "./useSaid";

interface Props {
  label: string;
  /** Where a refusal names it, such as parts.0.shape.width_m. */
  path: string;
  /** A key that stays with the thing, not its place. */
  fieldKey: string;
  dimension: Dimension;
  /** The unit of `value`, where it is not the core's own for this dimension. */
  unit?: string;
  value: number | null | undefined;
  typed?: string;
  placeholder?: string;
  /** A value of the trade in the core's unit, shown in the reader's while the field is empty. */
  example?: number;
  optional?: boolean;
  large?: boolean;
  hideLabel?: boolean;
  onCommit: (value: number | null, typed: string) => void;
}

/** A field that takes a quantity in any unit and shows what it understood. Words it cannot take stay as typed. */
export function QuantityField(props: Props) {
  const {
    label,
    path,
    fieldKey,
    dimension,
    unit,
    value,
    typed,
    placeholder,
    example,
    optional,
    large,
    hideLabel,
    onCommit,
  } = props;
  const { units } = useShop();
  const { pending } = useForm();
  const fault = useFault(path);
  const id = useId();
  const mayWrite = useMayWrite();
  const printed = value == null ? "" : unit ? `${plain(value)} ${unit}` : units.fieldText(dimension, value);
  const shown = (units.asTyped || value == null ? typed : undefined) ?? printed;
  const [text, setText] = useState(pending.get(fieldKey) ?? shown);
  const { read, error, clear, understood } = useReading(dimension, unit);
  const focused = useRef(false);
  const said = useSaid(shown);

  useEffect(() => {
    if (!focused.current && pending.get(fieldKey) === undefined) setText(shown);
  }, [shown, fieldKey, pending]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: words kept from an earlier visit are read once, on arrival
  useEffect(() => {
    const words = pending.get(fieldKey);
    if (words !== undefined) void read(words);
  }, []);

  async function commit() {
    const words = text.trim();
    if (!said.saysNew(words)) {
      pending.drop(fieldKey);
      return clear();
    }
    const read_ = await read(words);
    if (read_ === undefined) return;
    pending.drop(fieldKey);
    said.say(words);
    onCommit(read_, words);
  }

  // Words that were refused on an earlier visit still stand in the field, and the plan waits for their value.
  const stands = fault && !fault.refused && value == null && text.trim() !== "" && text === shown;
  const message = error || (fault?.refused || stands ? fault.message : "");
  const waiting = !message && fault && !text.trim() ? fault.message : "";
  const note = message || waiting || understood;
  return (
    <div className="min-w-0" data-path={path}>
      <label htmlFor={id} className={hideLabel ? "sr-only" : "lab mb-1 block"}>
        {label}
      </label>
      <input
        id={id}
        readOnly={!mayWrite}
        value={text}
        placeholder={example == null ? placeholder : units.example(dimension, example)}
        autoComplete="off"
        inputMode="text"
        aria-invalid={message ? true : undefined}
        aria-describedby={`${id}-note`}
        onFocus={() => {
          focused.current = true;
        }}
        onChange={(event) => {
          const words = event.target.value;
          setText(words);
          pending.set(fieldKey, words);
          void read(words);
        }}
        onBlur={() => {
          focused.current = false;
          void commit();
        }}
        onKeyDown={(event) => event.key === "Enter" && void commit()}
        data-wanted={(waiting && !optional) || undefined}
        className={`field fig w-full ${large ? "min-h-12 text-[1.375rem]" : "text-[1rem]"}`}
      />
      <p
        id={`${id}-note`}
        aria-live="polite"
        className={`mt-0.5 min-h-[1.125rem] text-[0.7969rem] leading-[1.125rem] ${message ? "text-stop" : waiting ? "text-resin-ink" : "text-cool"}`}
      >
        {note}
      </p>
    </div>
  );
}
