import { type AskedOfJoint, askedOfJoint, limits, usual } from "../../api/asked";
import type { Joint } from "../../api/client";
import { isFlat } from "../../drawing/corner";
import { ComesAfter } from "../../job/ComesAfter";
import { useJob, withJoint, withQuantity } from "../../job/context";
import { UsePick } from "../../job/UsePick";
import { Choice } from "../../ui/Choice";
import { Fold } from "../../ui/Fold";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { QuantityField } from "../../ui/QuantityField";
import { TextField } from "../../ui/TextField";
import { Tick } from "../../ui/Tick";
import { substrates } from "../substrates";
import { kinds } from "./joints";

/** What a joint is and its measures, then what is rarer under a fold. */
export function JointFields({ joint, index }: { joint: Joint; index: number }) {
  const { edit, document } = useJob();
  const path = `joints.${index}`;
  const change = (next: Partial<Joint>) =>
    edit((before) => withJoint(before, joint.id, (old) => ({ ...old, ...next })));
  const measure = (field: Exclude<AskedOfJoint["field"], "hole_count">, value: number | null, words: string) => {
    if (value == null && field === "panel_thickness_mm") return;
    edit((before) => withJoint(before, joint.id, (old) => withQuantity(old, field, value, words)));
  };
  const flat = isFlat(joint);
  return (
    <section aria-label="Measures" className="space-y-3" data-path={path}>
      <div className="grid grid-cols-[1fr_1fr_72px] items-start gap-3">
        <TextField label="Joint" path={`${path}.name`} value={joint.name} onCommit={(name) => change({ name })} />
        <Pick
          label="What it is"
          path={`${path}.kind`}
          value={joint.kind}
          options={kinds}
          placeholder="choose"
          onChange={(kind) => change({ kind: kind as Joint["kind"] })}
        />
        <NumberField
          label="How many"
          path={`${path}.count`}
          value={joint.count}
          min={limits.count[0]}
          max={limits.count[1]}
          live
          onCommit={(count) => count != null && change({ count })}
        />
      </div>
      <UsePick
        value={joint.use_id}
        path={`${path}.use_id`}
        label="Mixed of"
        onChange={(use_id) => change({ use_id })}
      />
      <div className="grid grid-cols-3 items-start gap-3">
        {askedOfJoint[joint.kind]
          .filter(({ field }) => !flat || (field !== "radius_mm" && field !== "glue_mm"))
          .map(({ field, label, ask, example, usual, left_out }) =>
            field === "hole_count" ? (
              <NumberField
                key={field}
                label={label}
                path={`${path}.${field}`}
                value={joint.hole_count}
                min={limits.hole_count[0]}
                max={limits.hole_count[1]}
                onCommit={(hole_count) => change({ hole_count })}
              />
            ) : (
              <QuantityField
                key={field}
                label={label}
                path={`${path}.${field}`}
                fieldKey={`${joint.id}.${field}`}
                dimension={field === "length_m" ? "length" : "thickness"}
                value={joint[field]}
                typed={joint.typed?.[field]}
                placeholder={left_out || undefined}
                example={usual ?? example ?? undefined}
                optional={!ask}
                onCommit={(value, words) => measure(field, value, words)}
              />
            ),
          )}
        {joint.kind === "corner" && (
          <NumberField
            label="Angle between faces, °"
            path={`${path}.angle_deg`}
            value={joint.angle_deg}
            min={limits.angle_deg[0]}
            max={limits.angle_deg[1]}
            hint={flat ? "a flat seam: no fillet" : ""}
            onCommit={(angle) => angle != null && change({ angle_deg: angle })}
          />
        )}
        {joint.kind === "scarf" && (
          <NumberField
            label="Slope, 1 in"
            path={`${path}.slope`}
            value={joint.slope}
            min={limits.slope[0]}
            max={limits.slope[1]}
            hint={`${usual.scarf_slope}, or ${usual.scarf_slope_worked_hard} worked hard`}
            onCommit={(slope) => slope != null && change({ slope })}
          />
        )}
        {(joint.kind === "glue line" || joint.kind === "scarf") && (
          <NumberField
            label="To squeeze out, %"
            path={`${path}.squeeze_out`}
            value={Math.round(joint.squeeze_out * 100)}
            min={0}
            max={100}
            hint={`${Math.round(100 * usual.squeeze_out_from)} to ${Math.round(100 * usual.squeeze_out_to)}`}
            onCommit={(share) => share != null && change({ squeeze_out: share / 100 })}
          />
        )}
      </div>
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        {joint.kind === "corner" && (
          <Choice
            label="Bead"
            value={String(joint.sides)}
            options={[
              ["1", "one side"],
              ["2", "both sides"],
            ]}
            onChange={(sides) => change({ sides: Number(sides) })}
          />
        )}
        <Choice
          label="Run"
          value={joint.applied}
          options={[
            ["with a stick", "with a stick"],
            ["from a bag", "from a bag"],
          ]}
          onChange={(applied) => change({ applied })}
        />
      </div>
      <p className="lab -mt-1">
        {joint.applied === "from a bag"
          ? "In a bag a paste is a thick pot: it keeps its heat and lives a fifth less than in its cup (memory)."
          : "From a board, spread thin, a paste lasts longer than in its cup or a bag."}
      </p>
      <Fold
        words={<>What it carries, its ground, order, fixings, pots{joint.hidden || joint.fixings ? ": set" : ""}</>}
      >
        <div className="mt-3 grid grid-cols-2 items-start gap-3">
          <Choice
            label="The joint"
            value={joint.duty}
            options={[
              ["carries load", "carries load"],
              ["eases the corner", "only eases it"],
            ]}
            onChange={(duty) => change({ duty })}
          />
          <Pick
            label="Faces are"
            path={`${path}.substrate`}
            value={joint.substrate}
            options={substrates}
            placeholder="choose"
            onChange={(substrate) => change({ substrate: substrate as Joint["substrate"] })}
          />
          <NumberField
            label="Pots for each one"
            path={`${path}.wished_pots`}
            value={joint.wished_pots}
            min={limits.wished_pots[0]}
            max={limits.wished_pots[1]}
            placeholder="as they fit"
            onCommit={(wished_pots) => change({ wished_pots })}
          />
          {joint.kind === "corner" && document.parts.length > 0 && (
            <Pick
              label="Cloth that turns over it is of"
              path={`${path}.covered_by`}
              value={joint.covered_by || "none"}
              placeholder="no part"
              options={[
                ["none", "no part"],
                ...document.parts.map((part) => [part.id, part.name || "a part"] as const),
              ]}
              onChange={(id) => change({ covered_by: id === "none" ? "" : id })}
            />
          )}
          <ComesAfter
            id={joint.id}
            path={`${path}.comes_after`}
            value={joint.comes_after ?? []}
            onChange={(comes_after) => change({ comes_after })}
          />
          <TextField
            label="Temporary fixings, to be taken out"
            path={`${path}.fixings`}
            value={joint.fixings}
            placeholder="8 screws with washers"
            onCommit={(fixings) => change({ fixings })}
          />
          <div className="pt-6">
            <Tick
              label="out of reach afterwards: it comes first"
              path={`${path}.hidden`}
              checked={joint.hidden}
              onChange={(hidden) => change({ hidden })}
            />
          </div>
        </div>
        <p className="lab mt-2">
          As usual, what is joined on wood comes before the parts, what is joined to a laminate after them.
        </p>
      </Fold>
    </section>
  );
}
