import { askedOfPour, pourLimits } from "../../api/asked";
import type { Casting, Pour } from "../../api/client";
import { ComesAfter } from "../../job/ComesAfter";
import { newId, useJob, withMaterial, withPour, withQuantity } from "../../job/context";
import { UsePick } from "../../job/UsePick";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { Fold } from "../../ui/Fold";
import { useFault } from "../../ui/form";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { QuantityField } from "../../ui/QuantityField";
import { TextField } from "../../ui/TextField";
import { Tick } from "../../ui/Tick";
import { CLEAR, fillings, grounds, shapes } from "./pours";

/** What a casting is, its measures, what it lies in and what fills it; then what is rarer, under a fold. */
export function PourFields({ pour, index, told }: { pour: Pour; index: number; told: Casting | undefined }) {
  const { edit, document, library } = useJob();
  const { units } = useShop();
  const path = `pours.${index}`;
  const change = (next: Partial<Pour>) => edit((before) => withPour(before, pour.id, (old) => ({ ...old, ...next })));
  const measure = (field: keyof Pour, value: number | null, words: string) =>
    edit((before) => withPour(before, pour.id, (old) => withQuantity(old, field, value, words)));
  const takeFiller = (id: string) => {
    const filler = library.fillers?.find((each) => each.id === id);
    edit((before) => ({
      ...withPour(before, pour.id, (old) => ({ ...old, filler_id: id })),
      materials: {
        ...before.materials,
        fillers: filler ? withMaterial(before.materials.fillers, filler) : before.materials.fillers,
      },
    }));
  };
  return (
    <section aria-label="Measures" className="space-y-3" data-path={path}>
      <div className="grid grid-cols-[1fr_1fr_72px] items-start gap-3">
        <TextField label="Casting" path={`${path}.name`} value={pour.name} onCommit={(name) => change({ name })} />
        <Pick
          label="Its shape"
          path={`${path}.shape`}
          value={pour.shape}
          options={shapes}
          placeholder="choose"
          onChange={(shape) => change({ shape: shape as Pour["shape"] })}
        />
        <NumberField
          label="How many"
          path={`${path}.count`}
          value={pour.count}
          min={pourLimits.count[0]}
          max={pourLimits.count[1]}
          live
          onCommit={(count) => count != null && change({ count })}
        />
      </div>
      <UsePick value={pour.use_id} path={`${path}.use_id`} label="Cast in" onChange={(use_id) => change({ use_id })} />
      <div className="grid grid-cols-3 items-start gap-3">
        {askedOfPour[pour.shape].map(({ field, label, ask, example, left_out }) => (
          <QuantityField
            key={field}
            label={label}
            path={`${path}.${field}`}
            fieldKey={`${pour.id}.${field}`}
            dimension={field === "length_m" ? "length" : "thickness"}
            value={pour[field]}
            typed={pour.typed?.[field] || undefined}
            placeholder={left_out || undefined}
            example={example ?? undefined}
            optional={!ask}
            onCommit={(value, words) => measure(field, value, words)}
          />
        ))}
      </div>
      {pour.shape === "readings" && <Readings pour={pour} path={path} onChange={change} />}
      <div className="grid grid-cols-[1fr_1fr] items-start gap-3">
        <Pick
          label="It lies in"
          path={`${path}.lies_in`}
          value={pour.lies_in}
          options={grounds}
          placeholder="choose"
          onChange={(lies_in) => change({ lies_in: lies_in as Pour["lies_in"] })}
        />
        <Pick
          label="Filled with"
          path={`${path}.filled_with`}
          value={pour.filled_with || CLEAR}
          options={fillings}
          placeholder="choose"
          onChange={(with_) => change({ filled_with: with_ === CLEAR ? "" : (with_ as Pour["filled_with"]) })}
        />
        {pour.filled_with === "filler" && (
          <Pick
            label="Which filler"
            path={`${path}.filler_id`}
            value={pour.filler_id}
            options={(library.fillers ?? []).map((each) => [each.id, each.name] as const)}
            placeholder="choose"
            onChange={takeFiller}
          />
        )}
        {pour.filled_with && (
          <NumberField
            label={`How much, % of ${pour.share_of}`}
            path={`${path}.filled_share`}
            value={Math.round(1000 * pour.filled_share) / 10}
            min={100 * pourLimits.filled_share[0]}
            max={100 * pourLimits.filled_share[1]}
            onCommit={(share) => share != null && change({ filled_share: share / 100 })}
          />
        )}
      </div>
      {pour.filled_with && (
        <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
          <Choice
            label="Per cent of"
            value={pour.share_of}
            options={[
              ["the resin", "the resin"],
              ["the whole", "the whole"],
            ]}
            onChange={(share_of) => change({ share_of })}
          />
          <Choice
            label="Its volume is"
            value={pour.fill_volume}
            options={[
              ["taken off", "taken off the resin"],
              ["left over", "ignored"],
            ]}
            onChange={(fill_volume) => change({ fill_volume })}
          />
          <div className="self-end">
            <Tick
              label="first lift clear"
              path={`${path}.but_the_first`}
              checked={pour.but_the_first}
              onChange={(but_the_first) => change({ but_the_first })}
            />
          </div>
        </div>
      )}
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        <Tick label="a fan over it" path={`${path}.fan`} checked={pour.fan} onChange={(fan) => change({ fan })} />
        <Tick
          label="in the sun"
          path={`${path}.in_the_sun`}
          checked={pour.in_the_sun}
          onChange={(in_the_sun) => change({ in_the_sun })}
        />
        <Tick
          label="sealed already"
          path={`${path}.sealed`}
          checked={pour.sealed}
          onChange={(sealed) => change({ sealed })}
        />
        {document.resins.length > 1 && !pour.sealed && (
          <UsePick
            value={pour.seal_use_id ?? ""}
            path={`${path}.seal_use_id`}
            label="Open wood sealed in"
            usual="what it is cast in"
            onChange={(seal_use_id) => change({ seal_use_id })}
          />
        )}
        <Tick
          label="show face down: face layer first"
          path={`${path}.face_first`}
          checked={pour.face_first}
          onChange={(face_first) => change({ face_first })}
        />
      </div>
      <Fold
        open={pour.inserts.length > 0}
        words={`Lifts, peak, form, what is held back, what stands in it${
          pour.lift_mm || pour.held_back || pour.inserts.length ? ": set" : ""
        }`}
      >
        <div className="mt-3 grid grid-cols-2 items-start gap-3">
          <QuantityField
            label="Each lift at most"
            path={`${path}.lift_mm`}
            fieldKey={`${pour.id}.lift`}
            dimension="thickness"
            value={pour.lift_mm}
            typed={pour.typed?.lift_mm}
            placeholder={
              told?.deepest_mm ? `as it keeps cool, ${units.words("size", told.deepest_mm)}` : "as it keeps cool"
            }
            optional
            onCommit={(value, words) => measure("lift_mm", value, words)}
          />
          <QuantityField
            label="Stay under"
            path={`${path}.most_peak_c`}
            fieldKey={`${pour.id}.peak`}
            dimension="temperature"
            value={pour.most_peak_c}
            typed={pour.typed?.most_peak_c}
            onCommit={(value, words) => value != null && measure("most_peak_c", value, words)}
          />
          <QuantityField
            label="How thick the form is"
            path={`${path}.form_mm`}
            fieldKey={`${pour.id}.form`}
            dimension="thickness"
            value={pour.form_mm}
            typed={pour.typed?.form_mm}
            placeholder={told ? units.words("size", told.ground_mm) : "as usual"}
            optional
            onCommit={(value, words) => measure("form_mm", value, words)}
          />
          <NumberField
            label="Held back, %"
            path={`${path}.held_back`}
            value={Math.round(100 * pour.held_back)}
            min={100 * pourLimits.held_back[0]}
            max={100 * pourLimits.held_back[1]}
            hint="until the level is seen"
            onCommit={(share) => share != null && change({ held_back: share / 100 })}
          />
          {document.parts.length + document.joints.length + document.pours.length > 1 && (
            <ComesAfter
              id={pour.id}
              path={`${path}.comes_after`}
              value={pour.comes_after ?? []}
              onChange={(comes_after) => change({ comes_after })}
            />
          )}
        </div>
        <Inserts pour={pour} path={path} onChange={change} />
      </Fold>
    </section>
  );
}

