import { lazy, Suspense, useState } from "react";
import { Link } from "react-router";
import type { Part, PartResult } from "../../api/client";
import { PartsPlan } from "../../drawing/PartsPlan";
import { Section } from "../../drawing/Section";
import { percent } from "../../format";
import { Beside } from "../../job/Beside";
import { newId, useJob, withMaterial, withPart } from "../../job/context";
import { StepCautions } from "../../job/JobCautions";
import { ShelfWords } from "../../job/ShelfWords";
import { UsePick } from "../../job/UsePick";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { Figure } from "../../ui/Figure";
import { useFault } from "../../ui/form";
import { Pick } from "../../ui/Pick";
import { Worked } from "../../ui/Worked";
import { ResinBars } from "../ResinBar";
import { Split, Title } from "../Split";
import { useLaneOf, withSeams } from "./BayFields";
import { usePart } from "./PartPick";
import { barePly, freshCoat } from "./plies";
import { QuickLineField } from "./QuickLineField";
import { StackFile } from "./StackFile";
import { Stiffer, StifferFields } from "./Stiffer";

// What drags its rows is half of this step: the section and the line stand before it.
const Ledger = lazy(() => import("./Ledger").then(({ Ledger: part }) => ({ default: part })));

const contents = [
  ["by fabric", "by fabric"],
  ["as the table", "as the table"],
  ["lean", "lean"],
  ["generous", "generous"],
] as const;

const contentReasons: Record<string, string> = {
  "by fabric": "Lean for woven and stitched, the table for mat: what a squeegee leaves.",
  "as the table": "The glass content to expect by hand, as tabled.",
  lean: "Squeegeed and mopped: 10 % more goes on than stays.",
  generous: "Pushed full and the surplus moved on: chopped mat over a deck.",
};

export function StackStep() {
  const { plan, document, edit, job } = useJob();
  const { units, money } = useShop();
  const { part, index, picker } = usePart();
  const [pointed, point] = useState("");
  const [chosen, choose] = useState("");
  const result = plan.parts?.find((other) => other.id === part?.id);
  const stiff = plan.stiffened?.find((other) => other.id === part?.id);
  const empty = useFault(`parts.${index}.plies`);
  if (!part)
    return (
      <main className="p-6">
        <h1 className="text-[1.375rem] font-semibold">No part yet</h1>
        <p className="mt-2">
          <Link to={`/jobs/${job.id}/measure`} className="link">
            Measure one first
          </Link>
          , then write its stack here, such as <b>2x 450 csm, 600 biax</b>.
        </p>
      </main>
    );
  return (
    <Split
      picture={
        <>
          <div className="flex flex-wrap items-start justify-between gap-3">
            <Title
              words={part.name || "Part"}
              under={
                result
                  ? `${result.area_working} · ${units.text("area", result.total_area_m2)} · ${part.process}, ${part.surface} surface`
                  : "not measured yet"
              }
            />
            {picker}
          </div>
          {result ? (
            <>
              <Section part={result} focus={pointed || chosen} onFocus={point} height={stiff ? 330 : 500} />
              <Totals result={result} />
              {stiff && <Stiffer told={stiff} />}
              <BaysDrawn part={part} result={result} />
            </>
          ) : (
            <p className="py-10 text-[1rem]">
              The section is drawn once the part has its size.{" "}
              <Link to={`/jobs/${job.id}/measure`} className="link">
                Measure it
              </Link>
            </p>
          )}
        </>
      }
      sheet={
        <>
          <QuickLineField key={part.id} part={part} />
          <StackMoves part={part} />
          <UsePick
            value={part.use_id}
            path={`parts.${index}.use_id`}
            label="Its plies are laid in"
            onChange={(use_id) => edit((before) => withPart(before, part.id, (old) => ({ ...old, use_id })))}
          />
          <ShelfWords kinds={["fabric"]} />
          <StepCautions step="stack" />
          {empty && part.plies.length === 0 ? (
            <div className="border-l border-mid pl-3">
              <p>{empty.message}. From the surface outward, weight then kind:</p>
              <p className="fig mt-1 text-[1.0625rem]">2x 450 csm, 600 biax 45, 300 cloth +50</p>
            </div>
          ) : (
            result && (
              <Suspense>
                <Ledger
                  part={part}
                  index={index}
                  result={result}
                  pointed={pointed}
                  onPoint={point}
                  chosen={chosen}
                  onChoose={choose}
                />
              </Suspense>
            )
          )}
          <div>
            <Choice
              label="Resin in the glass"
              value={document.practice.resin_content}
              options={contents}
              onChange={(resin_content) =>
                edit((before) => ({ ...before, practice: { ...before.practice, resin_content } }))
              }
            />
            <p className="lab mt-1">
              {part.process === "open mould"
                ? contentReasons[document.practice.resin_content]
                : `The ${part.process === "infusion" ? "infusion" : "vacuum"} bag sets its own share; this moves only what is laid by hand.`}
            </p>
          </div>
          <StifferFields key={`${part.id}.found`} part={part} index={index} />
          <Beside partId={part.id} />
          <ResinBars />
          {plan.cost && (
            <p className="flex items-baseline justify-between border-t border-rule pt-2">
              <span className="lab">
                Materials, before cutting waste{plan.cost.unpriced.length > 0 && ", as far as priced"}
              </span>
              <b className="fig text-[1.375rem]">
                <Worked about={plan.cost.total == null ? undefined : "cost"}>
                  {money(plan.cost.total ?? plan.cost.known)}
                </Worked>
              </b>
            </p>
          )}
          <StackFile part={part} />
        </>
      }
    />
  );
}

