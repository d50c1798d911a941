import { Link, useNavigate } from "react-router";
import { askedOfDamage } from "../../api/asked";
import type { Damage, Part } from "../../api/client";
import fresh from "../../api/fresh.json";
import { PartsPlan } from "../../drawing/PartsPlan";
import { plural } from "../../format";
import { newId, useJob, withPart } from "../../job/context";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Figure } from "../../ui/Figure";
import { Fold } from "../../ui/Fold";
import { TextField } from "../../ui/TextField";
import { freshJoint } from "../joints/joints";
import { PracticeFields } from "../PracticeFields";
import { freshPour } from "../pours/pours";
import { Split, Title } from "../Split";
import { withSeams } from "./BayFields";
import { PartFields } from "./PartFields";
import { isTyped, MeasureField } from "./ShapeFields";

export function MeasureStep() {
  const { document, plan, edit, job } = useJob();
  const { units } = useShop();
  const total = (plan.parts ?? []).reduce((sum, part) => sum + part.total_area_m2, 0);
  const pairs = new Set(document.parts.filter((part) => part.pair).map((part) => part.id));
  const fieldOf = (partId: string, field: string) => {
    const index = document.parts.findIndex((part) => part.id === partId);
    const part = document.parts[index];
    return part && isTyped(part.shape, field) ? <MeasureField part={part} index={index} field={field} /> : null;
  };
  const keep = (partId: string, seams: number[]) =>
    edit((before) => withPart(before, partId, (old) => withSeams(old, seams)));
  const addPart = () =>
    edit((before) => ({
      ...before,
      parts: [
        ...before.parts,
        { ...(fresh.part as Omit<Part, "id">), id: newId(), name: `Part ${before.parts.length + 1}` },
      ],
    }));
  const navigate = useNavigate();
  const addJoint = () => {
    edit((before) => ({ ...before, joints: [...before.joints, freshJoint(`Joint ${before.joints.length + 1}`)] }));
    navigate(`/jobs/${job.id}/joints`, { state: { at: `joints.${document.joints.length}` } });
  };
  const addPour = () => {
    edit((before) => ({ ...before, pours: [...before.pours, freshPour(`Casting ${before.pours.length + 1}`)] }));
    navigate(`/jobs/${job.id}/pours`, { state: { at: `pours.${document.pours.length}` } });
  };
  return (
    <Split
      picture={
        <>
          <Title words={document.name} under="Every part to one scale, as it lies flat" />
          {document.damage && <BegunFrom damage={document.damage} />}
          {plan.parts?.length ? (
            <PartsPlan
              parts={plan.parts}
              pairs={pairs}
              fieldOf={fieldOf}
              lanes={plan.run_sheet?.lanes}
              onSeams={keep}
            />
          ) : (
            <p className="max-w-[46ch] py-10 text-[1rem]">
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
            className="text-[1.125rem] font-semibold"
          />
          {document.parts.map((part, index) => (
            <PartFields key={part.id} part={part} index={index} />
          ))}
          <div className="flex flex-wrap gap-2">
            <Button edits look={document.parts.length ? "plain" : "main"} onClick={addPart}>
              Add a part
            </Button>
            <Button edits onClick={addJoint}>
              Add a joint
            </Button>
            <Button edits onClick={addPour}>
              Add a casting
            </Button>
            {document.joints.length > 0 && (
              <Link to={`/jobs/${job.id}/joints`} className="lab link self-center">
                {plural(document.joints.length, "joint")} under Joints
              </Link>
            )}
          </div>
          <Fold className="border-t border-rule pt-3" path="practice" words="How we work on this job">
            <div className="mt-3">
              <PracticeFields
                practice={document.practice}
                onChange={(change) => edit((before) => ({ ...before, practice: { ...before.practice, ...change } }))}
              />
            </div>
          </Fold>
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

/** The damage that a repair was begun from, as it was measured; it may be looked over again. */
function BegunFrom({ damage }: { damage: Damage }) {
  const { units } = useShop();
  const kind = damage.kind ?? "hole through";
  const sizes = askedOfDamage[kind].asked
    .filter(({ field }) => damage[field] != null)
    .map(({ field, label }) => `${label.toLowerCase()} ${units.words("size", damage[field] ?? 0)}`);
  return (
    <p className="mb-2 text-[0.9375rem]">
      Begun from a damage: {kind}, {sizes.join(", ")}.{" "}
      <Link to="/damage" state={{ damage }} className="link">
        Look it over again
      </Link>
      , and it makes another job.
    </p>
  );
}
