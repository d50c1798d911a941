import { useState } from "react";
import { Link } from "react-router";
import type { Part, PartResult, Plan } from "../api/client";
import { Section } from "../drawing/Section";
import { fixed, percent } from "../format";
import { Beside } from "../job/Beside";
import { newId, useJob, withMaterial, withPart } from "../job/context";
import { StepCautions } from "../job/JobCautions";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Figure } from "../ui/Figure";
import { useFault } from "../ui/form";
import { Pick } from "../ui/Pick";
import { Worked } from "../ui/Worked";
import { usePart } from "./PartPick";
import { PlyDetail } from "./PlyDetail";
import { QuickLineField } from "./QuickLineField";
import { Split, Title } from "./Split";
import { StackFile } from "./StackFile";

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
  const { units } = useShop();
  const { part, index, picker } = usePart();
  const [pointed, point] = useState("");
  const [chosen, choose] = useState("");
  const result = plan.parts?.find((other) => other.id === part?.id);
  const empty = useFault(`parts.${index}.plies`);
  if (!part)
    return (
      <main className="p-6">
        <p>
          No part yet.{" "}
          <Link to={`/jobs/${job.id}/measure`} className="link">
            Measure one first
          </Link>
          , then write its stack.
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
              <Section part={result} focus={pointed || chosen} onFocus={point} />
              <Totals result={result} />
            </>
          ) : (
            <p className="py-10 text-[16px]">
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
          <StepCautions step="stack" />
          {empty && part.plies.length === 0 ? (
            <div className="border-l border-mid pl-3">
              <p>{empty.message}. From the surface outward, weight then kind:</p>
              <p className="fig mt-1 text-[17px]">2x 450 csm, 600 biax 45, 300 cloth +50</p>
            </div>
          ) : (
            result && (
              <Ledger
                part={part}
                index={index}
                result={result}
                pointed={pointed}
                onPoint={point}
                chosen={chosen}
                onChoose={choose}
              />
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
                : `A ${part.process === "infusion" ? "infusion bag" : "vacuum bag"} sets its own share; this moves only what is laid by hand.`}
            </p>
          </div>
          <Beside partId={part.id} />
          <ResinBar resin={plan.resin} />
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
        plies: [
          ...old.plies,
          { id: newId(), fabric_id: id, angle: "", extra_mm: 0, fibre_weight_fraction: null, band_id: "" },
        ],
      })),
      materials: { ...before.materials, fabrics: withMaterial(before.materials.fabrics, fabric) },
    }));
  };
  return (
    <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-3">
      <Pick
        label="Add a ply"
        value=""
        placeholder="from the library"
        options={(library.fabrics ?? []).map((fabric) => [fabric.id, fabric.name] as const)}
        onChange={add}
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
        <Button className="min-h-10" onClick={() => change((old) => [...old, ...own([...old].reverse())])}>
          Mirror the stack
        </Button>
      )}
    </div>
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
      <Figure
        name="Fibre by weight"
        number={result.fibre_weight_fraction == null ? "–" : percent(result.fibre_weight_fraction)}
        unit="%"
        size={size}
        about={result.fibre_weight_fraction == null ? undefined : `fibre_share:${result.id}`}
      />
      <Figure
        name={result.count > 1 ? "Each weighs" : "It weighs"}
        {...units.show("mass", result.fibre_g + result.resin_in_plies_g)}
        size={size}
        about={`weight:${result.id}`}
      />
    </div>
  );
}

function Ledger({
  part,
  index,
  result,
  pointed,
  onPoint,
  chosen,
  onChoose,
}: {
  part: Part;
  index: number;
  result: PartResult;
  pointed: string;
  onPoint: (id: string) => void;
  chosen: string;
  onChoose: (id: string) => void;
}) {
  const { edit, plan } = useJob();
  const { units } = useShop();
  const change = (plies: (old: Part["plies"]) => Part["plies"]) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, plies: plies(old.plies) })));
  // One unit down the column, whatever the set: grams, or ounces.
  const column = units.axis("mass");
  const missing = plan.problems?.filter((problem) => problem.path.startsWith(`parts.${index}.plies.`));
  return (
    <div>
      <table className="w-full text-right">
        <caption className="sr-only">Plies from the surface outward</caption>
        <thead className="lab">
          <tr className="border-b border-rule">
            <th className="py-1.5 text-left font-normal" colSpan={2}>
              Ply, from the surface
            </th>
            <th className="font-normal">fibre</th>
            <th className="font-normal">resin : fibre</th>
            <th className="font-normal">fibre {column.unit}</th>
            <th className="font-normal">resin {column.unit}</th>
          </tr>
        </thead>
        <tbody>
          {part.plies.map((ply, at) => (
            <PlyRows
              key={ply.id}
              part={part}
              index={index}
              at={at}
              found={result.plies.find((other) => other.id === ply.id)}
              count={result.count}
              lit={ply.id === (pointed || chosen)}
              open={chosen === ply.id}
              onPoint={onPoint}
              onChoose={onChoose}
              change={change}
            />
          ))}
        </tbody>
      </table>
      {missing?.map((problem) => (
        <p key={problem.path} className="mt-1 text-[13px] text-stop">
          {problem.message}
        </p>
      ))}
      {result.plies[0] && (
        <p className="lab mt-1.5">
          Fibre share: {(result.plies.find((ply) => ply.id === (pointed || chosen)) ?? result.plies[0]).fraction_source}
        </p>
      )}
    </div>
  );
}

