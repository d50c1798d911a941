import { ToggleGroup } from "radix-ui";
import { useState } from "react";
import { Link } from "react-router";
import type { Joint, JointResult } from "../api/client";
import { ConsistencyPicture, Corner } from "../drawing/Corner";
import { plural } from "../format";
import { useJob, withJoint, withMaterial, withQuantity } from "../job/context";
import { StepCautions } from "../job/JobCautions";
import { ShelfWords } from "../job/ShelfWords";
import { usePointedPath } from "../job/usePointing";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Figure } from "../ui/Figure";
import { useFault } from "../ui/form";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { TextField } from "../ui/TextField";
import { Split, Title } from "./Split";

const consistencies = ["runs", "drapes", "peaks", "stands"] as const;

export function JointsStep() {
  const { document, plan, edit, job } = useJob();
  const { units } = useShop();
  const [, pointed = ""] = usePointedPath().match(/^joints\.(\d+)/) ?? [];
  const [chosen, choose] = useState(document.joints[Number(pointed)]?.id ?? "");
  const [dragged, drag] = useState<number | null>(null);
  const index = Math.max(
    0,
    document.joints.findIndex((joint) => joint.id === chosen),
  );
  const joint = document.joints[index];
  if (!joint)
    return (
      <main className="p-6">
        <p>
          This job has no fillet.{" "}
          <Link to={`/jobs/${job.id}/measure`} className="link">
            Add one under Measure
          </Link>
          .
        </p>
      </main>
    );
  const result = plan.joints?.find((other) => other.id === joint.id);
  const pots = plan.pots?.filter((pot) => pot.owner_id === joint.id) ?? [];
  const count = pots.reduce((sum, pot) => sum + pot.count, 0);
  const change = (next: Partial<Joint>) =>
    edit((before) => withJoint(before, joint.id, (old) => ({ ...old, ...next })));
  const measure = (field: "length_m" | "radius_mm" | "panel_thickness_mm", value: number | null, words: string) =>
    edit((before) => withJoint(before, joint.id, (old) => withQuantity(old, field, value, words)));
  const drawn = dragged == null ? joint : { ...joint, radius_mm: dragged };
  return (
    <Split
      picture={
        <>
          <div className="flex flex-wrap items-start justify-between gap-3">
            <Title
              words={`${joint.name || "Fillet"}${joint.sides === 2 ? ", both sides" : ""}${joint.length_m ? `, ${units.text("length", joint.length_m)}` : ""}`}
              under={result?.radius_note ?? "Two panels at 90°, to scale"}
            />
            {document.joints.length > 1 && (
              <Choice
                label="Joint"
                hideLabel
                value={joint.id}
                options={document.joints.map((other, at) => [other.id, other.name || `fillet ${at + 1}`] as const)}
                onChange={choose}
              />
            )}
          </div>
          <Corner
            joint={drawn}
            scaledFor={joint.radius_mm ?? 0}
            onRadius={(radius_mm, done) => {
              drag(done ? null : radius_mm);
              if (done && radius_mm !== joint.radius_mm) measure("radius_mm", radius_mm, `${radius_mm} mm`);
            }}
          />
          {joint.radius_mm ? <p className="lab">Drag the ring, or type the radius.</p> : null}
        </>
      }
      sheet={
        <>
          {result && (
            <div className="flex items-end gap-5">
              <Figure
                name="Paste for this joint"
                {...units.show("volume", result.paste_ml)}
                size={44}
                about={`paste:${joint.id}`}
              />
              <p className="pb-1 text-[14px] text-ink-soft">
                {units.text("section", result.section_mm2)} ×{" "}
                {units.text("length", (joint.length_m ?? 0) * joint.sides)}, 10 % over.{" "}
                {count ? `${plural(count, "pot")}.` : "No pot fits: see Pots."}
              </p>
            </div>
          )}
          <ShelfWords kinds={["filler"]} />
          <StepCautions step="joints" />
          <div className="grid grid-cols-3 gap-3">
            <QuantityField
              label="Length"
              path={`joints.${index}.length_m`}
              fieldKey={`${joint.id}.length`}
              dimension="length"
              value={joint.length_m}
              typed={joint.typed?.length_m}
              placeholder="2.9 m"
              onCommit={(value, words) => measure("length_m", value, words)}
            />
            <QuantityField
              label="Radius"
              path={`joints.${index}.radius_mm`}
              fieldKey={`${joint.id}.radius`}
              dimension="thickness"
              value={joint.radius_mm}
              typed={joint.typed?.radius_mm}
              placeholder="18 mm"
              onCommit={(value, words) => measure("radius_mm", value, words)}
            />
            <QuantityField
              label="Panel thickness"
              path={`joints.${index}.panel_thickness_mm`}
              fieldKey={`${joint.id}.panel`}
              dimension="thickness"
              value={joint.panel_thickness_mm}
              typed={joint.typed?.panel_thickness_mm}
              onCommit={(value, words) => value != null && measure("panel_thickness_mm", value, words)}
            />
          </div>
          <FillerPick joint={joint} index={index} />
          <ToggleGroup.Root
            type="single"
            aria-label="Consistency"
            value={joint.consistency}
            onValueChange={(next) => next && change({ consistency: next as Joint["consistency"] })}
            className="grid grid-cols-4 rounded-(--radius) border border-rule"
          >
            {consistencies.map((consistency) => (
              <ToggleGroup.Item
                key={consistency}
                value={consistency}
                className="flex flex-col items-center gap-1 border-r border-rule py-2 text-[14px] font-medium last:border-r-0 hover:bg-rule-faint data-[state=on]:bg-ink data-[state=on]:text-sheet"
              >
                <ConsistencyPicture consistency={consistency} />
                {consistency}
              </ToggleGroup.Item>
            ))}
          </ToggleGroup.Root>
          {result && <Recipe result={result} />}
          <div className="flex flex-wrap items-end justify-between gap-3 border-t border-rule pt-3">
            <TextField
              label="Joint"
              path={`joints.${index}.name`}
              value={joint.name}
              onCommit={(name) => change({ name })}
            />
            <Choice
              label="Bead"
              value={String(joint.sides)}
              options={[
                ["1", "one side"],
                ["2", "both sides"],
              ]}
              onChange={(sides) => change({ sides: Number(sides) })}
            />
            <Button
              look="text"
              onClick={() =>
                edit((before) => ({ ...before, joints: before.joints.filter((other) => other.id !== joint.id) }))
              }
            >
              Remove
            </Button>
          </div>
        </>
      }
    />
  );
}

