import { useState } from "react";
import { Link } from "react-router";
import type { Joint, JointResult } from "../../api/client";
import { Corner } from "../../drawing/Corner";
import { isDrawn } from "../../drawing/corner";
import { Lap, LapHint } from "../../drawing/Lap";
import { plural } from "../../format";
import { useJob } from "../../job/context";
import { StepCautions } from "../../job/JobCautions";
import { ShelfWords } from "../../job/ShelfWords";
import { usePointedPath } from "../../job/usePointing";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Download } from "../../ui/Download";
import { Figure } from "../../ui/Figure";
import { Fold } from "../../ui/Fold";
import { Prints } from "../../ui/Prints";
import { Tick } from "../../ui/Tick";
import { Split, Title } from "../Split";
import { JointFields } from "./JointFields";
import { JointList } from "./JointList";
import { freshJoint, madeLike } from "./joints";
import { TabFields } from "./TabFields";
import { ThickeningCard } from "./ThickeningCard";
import { useJointTry } from "./useJointTry";

export function JointsStep() {
  const { document, plan, edit, job, saving } = useJob();
  const [, pointed = ""] = usePointedPath().match(/^joints\.(\d+)/) ?? [];
  const [chosen, choose] = useState(document.joints[Number(pointed)]?.id ?? "");
  const [hovered, hover] = useState("");
  const index = Math.max(
    0,
    document.joints.findIndex((joint) => joint.id === chosen),
  );
  const joint = document.joints[index];
  const planned = plan.joints?.find((other) => other.id === joint?.id);
  const { drawn, result, attempt, done } = useJointTry(joint, planned);
  if (!joint || !drawn)
    return (
      <main className="p-6">
        <p>
          This job has no joint.{" "}
          <Link to={`/jobs/${job.id}/measure`} className="link">
            Add one under Measure
          </Link>
          .
        </p>
      </main>
    );
  const add = () => {
    const fresh = freshJoint(`Joint ${document.joints.length + 1}`);
    edit((before) => ({ ...before, joints: [...before.joints, fresh] }));
    choose(fresh.id);
  };
  const drawing = { joint: drawn, scaledFor: joint, pointed: hovered, onPoint: hover, onTry: attempt, onDone: done };
  return (
    <Split
      picture={
        // The picture stays in sight while the sheet beside it is read down.
        <div className="lg:sticky lg:top-0 lg:max-h-dvh lg:overflow-y-auto">
          <div className="flex flex-wrap items-start justify-between gap-3">
            <Title words={titleOf(joint, index)} under={result?.radius_note || <LapHint joint={joint} />} />
            <Button edits onClick={add}>
              Add a joint
            </Button>
          </div>
          {drawn.kind === "corner" && !isDrawn(drawn) ? (
            <p className="max-w-[46ch] py-10 text-[1rem]">
              Faces that lie on one another make no corner: type the angle between them, or choose a glue line.
            </p>
          ) : drawn.kind === "corner" ? (
            <Corner {...drawing} result={result} fabrics={document.materials.fabrics} />
          ) : (
            <Lap {...drawing} />
          )}
          <Readout joint={joint} result={result} pointed={hovered} />
          <JointList chosen={joint.id} onChoose={choose} />
        </div>
      }
      sheet={
        <>
          <Hero joint={joint} result={result} />
          <ShelfWords kinds={["filler", "fabric"]} />
          <StepCautions step="joints" />
          <JointFields key={joint.id} joint={joint} index={index} />
          {!result?.flat && <ThickeningCard joint={joint} index={index} result={result} />}
          {joint.kind === "corner" && <TabFields joint={joint} index={index} result={result} />}
          {result && <Order result={result} />}
          <CopyTo key={`${joint.id}-copy`} joint={joint} />
          {saving === "saved" && (
            <p className="flex flex-wrap gap-x-4 text-[0.875rem]">
              <span className="lab self-center">To print: </span>
              <Prints job={job} file="joints">
                all joints
              </Prints>
              {drawn.kind === "corner" && isDrawn(drawn) && (
                <Download href={`/api/jobs/${job.id}/joints/${joint.id}/corner.svg`} name="corner.svg">
                  this corner as SVG
                </Download>
              )}
            </p>
          )}
          <Button
            edits
            look="text"
            onClick={() =>
              edit((before) => ({ ...before, joints: before.joints.filter((other) => other.id !== joint.id) }))
            }
          >
            Remove this joint
          </Button>
        </>
      }
    />
  );
}

function titleOf(joint: Joint, index: number): string {
  const words = [joint.name || `Joint ${index + 1}`];
  if (joint.kind === "corner" && joint.sides === 2) words.push("both sides");
  if (joint.count > 1) words.push(`${joint.count} alike`);
  return words.join(", ");
}

