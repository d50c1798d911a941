import { Link } from "react-router";
import type { Part } from "../api/client";
import { PartsPlan } from "../drawing/PartsPlan";
import { plural } from "../format";
import { newId, useJob, withPart, withQuantity } from "../job/context";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Figure } from "../ui/Figure";
import { NumberField } from "../ui/NumberField";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { TextField } from "../ui/TextField";
import { Split, Title } from "./Split";

const substrates = [
  ["bare plywood", "Bare plywood"],
  ["sanded laminate", "Sanded laminate"],
  ["foam core", "Foam core"],
  ["waxed mould", "Waxed mould"],
] as const;

export function MeasureStep() {
  const { document, plan, edit, job } = useJob();
  const { units } = useShop();
  const total = (plan.parts ?? []).reduce((sum, part) => sum + part.total_area_m2, 0);
  const addPart = () =>
    edit((before) => ({
      ...before,
      parts: [
        ...before.parts,
        {
          id: newId(),
          name: `Part ${before.parts.length + 1}`,
          substrate: "bare plywood",
          surface: "simple",
          shape: { kind: "rectangle", width_m: null, length_m: null, typed: {} },
          count: 1,
          plies: [],
        },
      ],
    }));
  const addFillet = () => {
    edit((before) => ({
      ...before,
      joints: [
        ...before.joints,
        {
          id: newId(),
          name: `Fillet ${before.joints.length + 1}`,
          length_m: null,
          radius_mm: null,
          panel_thickness_mm: 6,
          sides: 1,
          filler_id: "",
          consistency: "stands",
          typed: {},
        },
      ],
    }));
  };
  return (
    <Split
      picture={
        <>
          <Title words={document.name} under="Every part to one scale, as it lies flat" />
          {plan.parts?.length ? (
            <PartsPlan document={document} />
          ) : (
            <p className="max-w-[46ch] py-10 text-[16px]">
              {document.parts.length
                ? "Type its measures on the sheet, in any unit: 1.2 m, 48 in, 5 ft 6 in. It is drawn here to scale."
                : "Begin with the surface: add a part, say what it is made of and how big it is."}
            </p>
          )}
          {total > 0 && (
            <div className="mt-4 flex gap-12 border-t border-rule pt-3">
              <Figure name="To cover" {...units.show("area", total)} size={44} about="area" />
            </div>
          )}
        </>
      }
      sheet={
        <>
          <TextField
            label="Job"
            path="name"
            value={document.name}
            onCommit={(name) => edit((before) => ({ ...before, name }))}
            className="text-[18px] font-semibold"
          />
          {document.parts.map((part, index) => (
            <PartFields key={part.id} part={part} index={index} />
          ))}
          <div className="flex flex-wrap gap-2">
            <Button look={document.parts.length ? "plain" : "main"} onClick={addPart}>
              Add a part
            </Button>
            <Button onClick={addFillet}>Add a fillet</Button>
            {document.joints.length > 0 && (
              <Link to={`/jobs/${job.id}/joints`} className="lab link self-center">
                {plural(document.joints.length, "fillet")} under Joints
              </Link>
            )}
          </div>
          <p className="lab border-t border-rule pt-3">
            Take it elsewhere:{" "}
            <a className="link" href={`/api/jobs/${job.id}/file`} download>
              this job as a file
            </a>
            ,{" "}
            <a className="link" href={`/api/jobs/${job.id}/plan-file`} download>
              its plan as a file
            </a>
          </p>
        </>
      }
    />
  );
}

function PartFields({ part, index }: { part: Part; index: number }) {
  const { plan, edit } = useJob();
  const { units } = useShop();
  const result = plan.parts?.find((other) => other.id === part.id);
  const change = (next: Partial<Part>) => edit((before) => withPart(before, part.id, (old) => ({ ...old, ...next })));
  const { shape } = part;
  const measure = (field: "width_m" | "length_m" | "area_m2", value: number | null, words: string) =>
    edit((before) =>
      withPart(before, part.id, (old) => ({ ...old, shape: withQuantity(old.shape, field, value, words) })),
    );
  return (
    <fieldset className="border-t border-rule pt-3" data-path={`parts.${index}`}>
      <legend className="sr-only">{part.name || `Part ${index + 1}`}</legend>
      <div className="grid grid-cols-[1fr_auto] items-end gap-3">
        <TextField label="Part" path={`parts.${index}.name`} value={part.name} onCommit={(name) => change({ name })} />
        <Figure
          {...(result ? units.show("area", result.total_area_m2) : { number: "–", unit: units.unit("area") })}
          size={30}
          about={result && `area:${part.id}`}
        />
      </div>
      <div className="mt-3 flex flex-wrap items-end justify-between gap-3">
        <Choice
          label="Measured as"
          value={shape.kind}
          options={[
            ["rectangle", "width × length"],
            ["area", "area"],
          ]}
          onChange={(kind) =>
            kind !== shape.kind &&
            change({
              shape:
                kind === "area"
                  ? { kind, area_m2: result?.area_m2 ?? null, typed: {} }
                  : { kind, width_m: null, length_m: null, typed: {} },
            })
          }
        />
        <Button
          look="text"
          aria-label={`Remove ${part.name || "this part"}`}
          onClick={() => edit((before) => ({ ...before, parts: before.parts.filter((other) => other.id !== part.id) }))}
        >
          Remove
        </Button>
      </div>
      <div className="mt-3 grid grid-cols-[1fr_1fr_88px] gap-3">
        {shape.kind === "rectangle" ? (
          <>
            <QuantityField
              label="Width"
              path={`parts.${index}.shape.width_m`}
              fieldKey={`${part.id}.width`}
              dimension="length"
              value={shape.width_m}
              typed={shape.typed?.width_m}
              placeholder="1.2 m"
              onCommit={(value, typed) => measure("width_m", value, typed)}
            />
            <QuantityField
              label="Length"
              path={`parts.${index}.shape.length_m`}
              fieldKey={`${part.id}.length`}
              dimension="length"
              value={shape.length_m}
              typed={shape.typed?.length_m}
              placeholder="12 ft 6 in"
              onCommit={(value, typed) => measure("length_m", value, typed)}
            />
          </>
        ) : (
          <div className="col-span-2">
            <QuantityField
              label="Area of one"
              path={`parts.${index}.shape.area_m2`}
              fieldKey={`${part.id}.area`}
              dimension="area"
              value={shape.area_m2}
              typed={shape.typed?.area_m2}
              placeholder="2.4 m²"
              onCommit={(value, typed) => measure("area_m2", value, typed)}
            />
          </div>
        )}
        <NumberField
          label="How many"
          path={`parts.${index}.count`}
          value={part.count}
          min={1}
          max={200}
          live
          onCommit={(count) => count != null && change({ count })}
        />
      </div>
      <div className="grid grid-cols-2 items-start gap-3">
        <Pick
          label="Surface"
          value={part.substrate}
          options={substrates}
          placeholder="what is it?"
          onChange={(substrate) => change({ substrate: substrate as Part["substrate"] })}
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
    </fieldset>
  );
}