/** A ply from the library, the stack mirrored, the stack taken over from another part. */
function StackMoves({ part }: { part: Part }) {
  const { library, document, edit } = useJob();
  const others = document.parts.filter((other) => other.id !== part.id && other.plies.length > 0);
  const change = (plies: (old: Part["plies"]) => Part["plies"]) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, plies: plies(old.plies) })));
  const own = (plies: Part["plies"]) => plies.map((ply) => ({ ...ply, id: newId() }));
  const add = (id: string) => {
    const fabric = library.fabrics?.find((other) => other.id === id);
    if (!fabric) return;
    edit((before) => ({
      ...withPart(before, part.id, (old) => ({
        ...old,
        plies: [...old.plies, { ...barePly(), fabric_id: id }],
      })),
      materials: { ...before.materials, fabrics: withMaterial(before.materials.fabrics, fabric) },
    }));
  };
  const coats = library.coats ?? [];
  const addCoat = (kind: string) => {
    const coat = coats.find((other) => other.kind === kind);
    if (!coat) return;
    change((old) => [...old, { ...barePly(), coat: { ...freshCoat, kind: coat.kind, resin_gsm: coat.resin_gsm } }]);
  };
  return (
    <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-4">
      <Pick
        label="Add a ply"
        value=""
        placeholder="choose"
        options={(library.fabrics ?? []).map((fabric) => [fabric.id, fabric.name] as const)}
        onChange={add}
      />
      <Pick
        label="Add a coat"
        value=""
        placeholder="on top"
        options={coats.map((coat) => [coat.kind, coat.name] as const)}
        onChange={addCoat}
      />
      {others.length > 0 && (
        <Pick
          label="Take the stack of"
          value=""
          placeholder="another part"
          options={others.map((other) => [other.id, other.name || "a part"] as const)}
          onChange={(id) =>
            // Its named strips belong to that part: here its plies cover all.
            change(() =>
              own(others.find((other) => other.id === id)?.plies ?? []).map((ply) => ({ ...ply, band_id: "" })),
            )
          }
        />
      )}
      {part.plies.length > 0 && (
        <Button edits className="min-h-10" onClick={() => change((old) => [...old, ...own([...old].reverse())])}>
          Mirror it
        </Button>
      )}
    </div>
  );
}

/** The part from above with its bays, where it is laid in several. */
function BaysDrawn({ part, result }: { part: Part; result: PartResult }) {
  const { edit } = useJob();
  const lane = useLaneOf(part.id);
  if (!lane) return null;
  return (
    <section className="mt-4 border-t border-rule pt-3">
      <h2 className="text-[1.0625rem] font-semibold">Laid in {lane.bays?.length} bays, in this order</h2>
      <p className="lab">
        Each is wetted and fully plied before the next. Drag a seam to move it. At a seam each ply ends a little before
        the one beneath it.
      </p>
      <PartsPlan
        parts={[{ ...result, count: 1 }]}
        pairs={new Set()}
        fieldOf={() => null}
        lanes={[lane]}
        onSeams={(partId, seams) => edit((before) => withPart(before, partId, (old) => withSeams(old, seams)))}
      />
    </section>
  );
}

function Totals({ result }: { result: PartResult }) {
  const { units } = useShop();
  const size = 38;
  return (
    <div className="mt-3 grid grid-cols-2 gap-4 border-t border-rule pt-3 sm:grid-cols-4">
      <Figure
        name="Thickness"
        {...units.show("thickness", result.thickness_mm)}
        size={size}
        about={`thickness:${result.id}`}
      />
      <Figure
        name="Laminate"
        {...units.show("laminate_weight", result.laminate_gsm)}
        size={size}
        about={`laminate:${result.id}`}
      />
      <div>
        <Figure
          name="Fibre by weight"
          number={result.fibre_weight_fraction == null ? "–" : percent(result.fibre_weight_fraction)}
          unit="%"
          size={size}
          about={result.fibre_weight_fraction == null ? undefined : `fibre_share:${result.id}`}
        />
        {result.fibre_volume_fraction != null && (
          <p className="lab">
            <Worked about={`fibre_volume:${result.id}`}>{percent(result.fibre_volume_fraction)} %</Worked> by volume
          </p>
        )}
      </div>
      <Figure
        name={result.count > 1 ? "Each weighs" : "It weighs"}
        {...units.show("mass", result.weight_g)}
        size={size}
        about={`weight:${result.id}`}
      />
    </div>
  );
}
