import type { ResinResult } from "../api/client";
import { fixed } from "../format";
import { useJob } from "../job/context";
import { useShop } from "../shop";
import { Figure } from "../ui/Figure";

/** Where each resin goes. */
export function ResinBars() {
  const { plan } = useJob();
  return plan.resins.map((told, at) => (
    <ResinBar key={told.id} told={told} named={plan.resins.length > 1} first={at === 0} />
  ));
}

/** Where a resin goes: one bar, each amount a line of its own. Gel coat of no tin of the job is told with the first. */
export function ResinBar({ told, named, first }: { told: ResinResult; named: boolean; first: boolean }) {
  const { units } = useShop();
  const { plan } = useJob();
  const resin = told.use;
  if (!resin || (named && !resin.mixed_g)) return null;
  const gelCoat = first ? plan.gel_coat_g : 0;
  const lines = [
    ["stays in the fibre", resin.in_plies_g, "bg-mid"],
    ["first wet-out", resin.first_wet_out_g, "bg-resin-dark"],
    ["coats", resin.in_coats_g, "bg-wetted"],
    ["fillets", resin.in_joints_g, "bg-resin-light"],
    ["castings", resin.in_pours_g ?? 0, "bg-resin-pale"],
    ["into what lies under the bag", resin.in_bag_g, "bg-glass"],
    ["mopped off, left on tools", resin.mopped_off_g, "bg-fresh"],
    ["runs down and drips", resin.runs_off_g ?? 0, "bg-fresh"],
    [
      "cup, brush, roller",
      resin.left_in_vessels_g,
      "bg-[repeating-linear-gradient(-45deg,var(--color-mid)_0_3px,var(--color-sheet)_3px_6px)]",
    ],
    [
      "left over, as small pots leave it",
      resin.surplus_g,
      "bg-[repeating-linear-gradient(45deg,var(--color-fresh)_0_2px,var(--color-sheet)_2px_6px)]",
    ],
  ] as const;
  const shown = lines.filter(([, grams]) => grams >= 1);
  return (
    <div className="@container">
      <div className="flex items-end justify-between">
        <span className="lab">
          To mix for this job
          {named && <b className="font-semibold text-ink">, {told.word || told.chemistry.resin_name}</b>}
        </span>
        <Figure {...units.show("mass", resin.mixed_g)} size={34} about={first ? "mixed" : `mixed:${told.id}`} />
      </div>
      <div className="mt-1 flex h-6 overflow-hidden border border-ink" aria-hidden="true">
        {shown.map(([name, grams, tint]) => (
          <span key={name} className={tint} style={{ flexGrow: grams, flexBasis: 0 }} />
        ))}
      </div>
      <ul className="mt-1.5 grid gap-x-6 text-[0.8438rem] @[400px]:grid-cols-2">
        {shown.map(([name, grams, tint]) => (
          <li key={name} className="flex items-center gap-2">
            <span className={`h-3 w-3 shrink-0 border border-ink ${tint}`} aria-hidden="true" />
            {name}
            <span className="fig ml-auto whitespace-nowrap">{units.text("mass", grams)}</span>
          </li>
        ))}
        <li className="flex items-center gap-2 text-ink-soft">
          <span className="h-3 w-3 shrink-0 border border-ink" aria-hidden="true" />
          reserve, kept in the tin: in all {fixed(100 * (resin.allowance_share ?? 0), 0)} % over what is laid
          <span className="fig ml-auto whitespace-nowrap">{units.text("mass", resin.reserve_g)}</span>
        </li>
        {gelCoat > 0 && (
          <li className="flex items-center gap-2 text-ink-soft">
            <span className="h-3 w-3 shrink-0 border border-ink" aria-hidden="true" />
            gel coat, from its own tin
            <span className="fig ml-auto whitespace-nowrap">{units.text("mass", gelCoat)}</span>
          </li>
        )}
      </ul>
    </div>
  );
}
