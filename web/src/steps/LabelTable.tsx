import type { Hardener, JobSpec, StatedTime } from "../api/client";
import { plain } from "../format";
import { useJob } from "../job/context";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import { QuantityField } from "../ui/QuantityField";

type Resin = JobSpec["materials"]["resins"][number];

/** Where a label's times belong: to the hardener in hand, or to the catalyst. */
function timesOf(resin: Resin, hardener: Hardener | undefined): StatedTime[] {
  return (hardener ?? resin.catalyst)?.stated_times ?? [];
}

/** A resin whose hardener, or whose catalyst, has other times. */
function withTimes(resin: Resin, hardenerId: string | undefined, next: (old: StatedTime[]) => StatedTime[]): Resin {
  const changed = <T extends { stated_times: StatedTime[] }>(thing: T): T => ({
    ...thing,
    stated_times: next(thing.stated_times),
  });
  if (!hardenerId) return { ...resin, catalyst: resin.catalyst ? changed(resin.catalyst) : null };
  return { ...resin, hardeners: resin.hardeners.map((each) => (each.id === hardenerId ? changed(each) : each)) };
}

/** The label's table of times, typed in: the lines bend to it, and what does not fit the rest is asked about. */
export function LabelTable() {
  const { document, plan, edit } = useJob();
  const { units } = useShop();
  const chemistry = plan.chemistry;
  const at = document.materials.resins.findIndex((other) => other.id === document.chemistry.resin_id);
  const resin = document.materials.resins[at];
  if (!resin || !chemistry) return null;
  const chosen = chemistry.hardeners.find((row) => row.chosen);
  const place = resin.hardeners.findIndex((other) => other.id === chosen?.id);
  const hardener = resin.hardeners[place];
  if (!hardener && !resin.catalyst) return null;
  const times = timesOf(resin, hardener);
  const path = `materials.resins.${at}.${hardener ? `hardeners.${place}` : "catalyst"}.stated_times`;
  // Two fields may be taken at once, so each change is made to the times as they then are.
  const change = (next: (old: StatedTime[]) => StatedTime[]) =>
    edit((before) => ({
      ...before,
      materials: {
        ...before.materials,
        resins: before.materials.resins.map((other) =>
          other.id === resin.id ? withTimes(other, hardener?.id, next) : other,
        ),
      },
    }));
  const set = (row: number, part: Partial<StatedTime>) =>
    change((old) => old.map((time, other) => (other === row ? { ...time, ...part } : time)));
  const add = () =>
    change((old) => [
      ...old,
      {
        ends: hardener ? "pot life in the cup" : "gel",
        minutes: rounded(chemistry.life_min ?? 20),
        temperature_c: Math.round(plan.conditions.room_c),
        mass_g: hardener ? hardener.pot_life_mass_g : null,
        catalyst_pct: resin.catalyst?.stated_pct ?? null,
        source: "data sheet",
      },
    ]);
  return (
    <section aria-label="The label's times">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-[16px] font-semibold">The label's times{hardener ? `, ${hardener.name} hardener` : ""}</h2>
        <Button look="text" onClick={add}>
          add a time
        </Button>
      </div>
      <p className="lab">
        {times.length
          ? "The line is fitted to them: value and band. Take a time away, or type over it, and see it bend."
          : "Type what the label or the sheet tells, and the line bends to it; until then one stated time is carried."}
      </p>
      {chemistry.label_doubts?.map((doubt) => (
        <p key={doubt} className="mt-1 border-l border-mid pl-3 text-[14px]">
          {doubt}
        </p>
      ))}
      <ul className="mt-1">
        {times.map((time, row) => (
          <li
            // biome-ignore lint/suspicious/noArrayIndexKey: a time has no name but its place
            key={row}
            className="grid grid-cols-[1fr_1fr_1fr_auto] items-start gap-x-2"
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
              label={hardener ? "lives" : "gels in"}
              path={`${path}.${row}.minutes`}
              fieldKey={`${path}.${row}.min`}
              dimension="time"
              value={time.minutes}
              onCommit={(value) => value != null && set(row, { minutes: value })}
            />
            <Button
              className="mt-[22px] min-h-10"
              aria-label={`Remove the time at ${units.text("temperature", time.temperature_c)}`}
              onClick={() => change((old) => old.filter((_, other) => other !== row))}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const rounded = (value: number) => Number(plain(value));
