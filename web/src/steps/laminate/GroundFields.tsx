import type { Part } from "../../api/client";
import { ComesAfter } from "../../job/ComesAfter";
import { useJob, withPart } from "../../job/context";
import { Choice } from "../../ui/Choice";
import { Fold } from "../../ui/Fold";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { TextField } from "../../ui/TextField";
import { Tick } from "../../ui/Tick";
import { FINISHED_TO } from "../finish/FinishFields";

type Ground = Part["ground"];

const ticks: readonly (readonly [keyof Ground, string])[] = [
  ["washed_and_abraded", "washed and abraded"],
  ["contaminated", "oil, wax or silicone nearby"],
  ["sharp_corner", "sharp inside corners"],
  ["plastic_fittings", "plastic fittings in it"],
  ["afloat", "lies in the water"],
  ["show_face", "a show face"],
];

const later = [
  ["nothing", "nothing more"],
  ["gel coat", "gel coat"],
  ["polyester", "polyester"],
  ["epoxy", "epoxy"],
  ["paint", "paint"],
] as const;

/** How the part is laid and what it is laid on, as found; what comes over it later. The cautions read this. */
export function GroundFields({ part, index }: { part: Part; index: number }) {
  const { edit, document } = useJob();
  const { ground } = part;
  const change = (next: Partial<Part>) => edit((before) => withPart(before, part.id, (old) => ({ ...old, ...next })));
  const find = (next: Partial<Ground>) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, ground: { ...old.ground, ...next } })));
  const timber = part.substrate === "bare plywood" || part.substrate === "timber";
  const others = document.parts.filter((other) => other.id !== part.id);
  return (
    <Fold path={`parts.${index}.ground`} words="How it is laid, on what, and what comes over it">
      <div className="mt-3 space-y-3">
        <div className="flex flex-wrap gap-x-5 gap-y-3">
          <Choice
            label="Laid by"
            value={part.process}
            options={[
              ["open mould", "hand"],
              ["vacuum bag", "bag"],
              ["infusion", "infusion"],
            ]}
            onChange={(process) => change({ process })}
          />
          <Pick
            label="Finished to"
            value={part.finish?.to || "nothing"}
            options={FINISHED_TO}
            placeholder="choose"
            onChange={(to) => change({ finish: { ...part.finish, to: to === "nothing" ? "" : to } as Part["finish"] })}
          />
          <Choice
            label="It lies"
            value={part.orientation}
            options={[
              ["down", "flat"],
              ["upright", "upright"],
              ["overhead", "overhead"],
            ]}
            onChange={(orientation) => change({ orientation })}
          />
          <Choice
            label="Reached"
            value={part.reach ?? "at hand"}
            options={[
              ["at hand", "at hand"],
              ["leaning over", "leaning over"],
              ["from a ladder", "from a ladder"],
            ]}
            onChange={(reach) => change({ reach })}
          />
          <Choice
            label="Shape"
            value={part.surface}
            options={[
              ["simple", "simple"],
              ["complex", "corners, curves"],
            ]}
            onChange={(surface) => change({ surface })}
          />
        </div>
        <div className="grid grid-cols-2 gap-x-4 gap-y-1.5 sm:grid-cols-3">
          {ticks.map(([field, words]) => (
            <Tick
              key={field}
              label={words}
              path={`parts.${index}.ground.${field}`}
              checked={ground[field] === true}
              onChange={(checked) => find({ [field]: checked })}
            />
          ))}
        </div>
        <div className="grid grid-cols-3 items-start gap-3">
          <Pick
            label="Comes over it later"
            path={`parts.${index}.ground.later`}
            value={ground.later || "nothing"}
            placeholder="nothing more"
            options={later}
            onChange={(words) => find({ later: (words === "nothing" ? "" : words) as Ground["later"] })}
          />
          {timber && (
            <NumberField
              label="Moisture, %"
              path={`parts.${index}.ground.moisture_pct`}
              value={ground.moisture_pct}
              placeholder="12"
              onCommit={(moisture_pct) => find({ moisture_pct })}
            />
          )}
          {part.substrate === "concrete" && (
            <NumberField
              label="Age, days"
              path={`parts.${index}.ground.age_days`}
              value={ground.age_days}
              placeholder="28"
              onCommit={(age_days) => find({ age_days })}
            />
          )}
          {others.length > 0 && (
            <Pick
              label="It is the mould for"
              path={`parts.${index}.mould_for`}
              value={part.mould_for || "none"}
              placeholder="no part"
              options={[["none", "no part"], ...others.map((other) => [other.id, other.name || "a part"] as const)]}
              onChange={(id) => change({ mould_for: id === "none" ? "" : id })}
            />
          )}
        </div>
        <div className="grid grid-cols-2 gap-3">
          <ComesAfter
            id={part.id}
            path={`parts.${index}.comes_after`}
            value={part.comes_after ?? []}
            onChange={(comes_after) => change({ comes_after })}
          />
          {part.substrate === "waxed mould" && (
            <TextField
              label="Which mould of the shop"
              path={`parts.${index}.ground.mould`}
              value={ground.mould ?? ""}
              placeholder="the week keeps it from two jobs"
              onCommit={(mould) => find({ mould })}
            />
          )}
          <TextField
            label="Faces hidden later"
            path={`parts.${index}.ground.hidden_faces`}
            value={ground.hidden_faces}
            placeholder="under the thwart"
            onCommit={(hidden_faces) => find({ hidden_faces })}
          />
          <TextField
            label="Temporary fixings"
            path={`parts.${index}.ground.fixings`}
            value={ground.fixings}
            placeholder="wire stitches, out before the tape"
            onCommit={(fixings) => find({ fixings })}
          />
        </div>
      </div>
    </Fold>
  );
}