function FillerPick({ joint, index }: { joint: Joint; index: number }) {
  const { library, document, edit } = useJob();
  const missing = useFault(`joints.${index}.filler_id`);
  const wet = useFault(`joints.${index}.consistency`);
  const filler = document.materials.fillers.find((other) => other.id === joint.filler_id);
  return (
    <div>
      <Pick
        label="Filler"
        path={`joints.${index}.filler_id`}
        value={joint.filler_id}
        options={(library.fillers ?? []).map((other) => [other.id, other.name] as const)}
        placeholder="choose the filler"
        fault={missing?.message}
        onChange={(id) => {
          const next = library.fillers?.find((other) => other.id === id);
          if (!next) return;
          edit((before) => ({
            ...withJoint(before, joint.id, (old) => ({ ...old, filler_id: id })),
            materials: { ...before.materials, fillers: withMaterial(before.materials.fillers, next) },
          }));
        }}
      />
      {filler && (
        <p className="lab mt-1">
          {filler.note} Sanding: {filler.sands}.
        </p>
      )}
      {wet && <p className="mt-1 text-[13px] text-stop">{wet.message}</p>}
    </div>
  );
}

function Recipe({ result }: { result: JointResult }) {
  const rows = [
    ["A, resin", result.part_a_g, null],
    ["B, hardener", result.part_b_g, null],
    ["Resin", result.part_a_g == null ? result.resin_g : null, null],
    ["Catalyst", result.catalyst_g, null],
    [result.filler_name, result.filler_g, result.filler_loose_ml],
  ] as const;
  const { units } = useShop();
  return (
    <table className="w-full text-right">
      <caption className="lab pb-1 text-left">For the whole joint</caption>
      <thead className="lab">
        <tr className="border-b border-rule">
          <th className="py-1 text-left font-normal">into the mix</th>
          <th className="font-normal">by weight</th>
          <th className="font-normal">by cup, loose</th>
        </tr>
      </thead>
      <tbody>
        {rows
          .filter(([, grams]) => grams != null)
          .map(([name, grams, ml]) => (
            <tr key={name} className="border-b border-rule-faint">
              <td className="py-1.5 text-left text-[15.5px]">
                {name}
                {ml != null && <span className="lab"> last, until it {result.consistency}</span>}
              </td>
              <td className="fig text-[17px]">{units.text("mass", grams ?? 0)}</td>
              <td className="fig text-[17px]">{ml == null ? "" : units.text("volume", ml)}</td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}
