import { useRef, useState } from "react";
import type { StatedTime } from "../api/client";
import { useResinInHand } from "../job/resins";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { useLabelTimes } from "./labelTimes";

/** What a label may say ends a time; the core carries each to the gel. */
const ENDS = [
  ["gel", "it gels"],
  ["pot life in the cup", "its pot life ends"],
  ["workable in the cup", "it is workable no more"],
  ["viscosity doubled", "it is twice as thick"],
  ["peak in the cup", "it peaks"],
  ["working time as a film", "a film is workable no more"],
  ["tack free", "it is tack free"],
  ["next coat by", "the next coat must be on"],
  ["sandable", "it can be sanded"],
  ["into service", "it may be loaded"],
  ["full cure", "it is cured through"],
] as const satisfies readonly (readonly [StatedTime["ends"], string])[];

interface Typed {
  temperature_c?: number | null;
  minutes?: number | null;
}

/** The label's table of times, typed in: the lines bend to it, and what does not fit the rest is asked about. */
export function LabelTable() {
  const { told } = useResinInHand();
  const { units } = useShop();
  const label = useLabelTimes();
  const [typed, setTyped] = useState<Typed | null>(null);
  // The two figures are read beside each other: what came first may not be forgotten by what comes next.
  const sofar = useRef<Typed>({});
  if (!label) return null;
  const { times, hardener, path, set, add, remove } = label;
  const show = (next: Typed | null) => {
    sofar.current = next ?? {};
    setTyped(next);
  };
  /** An empty row becomes a time once both its figures are there. */
  const take = (figure: Typed) => {
    const next = { ...sofar.current, ...figure };
    const { temperature_c, minutes } = next;
    if (temperature_c == null || minutes == null) return show(next);
    add({ temperature_c, minutes });
    show(null);
  };
  return (
    <section aria-label="The label's times">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-[1rem] font-semibold">The label's times{hardener ? `, ${hardener.name} hardener` : ""}</h2>
        <Button look="text" onClick={() => !typed && show({})}>
          add a time
        </Button>
      </div>
      <p className="lab">
        {times.length
          ? "The line is fitted to them: value and band. Type over a time, take it away, or drag its square on the chart."
          : "Type what the label or the sheet tells, and the line bends to it; until then one stated time is carried."}
      </p>
      {told?.chemistry.label_doubts?.map((doubt) => (
        <p key={doubt} className="mt-1 border-l border-mid pl-3 text-[0.875rem]">
          {doubt}
        </p>
      ))}
      <ul className="mt-1">
        {times.map((time, row) => (
          <li
            // biome-ignore lint/suspicious/noArrayIndexKey: a time has no name but its place
            key={row}
            className="grid grid-cols-[1fr_1fr_1fr_1.25fr_auto] items-start gap-x-2"
          >
            <QuantityField
              label="At"
              path={`${path}.${row}.temperature_c`}
              fieldKey={`${path}.${row}.t`}
              dimension="temperature"
              value={time.temperature_c}
              onCommit={(value) => value != null && set(row, { temperature_c: value })}
            />
            {hardener ? (
              <QuantityField
                label="a pot of"
                path={`${path}.${row}.mass_g`}
                fieldKey={`${path}.${row}.m`}
                dimension="mass"
                value={time.mass_g}
                onCommit={(value) => set(row, { mass_g: value })}
              />
            ) : (
              <NumberField
                label="with catalyst, %"
                path={`${path}.${row}.catalyst_pct`}
                value={time.catalyst_pct}
                step={0.1}
                onCommit={(catalyst_pct) => set(row, { catalyst_pct })}
              />
            )}
            <QuantityField
              label="it takes"
              path={`${path}.${row}.minutes`}
              fieldKey={`${path}.${row}.min`}
              dimension="time"
              value={time.minutes}
              onCommit={(value) => value != null && set(row, { minutes: value })}
            />
            <Pick
              label="until"
              path={`${path}.${row}.ends`}
              value={time.ends}
              options={ENDS}
              placeholder="what ends it"
              onChange={(ends) => set(row, { ends: ends as StatedTime["ends"] })}
            />
            <Button
              edits
              className="mt-[22px] min-h-10"
              aria-label={`Remove the time at ${units.text("temperature", time.temperature_c)}`}
              onClick={() => remove(row)}
            >
              ×
            </Button>
          </li>
        ))}
        {typed && (
          <li className="grid grid-cols-[1fr_1fr_2.25fr_auto] items-start gap-x-2">
            <QuantityField
              label="At"
              path={`${path}.new.temperature_c`}
              fieldKey={`${path}.new.t`}
              dimension="temperature"
              value={typed.temperature_c}
              optional
              onCommit={(temperature_c) => take({ temperature_c })}
            />
            <QuantityField
              label="it takes"
              path={`${path}.new.minutes`}
              fieldKey={`${path}.new.min`}
              dimension="time"
              value={typed.minutes}
              optional
              onCommit={(minutes) => take({ minutes })}
            />
            <p className="lab self-center">Type both: it counts from then on.</p>
            <Button className="mt-[22px] min-h-10" aria-label="Remove the empty row" onClick={() => show(null)}>
              ×
            </Button>
          </li>
        )}
      </ul>
    </section>
  );
}
