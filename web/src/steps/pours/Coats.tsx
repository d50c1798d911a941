import { useState } from "react";
import type { CoatResult, RunSheet } from "../../api/client";
import { CoatClock } from "../../drawing/CoatClock";
import { Films } from "../../drawing/Films";
import { PartsPlan } from "../../drawing/PartsPlan";
import { fixed, longTime, percent } from "../../format";
import { useJob } from "../../job/context";
import { StepCautions } from "../../job/JobCautions";
import { usePointedPath } from "../../job/usePointing";
import { useSheetClock } from "../../job/useSheetClock";
import { useShop } from "../../shop";
import { Figure } from "../../ui/Figure";
import { Split, Title } from "../Split";
import { substrates } from "../substrates";
import { CoatFields } from "./CoatFields";

const TESTS: Record<CoatResult["test"], string> = {
  thumb: "A gloved thumb leaves a mark and comes away clean: the next may go on.",
  "brush mark": "A dry brush dabbed on it leaves marks and pulls no hairs: the next may go on.",
  none: "It is covered wet.",
};

/** The coats of a job: films over their ground, their windows on one clock, the areas they are opened in. */
export function Coats({ more }: { more?: React.ReactNode }) {
  const { document, plan } = useJob();
  const { units } = useShop();
  const pointed = usePointedPath();
  const coats = plan.coats ?? [];
  const [chosen, choose] = useState(coats.find((coat) => pointed.startsWith(coat.path))?.ply_id ?? "");
  const coat = coats.find((each) => each.ply_id === chosen) ?? coats[0];
  if (!coat) return null;
  const part = document.parts.find((each) => each.id === coat.part_id);
  const planned = plan.parts?.find((each) => each.id === coat.part_id);
  const coated = [...new Set(coats.map((each) => each.part_id))];
  const staged = (plan.run_sheet?.lanes ?? []).filter((lane) => lane.owner_id === coat.part_id && lane.bays?.length);
  const total = coats.reduce((sum, each) => sum + each.resin_g + each.lost_g, 0);
  const ground = substrates.find(([value]) => value === part?.substrate)?.[1] ?? "its ground";
  return (
    <Split
      picture={
        <div className="lg:sticky lg:top-0 lg:max-h-dvh lg:overflow-y-auto">
          <div className="flex flex-wrap items-start justify-between gap-3">
            <Title words={`Coats of ${coat.part_name}`} under="Films to scale over their ground, from the bottom up" />
            <div className="flex flex-wrap gap-2">
              {coated.length > 1 &&
                coated.map((id) => {
                  const first = coats.find((each) => each.part_id === id);
                  return (
                    <button
                      key={id}
                      type="button"
                      aria-pressed={id === coat.part_id}
                      className="link min-h-9 px-1 text-[0.9062rem] aria-pressed:font-semibold aria-pressed:no-underline"
                      onClick={() => choose(first?.ply_id ?? "")}
                    >
                      {first?.part_name}
                    </button>
                  );
                })}
              {more}
            </div>
          </div>
          {planned && (
            <Films
              plies={planned.plies}
              coats={coats.filter((each) => each.part_id === coat.part_id)}
              substrate={ground.toLowerCase()}
              chosen={coat.ply_id}
              onChoose={choose}
            />
          )}
          {plan.run_sheet && (
            <section aria-label="Windows" className="mt-3 border-t border-rule pt-2">
              <h2 className="text-[0.9375rem] font-semibold">On one clock: amber is laid, blue takes the next</h2>
              <CoatClock sheet={plan.run_sheet} coats={coats.filter((each) => each.part_id === coat.part_id)} />
            </section>
          )}
          {planned && staged.length > 0 && (
            <section aria-label="Areas" className="mt-3 border-t border-rule pt-2">
              <h2 className="text-[0.9375rem] font-semibold">
                Opened in {staged[0]?.bays?.length} areas: no more at once than is covered in its window
              </h2>
              <PartsPlan parts={[planned]} pairs={new Set()} fieldOf={() => null} lanes={plan.run_sheet?.lanes ?? []} />
            </section>
          )}
        </div>
      }
      sheet={
        <>
          <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
            <Figure
              name={coat.count > 1 ? `${coat.count} ${coat.name}s` : capital(coat.name)}
              {...units.show("mass", coat.resin_g + coat.lost_g)}
              size={50}
              about={`coat:${coat.ply_id}`}
            />
            <div className="pb-1 text-[0.875rem]">
              <p>
                {units.text("film", coat.each_wet_um)} wet each, {units.text("areal_weight", coat.each_gsm)}, over{" "}
                {units.text("area", coat.area_m2)}.
              </p>
              <p className="text-ink-soft">
                {coat.product || "No resin yet"}
                {coat.lost_g > 0 && `; ${percent(coat.loss_share)} % of it stays on the tool or goes past (memory)`}.
              </p>
            </div>
          </div>
          <StepCautions step="pours" />
          <CoatFields key={coat.ply_id} told={coat} />
          <section aria-label="Next coat" className="border-t border-rule pt-3 text-[0.9062rem]">
            <h2 className="text-[0.9375rem] font-semibold">What comes on it</h2>
            <p className="mt-1">{TESTS[coat.test]}</p>
            {coat.opens_min != null && coat.closes_min != null && (
              <p className="mt-1">
                In this room from <b className="fig font-semibold">{longTime(coat.opens_min)}</b> after it was mixed,
                until <b className="fig font-semibold">{longTime(coat.closes_min)}</b>. After that it is sanded first.
              </p>
            )}
            {plan.run_sheet && <Openings told={coat} sheet={plan.run_sheet} />}
            <p className="mt-1">
              {coat.count > 1 ? "Together they dry" : "It dries"} to {units.text("film", coat.dry_um)}.
            </p>
          </section>
          {coats.length > 1 && (
            <section aria-label="All coats" className="border-t border-rule pt-3 text-[0.9062rem]">
              <h2 className="text-[0.9375rem] font-semibold">All coats of this job: {units.text("mass", total)}</h2>
              <ul className="mt-1">
                {coats.map((each) => (
                  <li key={each.ply_id} className="flex items-baseline justify-between gap-3 py-0.5">
                    <button type="button" className="link text-left" onClick={() => choose(each.ply_id)}>
                      {each.count > 1 ? `${fixed(each.count, 0)} × ` : ""}
                      {each.name}, {each.part_name}
                    </button>
                    <span className="fig whitespace-nowrap">{units.text("mass", each.resin_g + each.lost_g)}</span>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </>
      }
    />
  );
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** When each area of a coat is opened, and by when what covers it has begun. */
function Openings({ told, sheet }: { told: CoatResult; sheet: RunSheet }) {
  const { say } = useSheetClock(sheet);
  const layers = sheet.layers.filter((layer) => layer.item_ids.includes(told.ply_id));
  if (!layers.length || told.on_top) return null;
  return (
    <ul className="mt-1 list-disc pl-5 marker:text-ink-soft">
      {layers.map((layer) => (
        <li key={`${layer.bay}-${layer.first_pot}-${layer.from_min}`}>
          {layer.bay > 0 ? `Area ${layer.bay} is opened` : "Opened"} at{" "}
          <span className="fig">{say(layer.from_min)}</span>: cover it from{" "}
          <span className="fig">{say(layer.opens_min)}</span>, the last start by{" "}
          <b className="fig font-semibold">{say(layer.closes_min)}</b>.
        </li>
      ))}
    </ul>
  );
}
