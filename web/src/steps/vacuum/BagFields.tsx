import type { BagResult, Part } from "../../api/client";
import { fixed } from "../../format";
import { useJob, withPart, withQuantity } from "../../job/context";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { QuantityField } from "../../ui/QuantityField";
import { Tick } from "../../ui/Tick";

type Wishes = NonNullable<Part["bag"]>;

const levels: readonly (readonly [NonNullable<Wishes["level_in"]>, string])[] = [
  ["mbar absolute", "mbar absolute"],
  ["inHg below the air", "inHg, as a gauge shows it"],
  ["% of a full vacuum", "% of a full vacuum"],
];

/** What lies in the bag, how far it is pulled, what its leak test showed. */
export function BagFields({ part, index, told }: { part: Part; index: number; told: BagResult | undefined }) {
  const { edit } = useJob();
  const wishes = part.bag as Wishes;
  const path = `parts.${index}.bag`;
  const set = (to: (now: Wishes) => Wishes) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, bag: to(old.bag as Wishes) }) as Part));
  const change = (next: Partial<Wishes>) => set((now) => ({ ...now, ...next }));
  const measure = (field: keyof Wishes, value: number | null, words: string) =>
    set((now) => withQuantity(now, field, value, words));
  const infused = part.process === "infusion";
  return (
    <section aria-label="The bag" className="space-y-3" data-path={path}>
      <div className="flex flex-wrap gap-x-6 gap-y-1">
        <Tick
          label="Peel ply"
          path={`${path}.peel_ply`}
          checked={wishes.peel_ply ?? true}
          onChange={(peel_ply) => change({ peel_ply })}
        />
        {!infused && (
          <>
            <Tick
              label="Perforated film"
              path={`${path}.perforated_film`}
              checked={wishes.perforated_film ?? false}
              onChange={(perforated_film) => change({ perforated_film })}
            />
            <Tick
              label="Breather"
              path={`${path}.breather`}
              checked={wishes.breather ?? true}
              onChange={(breather) => change({ breather })}
            />
          </>
        )}
      </div>
      {!infused && wishes.perforated_film && (
        <p className="lab">A perforated film slows what bleeds out; by how much is not reckoned with.</p>
      )}
      <div className="grid grid-cols-3 items-start gap-3">
        <NumberField
          label="Pulled down to"
          path={`${path}.level`}
          value={wishes.level}
          step={0.1}
          onCommit={(level) => level != null && change({ level })}
        />
        <div className="col-span-2">
          <Pick
            label="Read as"
            path={`${path}.level_in`}
            value={wishes.level_in ?? "mbar absolute"}
            options={levels}
            placeholder="choose"
            onChange={(level_in) => {
              const as = level_in as NonNullable<Wishes["level_in"]>;
              const same =
                told &&
                {
                  "mbar absolute": told.level_mbar,
                  "inHg below the air": told.inhg,
                  "% of a full vacuum": told.vacuum_pct,
                }[as];
              change({ level_in: as, ...(same == null ? {} : { level: Number(same.toFixed(1)) }) });
            }}
          />
        </div>
        <NumberField
          label="Pump, l/min"
          path={`${path}.pump_l_per_min`}
          value={wishes.pump_l_per_min}
          min={0.1}
          onCommit={(pump_l_per_min) => pump_l_per_min != null && change({ pump_l_per_min })}
        />
        <NumberField
          label="Air under it, l"
          path={`${path}.air_l`}
          value={wishes.air_l}
          placeholder={told ? fixed(told.air_l, 1) : ""}
          hint={wishes.air_l == null ? "memory" : ""}
          onCommit={(air_l) => change({ air_l })}
        />
        <QuantityField
          label="Stands up from its flange"
          path={`${path}.height_mm`}
          fieldKey={`${part.id}.bag_height`}
          dimension="thickness"
          value={wishes.height_mm}
          typed={wishes.typed?.height_mm}
          onCommit={(value, words) => value != null && measure("height_mm", value, words)}
        />
        <NumberField
          label="Leak test: came back, mbar"
          path={`${path}.drop_mbar`}
          value={wishes.drop_mbar}
          placeholder="not tested"
          onCommit={(drop_mbar) => change({ drop_mbar })}
        />
        <NumberField
          label="In, min, pump shut"
          path={`${path}.drop_min`}
          value={wishes.drop_min}
          onCommit={(drop_min) => drop_min != null && change({ drop_min })}
        />
        {!infused && (
          <NumberField
            label="To put it on, min"
            path={`${path}.bagging_min`}
            value={wishes.bagging_min}
            placeholder={told ? fixed(told.bagging_min, 0) : ""}
            hint={wishes.bagging_min == null ? "memory" : ""}
            onCommit={(bagging_min) => change({ bagging_min })}
          />
        )}
      </div>
    </section>
  );
}
