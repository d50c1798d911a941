import type { Part, Stiffened } from "../../api/client";
import { StiffSection } from "../../drawing/StiffSection";
import { fixed } from "../../format";
import { newId, useJob, withPart, withQuantity } from "../../job/context";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Figure } from "../../ui/Figure";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { QuantityField } from "../../ui/QuantityField";
import { TextField } from "../../ui/TextField";

type Found = NonNullable<Part["found"]>;
type OldLayer = NonNullable<Found["layers"]>[number];
type MadeOf = NonNullable<OldLayer["made_of"]>;

const madeOf: readonly (readonly [MadeOf, string])[] = [
  ["plywood", "plywood"],
  ["timber", "timber"],
  ["foam", "foam"],
  ["end-grain balsa", "end-grain balsa"],
  ["mat laminate", "mat laminate"],
  ["woven laminate", "woven laminate"],
  ["mat and woven laminate", "mat and woven laminate"],
  ["carbon laminate", "carbon laminate"],
];

const ways: Record<Stiffened["others"][number]["way"], (core: string) => string> = {
  "other face": () => "half of it on the other face",
  "core between": (core) => `with ${core} of foam under it`,
  "biaxial for mat": () => "its mat as biaxial, 0/90",
  "twice as much": () => "twice as much of it",
};

const times = (value: number) => fixed(value, value < 10 ? 1 : 0);

/** What lies there under the plies of a part, as somebody found it, and how it gave under a load. */
export function StifferFields({ part, index }: { part: Part; index: number }) {
  const { edit } = useJob();
  const found = part.found as Found;
  const layers = found.layers ?? [];
  const path = `parts.${index}.found`;
  const setFound = (to: (now: Found) => Found) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, found: to(old.found as Found) }) as Part));
  const change = (next: Partial<Found>) => setFound((now) => ({ ...now, ...next }));
  const setLayer = (id: string, to: (now: OldLayer) => OldLayer) =>
    setFound((now) => ({ ...now, layers: now.layers?.map((layer) => (layer.id === id ? to(layer) : layer)) }));
  const set = (id: string, next: Partial<OldLayer>) => setLayer(id, (now) => ({ ...now, ...next }));
  const add = () =>
    change({ layers: [...layers, { id: newId(), made_of: "plywood", thickness_mm: null } as OldLayer] });
  if (!layers.length)
    return (
      <p className="border-t border-rule pt-3">
        <span className="mr-3">Does it go over something that gives, such as a springy deck?</span>
        <Button edits onClick={add}>
          Tell how much stiffer it gets
        </Button>
      </p>
    );
  return (
    <section aria-label="What lies there" className="space-y-3 border-t border-rule pt-3" data-path={path}>
      <h2 className="text-[0.9375rem] font-semibold">What lies there, from the far side</h2>
      {layers.map((layer, at) => (
        <div key={layer.id} className="grid grid-cols-[1.4fr_1fr_1fr_auto] items-start gap-3">
          <Pick
            label="Made of"
            value={layer.made_of ?? "plywood"}
            placeholder="choose"
            path={`${path}.layers.${at}.made_of`}
            options={madeOf}
            onChange={(made_of) => set(layer.id, { made_of: made_of as MadeOf })}
          />
          <QuantityField
            label="Thick"
            path={`${path}.layers.${at}.thickness_mm`}
            fieldKey={`${part.id}.${layer.id}.thick`}
            dimension="thickness"
            value={layer.thickness_mm}
            typed={layer.typed?.thickness_mm}
            optional
            onCommit={(value, words) => setLayer(layer.id, (now) => withQuantity(now, "thickness_mm", value, words))}
          />
          <NumberField
            label="Modulus, GPa"
            path={`${path}.layers.${at}.modulus_gpa`}
            value={layer.modulus_gpa}
            placeholder="memory"
            min={0.001}
            max={400}
            onCommit={(modulus_gpa) => set(layer.id, { modulus_gpa })}
          />
          <Button
            edits
            look="text"
            className="mt-7"
            onClick={() => change({ layers: layers.filter((other) => other.id !== layer.id) })}
          >
            Remove
          </Button>
        </div>
      ))}
      <Button edits onClick={add}>
        Add a layer on it
      </Button>
      <h2 className="pt-1 text-[0.9375rem] font-semibold">Bounce test: the same person at the same place</h2>
      <div className="grid grid-cols-3 items-start gap-3">
        <QuantityField
          label="Gave before"
          path={`${path}.gave_before_mm`}
          fieldKey={`${part.id}.gave_before`}
          dimension="thickness"
          value={found.gave_before_mm}
          typed={found.typed?.gave_before_mm}
          placeholder="not tried"
          optional
          onCommit={(value, words) => setFound((now) => withQuantity(now, "gave_before_mm", value, words))}
        />
        <QuantityField
          label="Gives after"
          path={`${path}.gave_after_mm`}
          fieldKey={`${part.id}.gave_after`}
          dimension="thickness"
          value={found.gave_after_mm}
          typed={found.typed?.gave_after_mm}
          placeholder="not tried"
          optional
          onCommit={(value, words) => setFound((now) => withQuantity(now, "gave_after_mm", value, words))}
        />
        <TextField
          label="Who, and where"
          path={`${path}.tried_with`}
          value={found.tried_with ?? ""}
          onCommit={(tried_with) => change({ tried_with })}
        />
      </div>
    </section>
  );
}

/** How many times as stiff, drawn in section, with what would give more. */
export function Stiffer({ told }: { told: Stiffened }) {
  const { units } = useShop();
  const most = Math.max(told.times, ...told.others.map((other) => other.times));
  const rows: [string, number, boolean][] = [
    ["as it is planned", told.times, true],
    ...told.others.map((other): [string, number, boolean] => [
      ways[other.way](units.text("size", other.core_mm ?? 0)),
      other.times,
      false,
    ]),
  ];
  return (
    <section aria-label="How much stiffer" className="mt-4 border-t border-rule pt-3">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <Figure name="A strip of it is" number={times(told.times)} unit="times as stiff" size={46} />
        <p className="pb-1 text-[0.9375rem]">
          From <b className="fig font-semibold">{times(told.low)}</b> to{" "}
          <b className="fig font-semibold">{times(told.high)}</b> times as before, as far as its moduli are known.
          {told.seen_times != null && (
            <>
              {" "}
              The bounce test says <b className="fig font-semibold">{times(told.seen_times)}</b>
              {told.seen_within
                ? ", within that."
                : ": outside that. Does it bend there as a strip, or give at its edges?"}
            </>
          )}
        </p>
      </div>
      <StiffSection told={told} />
      <h2 className="mt-1 text-[0.9375rem] font-semibold">What else would do</h2>
      <ul className="mt-1">
        {rows.map(([words, value, planned]) => (
          <li key={words} className="grid grid-cols-[13rem_1fr_3.5rem] items-center gap-3 py-0.5">
            <span className={planned ? "font-semibold" : ""}>{words}</span>
            <span className="h-3 bg-rule-faint">
              <span
                className={`block h-3 ${planned ? "bg-ink" : "bg-cool"}`}
                style={{ width: `${(100 * value) / most}%` }}
              />
            </span>
            <span className="fig text-right">{times(value)} ×</span>
          </li>
        ))}
      </ul>
      <p className="lab mt-1">
        A comparison of one strip, not a proof of strength: how strong a deck must be is for its designer or surveyor.
        What a soft core gives way in shear is not reckoned with.
      </p>
    </section>
  );
}