type OnChange = (next: Partial<Pour>) => void;

/** Its widths from end to end, evenly unless each says where. */
function Readings({ pour, path, onChange }: { pour: Pour; path: string; onChange: OnChange }) {
  const { edit } = useJob();
  const fault = useFault(`${path}.readings`);
  const measure = (id: string, field: string, value: number | null, words: string) =>
    edit((before) =>
      withPour(before, pour.id, (old) => ({
        ...old,
        readings: old.readings.map((each) => (each.id === id ? withQuantity(each, field, value, words) : each)),
      })),
    );
  return (
    <section aria-label="Readings" className="space-y-1">
      <p className="lab">Its width along it, from one end to the other; evenly, unless you say where each was read.</p>
      {pour.readings.map((each, at) => (
        <div key={each.id} className="grid grid-cols-[1fr_1fr_1fr_auto] items-start gap-2">
          <QuantityField
            label={`Width ${at + 1}`}
            path={`${path}.readings.${at}.width_mm`}
            fieldKey={`${each.id}.width`}
            dimension="thickness"
            value={each.width_mm}
            typed={each.typed?.width_mm}
            onCommit={(value, words) => measure(each.id, "width_mm", value, words)}
          />
          <QuantityField
            label="read at"
            path={`${path}.readings.${at}.at_m`}
            fieldKey={`${each.id}.at`}
            dimension="length"
            value={each.at_m}
            typed={each.typed?.at_m}
            placeholder="evenly"
            optional
            onCommit={(value, words) => measure(each.id, "at_m", value, words)}
          />
          <QuantityField
            label="deep here"
            path={`${path}.readings.${at}.depth_mm`}
            fieldKey={`${each.id}.depth`}
            dimension="thickness"
            value={each.depth_mm}
            typed={each.typed?.depth_mm}
            placeholder="the same"
            optional
            onCommit={(value, words) => measure(each.id, "depth_mm", value, words)}
          />
          <Button
            edits
            look="text"
            className="mt-5"
            aria-label={`Remove reading ${at + 1}`}
            onClick={() => onChange({ readings: pour.readings.filter((other) => other.id !== each.id) })}
          >
            Remove
          </Button>
        </div>
      ))}
      {fault && <p className="text-[0.7969rem] text-resin-ink">{fault.message}</p>}
      <Button
        edits
        onClick={() =>
          onChange({
            readings: [...pour.readings, { id: newId(), at_m: null, width_mm: null, depth_mm: null, typed: {} }],
          })
        }
      >
        Add a reading
      </Button>
    </section>
  );
}

