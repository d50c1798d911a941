import type { ResinResult } from "../api/client";
import { useJob } from "../job/context";
import { useShop } from "../shop";
import { Figure } from "../ui/Figure";
import { ResinBar } from "./ResinBar";

/** What of each resin is mixed, and what to have at hand; the cost of all after the last. */
export function ResinAmounts() {
  const { plan } = useJob();
  const { money } = useShop();
  return (
    <>
      {plan.resins.map((told, at) => (
        <div key={told.id}>
          <ResinBar told={told} named={plan.resins.length > 1} first={at === 0} />
          <AtHand told={told} first={at === 0} />
        </div>
      ))}
      {plan.cost?.total != null && (
        <Figure name="Materials as laid" number={money(plan.cost.total)} size={24} about="cost" />
      )}
    </>
  );
}

function AtHand({ told, first }: { told: ResinResult; first: boolean }) {
  const { units } = useShop();
  const use = told.use;
  if (!use?.mixed_g) return null;
  const own = (working: string) => (first ? working : `${working}:${told.id}`);
  const volume = (name: string, ml: number | null | undefined, about?: string) =>
    ml != null && <Figure name={name} {...units.show("volume", ml)} size={24} about={about} />;
  const mass = (name: string, grams: number | null | undefined, about: string) =>
    grams != null && <Figure name={name} {...units.show("mass", grams)} size={24} about={own(about)} />;
  return (
    <div className="mt-3 grid grid-cols-2 gap-4 border-t border-rule pt-3">
      {mass("Have at hand, with reserve", use.to_have_g, "to_have")}
      {use.part_a_ml != null ? (
        <>
          {volume("A in the pots", use.part_a_ml)}
          {volume("B in the pots", use.part_b_ml)}
        </>
      ) : (
        <>
          {mass("A in the pots", use.part_a_g, "part_a")}
          {mass("B in the pots", use.part_b_g, "part_b")}
        </>
      )}
      {volume("Catalyst", use.catalyst_ml, own("catalyst"))}
    </div>
  );
}
