import { Link } from "react-router";
import { PotClocks } from "../drawing/PotClocks";
import { oneIn, percent, plural } from "../format";
import { useJob, withQuantity } from "../job/context";
import { StepCautions } from "../job/JobCautions";
import { useShop } from "../shop";
import { Choice } from "../ui/Choice";
import { Figure } from "../ui/Figure";
import { useFault } from "../ui/form";
import { QuantityField } from "../ui/QuantityField";
import { Split, Title } from "./Split";
import { ResinBar } from "./Stack";

export function PotsStep() {
  const { plan, document, edit, job } = useJob();
  const { units, money } = useShop();
  const pots = plan.pots ?? [];
  const worst = pots.reduce((most, pot) => (pot.chance_lost > (most?.chance_lost ?? -1) ? pot : most), pots[0]);
  const wishes = document.pots;
  const handsFault = useFault("pots.hands");
  return (
    <Split
      path="pots"
      picture={
        <>
          <Title
            words={
              plan.stuck?.length
                ? `No pot fits ${plan.stuck.length === 1 ? "one of the works" : `${plan.stuck.length} of the works`}`
                : plan.pot_count
                  ? `${plural(plan.pot_count, "pot")}, each on the work before it kicks`
                  : "No pots yet"
            }
            under={
              pots.length
                ? "Even pots within a ply, ended where a ply ends. From the moment the parts touch:"
                : (plan.problems?.[0]?.message ?? "")
            }
          />
          {plan.stuck?.map((stuck) => (
            <div key={stuck.owner_id + stuck.labels.join()} className="mb-4 border-l-8 border-stop bg-sheet px-4 py-3">
              <p className="font-semibold">
                {stuck.owner_name}: {stuck.labels.join(", ")}
              </p>
              <p>{stuck.why}.</p>
              <table className="mt-2">
                <caption className="lab text-left">What frees it</caption>
                <tbody>
                  {stuck.levers.map((lever) => (
                    <tr key={lever.name}>
                      <td className="pr-6">{lever.name}</td>
                      <td className="fig text-right">
                        {lever.mass_g == null ? "not enough" : units.text("mass", lever.mass_g)}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          ))}
          {pots.length > 0 && <PotClocks pots={pots} contactMin={pots[0]?.ticket?.contact_min ?? 3} />}
          {!pots.length && !plan.stuck?.length && plan.problems?.[0] && (
            <Link to={`/jobs/${job.id}/${plan.problems[0].step}`} className="link">
              Go there
            </Link>
          )}
        </>
      }
      sheet={
        <>
          {worst && (
            <div>
              <Figure
                name="Chance that the tightest pot gels before it is used"
                number={oneIn(worst.chance_lost)}
                size={44}
                about={`chance:${worst.id}`}
              />
              <p className="text-[14px] text-ink-soft">
                {units.text("mass", worst.mass_g)} for {worst.labels[0]}; limited by {worst.limited_by}. Planned on{" "}
                {percent(worst.working_share)} % of its life, at most 1 in 50.
              </p>
            </div>
          )}
          <StepCautions step="pots" />
          <div className="grid grid-cols-2 items-start gap-4">
            <div>
              <Choice
                label="Pairs of hands that spread"
                value={String(wishes.hands)}
                options={[
                  ["1", "1"],
                  ["2", "2"],
                  ["3", "3"],
                  ["4", "4"],
                ]}
                onChange={(hands) => edit((before) => ({ ...before, pots: { ...before.pots, hands: Number(hands) } }))}
              />
              {handsFault && <p className="text-[13px] text-stop">{handsFault.message}</p>}
            </div>
            <QuantityField
              label="Largest pot, if you set it"
              path="pots.largest_g"
              fieldKey="pots.largest"
              dimension="mass"
              value={wishes.largest_g}
              typed={wishes.typed?.largest_g}
              optional
              placeholder="as the plan"
              onCommit={(value, words) =>
                edit((before) => ({ ...before, pots: withQuantity(before.pots, "largest_g", value, words) }))
              }
            />
          </div>
          <ResinBar resin={plan.resin} />
          {plan.resin && (
            <div className="grid grid-cols-2 gap-4 border-t border-rule pt-3">
              <Figure
                name="Have at hand, with reserve"
                {...units.show("mass", plan.resin.to_have_g)}
                size={24}
                about="to_have"
              />
              {plan.resin.part_a_g != null && (
                <Figure name="A in the pots" {...units.show("mass", plan.resin.part_a_g)} size={24} about="part_a" />
              )}
              {plan.resin.part_b_g != null && (
                <Figure name="B in the pots" {...units.show("mass", plan.resin.part_b_g)} size={24} about="part_b" />
              )}
              {plan.cost?.total != null && (
                <Figure name="Materials, before cutting waste" number={money(plan.cost.total)} size={24} about="cost" />
              )}
              {plan.resin.catalyst_ml != null && (
                <Figure name="Catalyst" {...units.show("volume", plan.resin.catalyst_ml)} size={24} about="catalyst" />
              )}
            </div>
          )}
          {worst && (
            <p>
              <Link className="link" to={`/jobs/${job.id}/lab?mass=${worst.mass_g}`}>
                Try this pot before you pour it
              </Link>{" "}
              <span className="lab">how warm, how long, what a tray buys</span>
            </p>
          )}
          {pots.length > 0 && !plan.stuck?.length && (
            <Link
              to={`/jobs/${job.id}/ticket`}
              className="flex min-h-12 items-center justify-center rounded-(--radius) bg-ink font-semibold text-sheet hover:opacity-90"
            >
              To the tickets
            </Link>
          )}
        </>
      }
    />
  );
}
