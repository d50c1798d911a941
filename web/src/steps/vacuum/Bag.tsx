import { useRef } from "react";
import type { BagResult, Part } from "../../api/client";
import { BagClock } from "../../drawing/BagClock";
import { BagSection } from "../../drawing/BagSection";
import { fixed, percent } from "../../format";
import { useJob } from "../../job/context";
import { StepCautions } from "../../job/JobCautions";
import { useSheetClock } from "../../job/useSheetClock";
import { useShop } from "../../shop";
import { Figure } from "../../ui/Figure";
import { Split, Title } from "../Split";
import { BagFields } from "./BagFields";

/** A bag in section, on the clock, and what pulls on it. */
export function Bag({ part, index, more }: { part: Part; index: number; more: React.ReactNode }) {
  const { plan } = useJob();
  const bag = plan.bags?.find((each) => each.id === part.id);
  // What lies in it stands while a level that cannot be is being typed.
  const drawn = useRef(bag);
  if (bag) drawn.current = bag;
  const stacked = part.plies?.length ? drawn.current : undefined;
  return (
    <Split
      picture={
        <div className="lg:sticky lg:top-0 lg:max-h-dvh lg:overflow-y-auto">
          <div className="flex flex-wrap items-start justify-between gap-3">
            <Title
              words={`The bag over ${part.name || "this part"}`}
              under="To scale in thickness, from the mould outward"
            />
            <div className="flex flex-wrap gap-2">{more}</div>
          </div>
          {stacked && <BagSection layers={stacked.layers} name={part.name} height={stacked.infused ? 430 : 360} />}
          {!stacked && (
            <p className="max-w-[60ch] py-4 text-[0.9375rem]">
              {plan.problems?.find((problem) => problem.step === "bag")?.message ??
                "Measure the part and write its stack: then its bag is drawn here."}
            </p>
          )}
          {bag && plan.run_sheet && (bag.on_day?.length ?? 0) > 0 && (
            <section aria-label="On the clock" className="mt-3 border-t border-rule pt-2">
              <h2 className="text-[0.9375rem] font-semibold">
                {bag.infused ? "Drawn in before it gels" : "Down before the first pot gels"}
              </h2>
              <BagClock bag={bag} sheet={plan.run_sheet} />
            </section>
          )}
        </div>
      }
      sheet={
        <>
          {bag && <Hero bag={bag} />}
          <StepCautions step="bag" />
          <BagFields key={part.id} part={part} index={index} told={bag} />
          {bag && <Told bag={bag} />}
        </>
      }
    />
  );
}

function Hero({ bag }: { bag: BagResult }) {
  const days = bag.on_day ?? [];
  const { plan } = useJob();
  if (bag.infused || !days.length || !plan.run_sheet)
    return <Figure name="Presses with" number={fixed(bag.force_kn, 1)} unit="kN" size={50} />;
  const worst = days.reduce((a, b) => (b.gels_min - b.down_min < a.gels_min - a.down_min ? b : a));
  return <Deadline bag={bag} day={worst} />;
}

function Deadline({ bag, day }: { bag: BagResult; day: NonNullable<BagResult["on_day"]>[number] }) {
  const { plan } = useJob();
  const clock = useSheetClock(plan.run_sheet as NonNullable<typeof plan.run_sheet>);
  const spare = day.gels_min - day.down_min;
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
      <Figure
        name={spare < 0 ? "Bag down too late by" : "Bag down, to spare"}
        number={fixed(Math.abs(spare), 0)}
        unit="min"
        size={54}
        tone={spare < 0 ? "text-stop" : "text-ink"}
      />
      <div className="pb-1 text-[0.9062rem]">
        <p>
          Down at <b className="fig font-semibold">{clock.say(day.down_min)}</b>; the first pot has gelled at{" "}
          <b className="fig font-semibold">{clock.say(day.gels_min)}</b>.
        </p>
        <p className="text-ink-soft">
          {day.last_pot >= day.pots_in_all
            ? `The last resin may be on as late as ${clock.say(day.last_pot_by_min)}.`
            : day.last_pot > 0
              ? `Pot ${day.last_pot} is the last that may be laid under it.`
              : "Not even its first pot is laid in time."}{" "}
          Open {bag.copies > 1 ? "this one" : "it"} at {clock.say(day.opens_min)}.
        </p>
      </div>
    </div>
  );
}

function Told({ bag }: { bag: BagResult }) {
  const { units } = useShop();
  const seconds = bag.draw_down_min == null ? null : bag.draw_down_min * 60;
  const rows: [string, string][] = [
    ["Level", `${fixed(bag.level_mbar, 0)} mbar · ${fixed(bag.inhg, 1)} inHg · ${fixed(bag.vacuum_pct, 0)} %`],
    ["Presses with", `${fixed(bag.force_kn, 1)} kN, ${fixed(bag.tonnes, 1)} tonnes on it`],
    [
      "Pumped down in",
      seconds == null ? "never" : seconds < 90 ? `${fixed(seconds, 0)} s` : `${fixed(seconds / 60, 1)} min`,
    ],
    ["Film", `${units.text("area", bag.bag_m2)}, ${bag.pleats} pleats`],
    ["Tape", units.text("length", bag.tape_m)],
  ];
  if (bag.leak_mbar_l_per_s != null) {
    rows.push(["Leak", `${fixed(bag.leak_mbar_l_per_s, 2)} mbar·l/s`]);
    if (bag.keeps_min != null) rows.push(["Half its pull is lost, pump off", `after ${fixed(bag.keeps_min, 0)} min`]);
  }
  if (bag.bled_gsm > 0)
    rows.push([
      "Bleeds into what lies on it",
      `${units.text("mass", bag.bled_g)}, ${units.text("areal_weight", bag.bled_gsm)} of ${units.text("areal_weight", bag.holds_gsm)}`,
    ]);
  if (bag.by_hand_share != null && bag.bagged_share != null)
    rows.push(["Fibre by hand, under the bag", `${percent(bag.by_hand_share)} %, ${percent(bag.bagged_share)} %`]);
  return (
    <section aria-label="What the bag does" className="border-t border-rule pt-3 text-[0.9062rem]">
      <h2 className="text-[0.9375rem] font-semibold">What the bag does{bag.copies > 1 ? ", each" : ""}</h2>
      <dl className="mt-1">
        {rows.map(([name, words]) => (
          <div key={name} className="flex items-baseline justify-between gap-3 border-b border-rule-faint py-1">
            <dt>{name}</dt>
            <dd className="fig text-right">{words}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