/** The paste, and how many pots it takes to run. */
function Hero({ joint, result }: { joint: Joint; result: JointResult | undefined }) {
  const { plan } = useJob();
  const { units } = useShop();
  const pastes = plan.pots?.filter((pot) => pot.owner_id === joint.id && pot.ticket?.thickened) ?? [];
  const count = pastes.reduce((sum, pot) => sum + pot.count, 0);
  const bead = pastes[0]?.ticket?.thickened?.bead_m ?? 0;
  const stuck = plan.stuck?.some((each) => each.owner_id === joint.id);
  if (!result) return null;
  return (
    <div className="flex items-end gap-6">
      {result.paste_ml > 0 ? (
        <Figure name="Paste" {...units.show("volume", result.paste_ml)} size={50} about={`paste:${joint.id}`} />
      ) : (
        <Figure
          name="Resin"
          {...units.show("mass", result.all_resin_g ?? 0)}
          size={50}
          about={`joint_resin:${joint.id}`}
        />
      )}
      <div className="pb-1 text-[0.875rem]">
        {result.paste_ml > 0 && (
          <p>
            {stuck
              ? "No pot of it lives long enough: see Pots."
              : count > 0 &&
                `${plural(count, "pot")}${bead ? `, ${units.text("length", bead)} of bead${count > 1 ? " each" : ""}` : ""}.`}
          </p>
        )}
        <p className="text-ink-soft">
          {units.text("mass", result.all_resin_g ?? 0)} of resin in all
          {result.run_m ? `, along ${units.text("length", result.run_m)}` : ""}.
        </p>
      </div>
    </div>
  );
}

/** What is pointed at in the picture, by weight; else the joint's parts in one line. */
function Readout({ joint, result, pointed }: { joint: Joint; result: JointResult | undefined; pointed: string }) {
  const { units } = useShop();
  if (!result) return <p className="lab min-h-6">Type its measures on the sheet, and it is worked out.</p>;
  const tab = result.tabs?.findIndex((each) => each.id === pointed) ?? -1;
  const strip = result.tabs?.[tab];
  const mass = (grams: number | undefined) => units.text("mass", grams ?? 0);
  let words = [
    result.wet_out_g ? `wet-out ${mass(result.wet_out_g)}` : "",
    result.paste_ml ? `paste ${mass(result.paste_g)}` : "",
    result.smoothing_g ? `to smooth ${mass(result.smoothing_g)}` : "",
    result.tabs_fibre_g ? `tabbing ${mass(result.tabs_fibre_g)} fibre and ${mass(result.tabs_resin_g)} resin` : "",
  ]
    .filter(Boolean)
    .join(" · ");
  if (strip)
    words = `Strip ${tab + 1}, ${strip.name}: ${mass(strip.fibre_g)} fibre, ${mass(strip.resin_g)} resin; turns R ${units.words("size", strip.radius_mm)}, ${units.words("size", strip.flat_mm)} flat on each face`;
  else if (pointed === "paste")
    words = `${joint.kind === "corner" ? "Fillet" : "Paste"}: ${mass(result.resin_g)} resin, ${mass(result.filler_g)} filler; section ${units.text("section", result.section_mm2)}`;
  else if (pointed === "wet")
    words = `Wet-out: ${mass(result.wet_out_g)} plain resin on ${units.text("area", result.wet_out_m2 ?? 0)} of faces (${units.text("areal_weight", result.wet_out_gsm ?? 0)}, memory)`;
  else if (pointed === "glue")
    words = `Glue line: ${units.words("thickness", joint.glue_mm ?? 0)} under the panel's edge, in the paste`;
  return (
    <p aria-live="polite" className="min-h-6 text-[0.9062rem]">
      {words}
    </p>
  );
}

/** The order of its steps, each with its resin and what it waits for. */
function Order({ result }: { result: JointResult }) {
  const { document } = useJob();
  const { units } = useShop();
  if (!result.steps?.length) return null;
  return (
    <section aria-label="Order" className="border-t border-rule pt-3">
      <h2 className="text-[0.9375rem] font-semibold">
        In this order{result.tabs?.length ? `, tabbing ${document.practice.tabbing}` : ""}
      </h2>
      <ol className="mt-1 list-decimal space-y-1.5 pl-5 marker:text-ink-soft">
        {result.steps.map((step) => (
          <li key={step.words} className="text-[0.9062rem]">
            <span className="flex justify-between gap-3">
              <span>{step.words}</span>
              {step.resin_g > 0 && <span className="fig whitespace-nowrap">{units.text("mass", step.resin_g)}</span>}
            </span>
            <span className="lab">{step.when}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** The same radius, filler and strips for other joints; their names, lengths and fixings stay. */
function CopyTo({ joint }: { joint: Joint }) {
  const { document, edit } = useJob();
  const [to, setTo] = useState<string[]>([]);
  const others = document.joints.filter((other) => other.id !== joint.id);
  if (!others.length) return null;
  return (
    <Fold className="border-t border-rule pt-3" words="Copy it to other joints">
      <div className="mt-2 space-y-1">
        {others.map((other) => (
          <Tick
            key={other.id}
            label={other.name || "unnamed"}
            checked={to.includes(other.id)}
            onChange={(on) => setTo(on ? [...to, other.id] : to.filter((id) => id !== other.id))}
          />
        ))}
        <Button
          edits
          disabled={!to.length}
          onClick={() => {
            edit((before) => ({
              ...before,
              joints: before.joints.map((other) => (to.includes(other.id) ? madeLike(other, joint) : other)),
            }));
            setTo([]);
          }}
        >
          Copy shape, filler and strips
        </Button>
      </div>
    </Fold>
  );
}
