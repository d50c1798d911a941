import { Link } from "react-router";
import type { Chemistry, Plan } from "../api/client";
import { GelChart } from "../drawing/GelChart";
import { asRead, fixed, longTime, minutes, plain, withArticle } from "../format";
import { useJob, withMaterial } from "../job/context";
import { StepCautions } from "../job/JobCautions";
import { usePotSize } from "../job/potSize";
import { useResinInHand, withProductsInUse, withUse } from "../job/resins";
import { ShelfWords } from "../job/ShelfWords";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Figure } from "../ui/Figure";
import { useFault } from "../ui/form";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { Ruler } from "../ui/Ruler";
import { TextField } from "../ui/TextField";
import { Blend } from "./Blend";
import { LabelTable } from "./LabelTable";
import { useLabelTimes } from "./labelTimes";
import { ResinsInUse } from "./ResinsInUse";
import { Split, Title } from "./Split";

const PERCENT = { shown: (value: number) => value, value: (shown: number) => shown };

export function ChemistryStep() {
  const { plan, document, library, edit, tryRoom, triedRoomC } = useJob();
  const { units } = useShop();
  const label = useLabelTimes();
  const { use, told, path, own: working } = useResinInHand();
  const missing = useFault(`${path}.resin_id`);
  const chemistry = told?.chemistry;
  const chosen = use.resin_id;
  const onShelf = (library.resins ?? []).map((resin) => [resin.id, resin.name] as const);
  const own = document.materials.resins.find((resin) => resin.id === chosen && !onShelf.some(([id]) => id === chosen));
  const choose = (id: string) => {
    const resin = library.resins?.find((other) => other.id === id);
    if (!resin) return;
    const fresh = { hardener_id: null, blend_id: null, catalyst_pct: null, dose_words: "", tin_ratio: "" };
    edit((before) =>
      withProductsInUse({
        ...withUse(before, use.id, (old) => ({ ...old, ...fresh, resin_id: id })),
        materials: { ...before.materials, resins: withMaterial(before.materials.resins, resin) },
      }),
    );
  };
  return (
    <Split
      picture={
        chemistry ? (
          // Stays in sight, so that the lines are seen to move while the label is typed beside them.
          <div className="lg:sticky lg:top-2">
            <Title
              words={verdict(chemistry)}
              about={chemistry.life_min != null ? working("life") : undefined}
              under={chemistry.reason}
            />
            <GelChart
              chemistry={chemistry}
              roomC={triedRoomC ?? plan.conditions.room_c}
              onTry={tryRoom}
              onMove={label?.set}
              onRemove={label?.remove}
            />
            <div className="lab flex flex-wrap justify-between gap-x-6 border-t border-rule pt-2">
              {chemistry.one_part ? (
                <span>■ as its sheet states</span>
              ) : (
                <>
                  <span>■ off the label, to drag</span>
                  <span>× gelled here</span>
                  <span>shaded: where 95 of 100 gel</span>
                </>
              )}
              {chemistry.two_part && <span>thick: the room it is made for</span>}
              <span className="text-ink">{chemistry.shop_words}</span>
            </div>
            <p className="lab">
              {chemistry.one_part
                ? "Lines: how long it can be used once it is poured, when it is tacky, and by when it must be covered. Your data sheet wins."
                : chemistry.two_part
                  ? `Lines: the life of a ${units.text("mass", chemistry.chart.pot_g ?? 100)} pot in its cup, by the label and the heat model. Your data sheet wins.`
                  : `Lines: gel time by dose (${units.words("temperature_difference", 10)} warmer or twice the catalyst halves it, until the label says otherwise).`}
              {chemistry.rough && " Roughly, for a moment: the exact table is being worked out."}
            </p>
            <Forgotten chemistry={chemistry} />
          </div>
        ) : (
          <>
            <Title words="Which resin do you hold?" />
            <p className="max-w-[46ch] text-[1rem]">
              Choose your resin in the list. The room is {units.text("temperature", plan.conditions.room_c)}; the
              hardener or the dose follows from that.
            </p>
          </>
        )
      }
      sheet={
        <>
          <ResinsInUse />
          <Pick
            label="Resin"
            path={`${path}.resin_id`}
            value={chosen}
            options={own ? [...onShelf, [own.id, own.name] as const] : onShelf}
            onChange={choose}
            placeholder="choose the resin you hold"
            fault={missing?.message}
          />
          <ShelfWords kinds={["resin"]} />
          <StepCautions step="chemistry" />
          {chemistry &&
            (chemistry.one_part ? (
              <OnePart chemistry={chemistry} plan={plan} />
            ) : chemistry.dose ? (
              <Dose chemistry={chemistry} plan={plan} />
            ) : (
              <TwoPart chemistry={chemistry} plan={plan} />
            ))}
          <LabelTable />
        </>
      }
    />
  );
}