/** One ply of the ledger; chosen, it opens what it has of its own. One that cannot be worked out keeps its row. */
function PlyRows({
  part,
  index,
  at,
  found,
  count,
  lit,
  open,
  onPoint,
  onChoose,
  change,
}: {
  part: Part;
  index: number;
  at: number;
  found: PartResult["plies"][number] | undefined;
  count: number;
  lit: boolean;
  open: boolean;
  onPoint: (id: string) => void;
  onChoose: (id: string) => void;
  change: (plies: (old: Part["plies"]) => Part["plies"]) => void;
}) {
  const { document } = useJob();
  const { units } = useShop();
  const column = units.axis("mass");
  const grams = (value: number) => fixed(column.shown(value), column.unit === "g" ? 0 : 1);
  const ply = part.plies[at];
  if (!ply) return null;
  const fabric = document.materials.fabrics.find((other) => other.id === ply.fabric_id);
  const band = part.bands.find((other) => other.id === ply.band_id);
  const move = (by: number) =>
    change((old) => {
      const next = old.filter((other) => other.id !== ply.id);
      next.splice(Math.max(0, at + by), 0, ply);
      return next;
    });
  return (
    <>
      <tr
        data-path={`parts.${index}.plies.${at}`}
        onPointerEnter={() => onPoint(ply.id)}
        onPointerLeave={() => onPoint("")}
        className={`group border-b border-rule-faint ${lit ? "bg-floor shadow-[inset_3px_0_0_var(--color-ink)]" : ""}`}
      >
        <td className="lab w-6 py-1.5 pl-2 text-left">{at + 1}</td>
        <td className="text-left">
          <button
            type="button"
            className="text-left text-[15.5px] leading-tight"
            onFocus={() => onChoose(ply.id)}
            onClick={() => onChoose(ply.id)}
          >
            {found?.name ?? fabric?.name ?? ply.fabric_id}
            {ply.angle ? ` ±${ply.angle}` : ""}
            {band ? <span className="lab"> @ {band.name}</span> : null}
            {found?.extra_mm ? <span className="lab"> +{units.words("size", found.extra_mm)}</span> : null}
          </button>
          {found && (
            <span className="lab">
              {found.layers_mean > 1 && ` × ${fixed(found.layers_mean, 2)} layers`}
              {!found.stays && " comes off"}
            </span>
          )}
          {open && (
            <span className="flex flex-wrap gap-x-3 text-[13px]">
              <Button look="text" disabled={at === 0} onClick={() => move(-1)}>
                earlier
              </Button>
              <Button look="text" disabled={at === part.plies.length - 1} onClick={() => move(1)}>
                later
              </Button>
              <Button
                look="text"
                onClick={() =>
                  change((old) =>
                    old.flatMap((other) => (other.id === ply.id ? [other, { ...other, id: newId() }] : [other])),
                  )
                }
              >
                double
              </Button>
              <Button look="text" onClick={() => change((old) => old.filter((other) => other.id !== ply.id))}>
                remove
              </Button>
            </span>
          )}
        </td>
        <td className="fig" title={found?.fraction_source}>
          {found?.fibre_weight_fraction == null ? "–" : `${percent(found.fibre_weight_fraction)} %`}
        </td>
        <td className="fig">{found?.resin_to_fibre == null ? "–" : `${fixed(found.resin_to_fibre, 2)} : 1`}</td>
        <td className="fig">{found ? grams(found.fibre_g * count) : "–"}</td>
        <td className="fig text-[16px]">
          {found ? <Worked about={`ply_resin:${ply.id}`}>{grams(found.resin_g * count)}</Worked> : "–"}
        </td>
      </tr>
      {open && (
        <tr>
          <td />
          <td colSpan={5}>
            <PlyDetail part={part} index={index} at={at} />
          </td>
        </tr>
      )}
    </>
  );
}

/** Where the job's resin goes: one bar, each amount a line of its own. */
export function ResinBar({ resin }: { resin: Plan["resin"] }) {
  const { units } = useShop();
  if (!resin) return null;
  const lines = [
    ["stays in the fibre", resin.in_plies_g, "bg-mid"],
    ["first wet-out", resin.first_wet_out_g, "bg-resin-dark"],
    ["fillets", resin.in_joints_g, "bg-resin-light"],
    ["mopped off", resin.mopped_off_g, "bg-fresh"],
    [
      "cup, brush, roller",
      resin.left_in_vessels_g,
      "bg-[repeating-linear-gradient(-45deg,var(--color-mid)_0_3px,var(--color-sheet)_3px_6px)]",
    ],
    [
      "over, in small pots",
      resin.surplus_g,
      "bg-[repeating-linear-gradient(45deg,var(--color-fresh)_0_2px,var(--color-sheet)_2px_6px)]",
    ],
  ] as const;
  const shown = lines.filter(([, grams]) => grams >= 1);
  return (
    <div>
      <div className="flex items-end justify-between">
        <span className="lab">To mix for this job</span>
        <Figure {...units.show("mass", resin.mixed_g)} size={34} about="mixed" />
      </div>
      <div className="mt-1 flex h-6 overflow-hidden border border-ink" aria-hidden="true">
        {shown.map(([name, grams, tint]) => (
          <span key={name} className={tint} style={{ flexGrow: grams, flexBasis: 0 }} />
        ))}
      </div>
      <ul className="mt-1.5 grid grid-cols-2 gap-x-6 text-[13.5px]">
        {shown.map(([name, grams, tint]) => (
          <li key={name} className="flex items-center gap-2">
            <span className={`h-3 w-3 shrink-0 border border-ink ${tint}`} aria-hidden="true" />
            {name}
            <span className="fig ml-auto">{units.text("mass", grams)}</span>
          </li>
        ))}
        <li className="flex items-center gap-2 text-ink-soft">
          <span className="h-3 w-3 shrink-0 border border-ink" aria-hidden="true" />
          reserve, kept in the tin
          <span className="fig ml-auto">{units.text("mass", resin.reserve_g)}</span>
        </li>
      </ul>
    </div>
  );
}
