import type { Part } from "../../api/client";
import { useJob, withPart, withQuantity } from "../../job/context";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { QuantityField } from "../../ui/QuantityField";
import { Tick } from "../../ui/Tick";

type Wishes = NonNullable<Part["finish"]>;
type To = NonNullable<Wishes["to"]>;

export const FINISHED_TO: readonly (readonly [To | "nothing", string])[] = [
  ["nothing", "as it is laid"],
  ["ready to bond", "ready to bond"],
  ["under paint", "ready for paint"],
  ["under varnish", "ready for varnish"],
  ["clear, matt", "clear, matt"],
  ["clear, gloss", "clear, gloss"],
];

/** What a part is finished to, from what, with what on top. */
export function FinishFields({ part, index }: { part: Part; index: number }) {
  const { edit } = useJob();
  const { units } = useShop();
  const wishes = part.finish as Wishes;
  const path = `parts.${index}.finish`;
  const set = (to: (now: Wishes) => Wishes) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, finish: to(old.finish as Wishes) }) as Part));
  const change = (next: Partial<Wishes>) => set((now) => ({ ...now, ...next }));
  const low = wishes.low_mm ?? [];
  return (
    <section aria-label="The finish" className="space-y-3" data-path={path}>
      <Pick
        label="Finished to"
        path={`${path}.to`}
        value={wishes.to || "nothing"}
        options={FINISHED_TO}
        placeholder="choose"
        onChange={(to) => change({ to: (to === "nothing" ? "" : to) as To })}
      />
      <Pick
        label="Its surface as it is"
        path={`${path}.now`}
        value={wishes.now ?? "weave or brush marks"}
        options={[
          ["old laminate", "old laminate, to be ground"],
          ["weave or brush marks", "weave or brush marks"],
          ["filled", "filled, and cured"],
          ["from a mould", "as it came from a mould"],
        ]}
        placeholder="choose"
        onChange={(now) => change({ now: now as Wishes["now"] })}
      />
      <Choice
        label="Its edge is trimmed"
        value={wishes.trim || "none"}
        options={[
          ["none", "no"],
          ["knife, while green", "with a knife, green"],
          ["saw, when hard", "with a saw, hard"],
        ]}
        onChange={(trim) => change({ trim: (trim === "none" ? "" : trim) as Wishes["trim"] })}
      />
      <Tick
        label="Sand all of it wet: it is not fully hard, or its dust harms"
        path={`${path}.wet`}
        checked={wishes.wet ?? false}
        onChange={(wet) => change({ wet })}
      />
      <fieldset className="space-y-2 border-t border-rule-faint pt-2">
        <legend className="lab">Gaps under a batten, read in several places</legend>
        <div className="flex flex-wrap gap-2">
          {low.map((gap, at) => (
            <Button
              // biome-ignore lint/suspicious/noArrayIndexKey: readings alike are told apart by their place only
              key={at}
              edits
              className="min-h-11"
              aria-label={`Take away ${units.words("thickness", gap)}`}
              onClick={() => change({ low_mm: low.filter((_, other) => other !== at) })}
            >
              <span className="fig">{units.words("thickness", gap)}</span> ×
            </Button>
          ))}
        </div>
        <div className="grid grid-cols-2 items-start gap-3">
          <QuantityField
            key={low.length}
            label="One more"
            path={`${path}.low_mm`}
            fieldKey={`${part.id}.finish.low`}
            dimension="thickness"
            value={null}
            placeholder="none"
            optional
            onCommit={(gap) => gap != null && set((now) => ({ ...now, low_mm: [...(now.low_mm ?? []), gap] }))}
          />
          {low.length > 0 && (
            <QuantityField
              label="Over"
              path={`${path}.faired_m2`}
              fieldKey={`${part.id}.finish.faired_m2`}
              dimension="area"
              value={wishes.faired_m2}
              typed={wishes.typed?.faired_m2}
              placeholder="all of it"
              optional
              onCommit={(faired_m2, words) => set((now) => withQuantity(now, "faired_m2", faired_m2, words))}
            />
          )}
        </div>
        {low.length > 0 && (
          <Choice
            label="Filled with"
            value={wishes.fairing ?? "epoxy"}
            options={[
              ["epoxy", "epoxy filler"],
              ["polyester", "polyester filler"],
            ]}
            onChange={(fairing) => change({ fairing })}
          />
        )}
      </fieldset>
      <div className="grid grid-cols-2 items-start gap-3 border-t border-rule-faint pt-2 sm:grid-cols-3">
        <Pick
          label="Then comes"
          path={`${path}.topped`}
          value={wishes.topped || "nothing"}
          options={[
            ["nothing", "nothing more"],
            ["paint", "paint"],
            ["varnish", "varnish"],
            ["oil", "oil"],
            ["wax", "wax"],
          ]}
          placeholder="choose"
          onChange={(topped) => change({ topped: (topped === "nothing" ? "" : topped) as Wishes["topped"] })}
        />
        {wishes.topped && (
          <>
            <NumberField
              label="Coats"
              path={`${path}.top_coats`}
              value={wishes.top_coats}
              step={1}
              min={1}
              max={12}
              onCommit={(top_coats) => top_coats != null && change({ top_coats })}
            />
            <NumberField
              label="Hours between"
              path={`${path}.hours_between`}
              value={wishes.hours_between}
              step={0.5}
              onCommit={(hours_between) => hours_between != null && change({ hours_between })}
            />
          </>
        )}
        <NumberField
          label="Fittings, min"
          path={`${path}.fittings_min`}
          value={wishes.fittings_min}
          placeholder="none"
          step={5}
          onCommit={(fittings_min) => change({ fittings_min })}
        />
        <NumberField
          label="Our min a m² and grit"
          path={`${path}.own_min_per_m2`}
          value={wishes.own_min_per_m2}
          placeholder="from memory"
          step={0.5}
          onCommit={(own_min_per_m2) => change({ own_min_per_m2 })}
        />
      </div>
    </section>
  );
}