function verdict(chemistry: Chemistry): string {
  const range = chemistry.life_give_or_take_min;
  return range && range >= 1 ? `${chemistry.sentence}, give or take ${fixed(range, 0)}` : chemistry.sentence;
}

/** What the job's largest pot comes to if nobody takes it out of its cup. */
function Forgotten({ chemistry }: { chemistry: Chemistry }) {
  const { units } = useShop();
  const { job } = useJob();
  const { use } = useResinInHand();
  if (!chemistry.peak_words || chemistry.life_of_pot_g == null) return null;
  return (
    <p className="text-[0.875rem]">
      Left in its cup, {withArticle(units.text("mass", chemistry.life_of_pot_g))} pot comes to {chemistry.peak_words}.{" "}
      <Link className="link" to={`/jobs/${job.id}/lab?mass=${chemistry.life_of_pot_g}&resin=${use.id}`}>
        Try it in the pot lab
      </Link>
    </p>
  );
}

/** The numbers for the job's largest pot, as the ticket will show them. */
function LargestPot({ chemistry, plan }: { chemistry: Chemistry; plan: Plan }) {
  const size = usePotSize();
  const { use } = useResinInHand();
  const pot = plan.pots?.find((other) => other.use_id === use.id && other.mass_g === chemistry.life_of_pot_g);
  if (!pot?.ticket) return null;
  return (
    <div>
      <div className="lab">
        For {withArticle(size.text(pot.mass_g))} pot, by {pot.ticket.by}
      </div>
      <div className="flex flex-wrap items-end gap-x-7">
        {pot.ticket.pours.map((pour, at) => (
          <Figure
            key={pour.what}
            number={asRead(pour.amount)}
            unit={`${pour.unit} ${pour.part === "all" ? "" : pour.part}`}
            size={44}
            about={`${at ? "second" : "first"}_pour:${pot.id}`}
          />
        ))}
      </div>
      {chemistry.two_part && (
        <p className="text-[0.875rem]">
          {chemistry.ratio_by_weight
            ? chemistry.ratio_remark || `${chemistry.ratio_by_weight} by weight`
            : `${chemistry.ratio_by_volume} by volume; ${chemistry.ratio_remark}`}
        </p>
      )}
    </div>
  );
}

function Basis() {
  const { document, edit } = useJob();
  const fault = useFault("practice.basis");
  return (
    <div>
      <Choice
        label="Measured by"
        value={document.practice.basis}
        options={[
          ["weight", "weight"],
          ["volume", "volume"],
        ]}
        onChange={(basis) => edit((before) => ({ ...before, practice: { ...before.practice, basis } }))}
      />
      {fault ? (
        <p role="alert" className="mt-1 text-[0.8125rem] text-stop">
          {fault.message}
        </p>
      ) : (
        <p className="lab mt-1">
          {document.practice.basis === "weight"
            ? "More exact where a scale is at the bench."
            : "Marked cups: quicker, good enough."}
        </p>
      )}
    </div>
  );
}