/** Blocks, end pieces, fittings: what takes room from the resin. */
function Inserts({ pour, path, onChange }: { pour: Pour; path: string; onChange: OnChange }) {
  const { edit } = useJob();
  const fault = useFault(`${path}.inserts`);
  const measure = (id: string, field: string, value: number | null, words: string) =>
    edit((before) =>
      withPour(before, pour.id, (old) => ({
        ...old,
        inserts: old.inserts.map((each) => (each.id === id ? withQuantity(each, field, value, words) : each)),
      })),
    );
  const sizes = [
    ["length_mm", "long"],
    ["width_mm", "wide"],
    ["depth_mm", "high"],
  ] as const;
  return (
    <section aria-label="What stands in it" className="mt-2 space-y-1">
      {pour.inserts.map((each, at) => (
        <div key={each.id} className="grid grid-cols-[64px_1fr_1fr_1fr_auto] items-start gap-2">
          <NumberField
            label="How many"
            path={`${path}.inserts.${at}.count`}
            value={each.count}
            min={1}
            max={1000}
            onCommit={(count) =>
              count != null &&
              onChange({ inserts: pour.inserts.map((other) => (other.id === each.id ? { ...other, count } : other)) })
            }
          />
          {sizes.map(([field, label]) => (
            <QuantityField
              key={field}
              label={label}
              path={`${path}.inserts.${at}.${field}`}
              fieldKey={`${each.id}.${field}`}
              dimension="thickness"
              value={each[field]}
              typed={each.typed?.[field]}
              onCommit={(value, words) => measure(each.id, field, value, words)}
            />
          ))}
          <Button
            edits
            look="text"
            className="mt-5"
            aria-label={`Remove block ${at + 1}`}
            onClick={() => onChange({ inserts: pour.inserts.filter((other) => other.id !== each.id) })}
          >
            Remove
          </Button>
        </div>
      ))}
      {fault && <p className="text-[0.7969rem] text-stop">{fault.message}</p>}
      <Button
        edits
        onClick={() =>
          onChange({
            inserts: [
              ...pour.inserts,
              { id: newId(), name: "", count: 1, length_mm: null, width_mm: null, depth_mm: null, typed: {} },
            ],
          })
        }
      >
        Add what stands in it
      </Button>
    </section>
  );
}