function TwoPart({ chemistry, plan }: { chemistry: Chemistry; plan: Plan }) {
  const { document, edit } = useJob();
  const { units, mayWrite } = useShop();
  const { use: spec, path, change, measure } = useResinInHand();
  return (
    <>
      <LargestPot chemistry={chemistry} plan={plan} />
      <ul
        data-path={`${path}.hardener_id`}
        className="border-t border-rule"
        aria-label="Hardeners, fast to slow, with the life of this pot"
      >
        {chemistry.hardeners.map((hardener) => (
          <li
            key={hardener.id}
            className={`grid grid-cols-[86px_92px_1fr] items-baseline gap-3 border-b border-rule-faint py-2 pl-3 ${hardener.chosen ? "bg-resin-pale shadow-[inset_4px_0_0_var(--color-mid)]" : ""}`}
          >
            <button
              type="button"
              className={`text-left text-[1rem] hover:underline ${hardener.chosen ? "font-semibold" : ""}`}
              title={`Take ${hardener.name}`}
              disabled={hardener.blend || !mayWrite}
              onClick={() => change({ hardener_id: hardener.id, blend_id: null })}
            >
              {hardener.name}
            </button>
            <span className="fig text-right text-[1.25rem]">
              {hardener.pot_life_min == null ? "–" : minutes(hardener.pot_life_min)}{" "}
              <span className="text-[0.8125rem] font-normal text-ink-soft">min</span>
            </span>
            <span className="pr-2 text-[0.8438rem] leading-snug">
              {hardener.reason}
              <span className="lab block">
                {units.number("temperature", hardener.band_low_c)} to {units.text("temperature", hardener.band_high_c)}
                {hardener.next_ply_from_min != null &&
                  hardener.sandable_min != null &&
                  ` · next ply from ${longTime(hardener.next_ply_from_min)} · sand ${longTime(hardener.sandable_min)}`}
              </span>
            </span>
          </li>
        ))}
      </ul>
      {spec.hardener_id && (
        <Button edits onClick={() => change({ hardener_id: null, blend_id: null })}>
          Let the plan choose the hardener
        </Button>
      )}
      <Blend key={spec.id} chemistry={chemistry} spec={spec} path={path} change={change} />
      <div className="grid grid-cols-2 gap-4">
        <Choice
          label="School"
          value={document.practice.hardener_school}
          options={[
            ["band", "its band"],
            ["one step slower", "a step slower"],
          ]}
          onChange={(hardener_school) =>
            edit((before) => ({ ...before, practice: { ...before.practice, hardener_school } }))
          }
        />
        <Basis />
        <QuantityField
          label="To be sanded within"
          path={`${path}.deadline_h`}
          fieldKey={`${spec.id}.deadline`}
          dimension="time"
          unit="h"
          value={spec.deadline_h}
          typed={spec.typed?.deadline_h}
          optional
          placeholder="24 h"
          onCommit={(value, words) => measure("deadline_h", value, words)}
        />
        <Choice
          label="Mixing"
          value={document.practice.mixing}
          options={[
            ["two pots", "two pots"],
            ["one pot", "one pot"],
          ]}
          onChange={(mixing) => edit((before) => ({ ...before, practice: { ...before.practice, mixing } }))}
        />
      </div>
      <div className="grid grid-cols-[1fr_auto] items-end gap-4">
        <TextField
          label="What your tin says, to check it"
          path={`${path}.tin_ratio`}
          value={spec.tin_ratio}
          placeholder="2:1, 100:45, 45 phr"
          hint={chemistry.tin_ratio_words ? `read as ${chemistry.tin_ratio_words}` : ""}
          onCommit={(tin_ratio) => change({ tin_ratio })}
        />
        <Choice
          label="by"
          value={spec.tin_ratio_basis}
          options={[
            ["volume", "volume"],
            ["weight", "weight"],
          ]}
          onChange={(tin_ratio_basis) => change({ tin_ratio_basis })}
        />
      </div>
      <CureClocks chemistry={chemistry} />
      <Signs chemistry={chemistry} />
    </>
  );
}

/** What only means mixed, so that no good pot is thrown away, and what means that it cures. */
function Signs({ chemistry }: { chemistry: Chemistry }) {
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 border-t border-rule pt-3 text-[0.875rem]">
      <dt className="lab">means mixed</dt>
      <dd>{chemistry.mixed_signs || "Colour even all through, the haze gone clear."}</dd>
      <dt className="lab">means curing</dt>
      <dd>{chemistry.curing_signs}</dd>
      <dt className="lab">the tin</dt>
      <dd>{chemistry.keeps}</dd>
    </dl>
  );
}

/** What a thin layer comes to, and when: there is no one cure time. */
function CureClocks({ chemistry }: { chemistry: Chemistry }) {
  const clocks = chemistry.clocks;
  if (!clocks) return null;
  const rows = [
    ["takes the next ply from", clocks.next_ply_from_min],
    ...(chemistry.one_part ? [] : [["trimmed with a knife", clocks.knife_trim_min] as const]),
    ["takes the next ply until", clocks.window_closes_min],
    ["sanded, turned over", clocks.sandable_min],
    ...(chemistry.one_part
      ? []
      : ([
          ["clamps out, off the mould", clocks.clamps_out_min ?? 0],
          ["loaded", clocks.load_min],
        ] as const)),
    ["cured through", clocks.full_cure_min ?? 0],
  ] as const;
  return (
    <section aria-label="Spread thin">
      <h2 className="lab pb-1">
        Spread thin today, from its {chemistry.one_part ? "pouring" : "mixing"} (memory; what the label states wins;
        touch decides)
      </h2>
      <dl className="grid grid-cols-[1fr_auto_1fr_auto] gap-x-4 text-[0.875rem]">
        {rows.map(([words, min]) => (
          <div key={words} className="col-span-2 grid grid-cols-subgrid border-b border-rule-faint py-1">
            <dt>{words}</dt>
            <dd className="fig text-right text-[1rem]">{min === 0 ? "at once" : longTime(min)}</dd>
          </div>
        ))}
      </dl>
      {clocks.remark && <p className="mt-2 border-l-4 border-ink pl-3 text-[0.875rem]">{clocks.remark}</p>}
    </section>
  );
}

/** The dose of the largest pot by each tool, with what it really is and how far half a mark puts it out. */
function DoseWays({ chemistry }: { chemistry: Chemistry }) {
  const { units } = useShop();
  const ways = chemistry.dose_ways ?? [];
  if (!ways.length || chemistry.life_of_pot_g == null) return null;
  return (
    <table className="w-full">
      <caption className="lab pb-1 text-left">
        The dose of {units.text("mass", chemistry.life_of_pot_g)} of resin, by the tool in hand
      </caption>
      <tbody>
        {ways.map((way) => (
          <tr key={way.tool} className="border-b border-rule-faint">
            <td className="py-1.5">{way.tool}</td>
            <td className="fig text-right text-[1.25rem]">
              {asRead(way.amount)} <span className="text-[0.8125rem] font-normal text-ink-soft">{way.unit}</span>
            </td>
            <td className="fig pl-4 text-right">{fixed(way.real_pct, 2)} %</td>
            <td className={`pl-4 text-right text-[0.8438rem] ${way.fit ? "text-ink-soft" : "text-resin-ink"}`}>
              {way.fit ? `± ${fixed(way.error_pct, way.error_pct < 1 ? 1 : 0)} % of it` : way.words}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What is used out of one tin: nothing to choose, but its pot and its times. */
function OnePart({ chemistry, plan }: { chemistry: Chemistry; plan: Plan }) {
  return (
    <>
      <LargestPot chemistry={chemistry} plan={plan} />
      <CureClocks chemistry={chemistry} />
      <Signs chemistry={chemistry} />
    </>
  );
}

function Dose({ chemistry, plan }: { chemistry: Chemistry; plan: Plan }) {
  const { units } = useShop();
  const { use: spec, path, change, measure } = useResinInHand();
  const dose = chemistry.dose;
  if (!dose) return null;
  return (
    <>
      <LargestPot chemistry={chemistry} plan={plan} />
      <div className="grid grid-cols-2 gap-4">
        <QuantityField
          label="Gel time wanted"
          path={`${path}.wanted_gel_min`}
          fieldKey={`${spec.id}.wanted`}
          dimension="time"
          value={spec.wanted_gel_min}
          typed={spec.typed?.wanted_gel_min}
          placeholder={`${fixed(dose.wanted_gel_min, 0)} min`}
          optional
          large
          onCommit={(value, words) => {
            change({ catalyst_pct: null, dose_words: "" });
            measure("wanted_gel_min", value, words);
          }}
        />
        <div>
          <TextField
            label="or your own dose, as the tin prints it"
            path={`${path}.dose_words`}
            value={spec.dose_words || (spec.catalyst_pct == null ? "" : `${plain(spec.catalyst_pct)} %`)}
            placeholder={`${fixed(dose.catalyst_pct, 2)} %, ${units.unit("mass") === "g" ? "9 ml per litre" : "9 cc per quart"}`}
            className="fig min-h-12 text-[1.125rem]"
            onCommit={(dose_words) => change({ dose_words, catalyst_pct: null })}
          />
          <p className="lab mt-1">{dose.understood || `the product takes ${dose.least_pct} to ${dose.most_pct} %`}</p>
        </div>
      </div>
      <Ruler
        label="Dose of catalyst"
        value={dose.catalyst_pct}
        low={Math.min(dose.least_pct, dose.catalyst_pct)}
        high={Math.max(dose.most_pct, dose.catalyst_pct)}
        step={0.05}
        good={[dose.least_pct, dose.most_pct]}
        axis={PERCENT}
        words={`${fixed(dose.catalyst_pct, 2)} %, gels in ${minutes(dose.gel_min)} min`}
        className="w-full"
        onScrub={(catalyst_pct) => change({ catalyst_pct: Number(catalyst_pct.toFixed(2)), dose_words: "" })}
      />
      {(spec.catalyst_pct != null || spec.dose_words) && (
        <Button edits onClick={() => change({ catalyst_pct: null, dose_words: "" })}>
          Let the plan solve the dose
        </Button>
      )}
      {dose.instead.length > 0 && (
        <div className="border-l border-ink pl-3">
          <p>The product's {dose.limit} stands in the way. Instead:</p>
          <ul className="list-disc pl-5">
            {dose.instead.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </div>
      )}
      <table className="w-full text-right">
        <caption className="lab pb-1 text-left">Minutes to gel, by dose and room</caption>
        <thead className="lab">
          <tr className="border-b border-rule">
            <th className="py-1 text-left font-normal">dose</th>
            {dose.chart_temperatures_c.map((t) => (
              <th key={t} className="font-normal">
                {units.words("temperature", t)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {dose.chart.map((row) => (
            <tr key={row.catalyst_pct} className="border-b border-rule-faint">
              <td className="fig py-1.5 text-left">{fixed(row.catalyst_pct, 2)} %</td>
              {row.gel_min.map((gel, at) => (
                <td key={dose.chart_temperatures_c[at]} className="fig">
                  {minutes(gel)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <DoseWays chemistry={chemistry} />
      <CureClocks chemistry={chemistry} />
      <Signs chemistry={chemistry} />
    </>
  );
}
