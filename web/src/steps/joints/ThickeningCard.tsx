import { ToggleGroup } from "radix-ui";
import type { Joint, JointResult } from "../../api/client";
import { ConsistencyPicture } from "../../drawing/ConsistencyPicture";
import { fixed, percent } from "../../format";
import { useJob, withJoint, withMaterial } from "../../job/context";
import { useShop } from "../../shop";
import { useFault } from "../../ui/form";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { ResinInHand } from "../ResinInHand";

const words = ["runs", "drapes", "peaks", "stands"] as const;
const looks = {
  runs: "pours like thin paint",
  drapes: "falls in a sheet, levels slowly",
  peaks: "holds a soft peak",
  stands: "stays put on a vertical face, as thick as peanut butter",
};

/** How the paste is made: what to stir in, until it stands how, and what that comes to by volume, weight and cups. */
export function ThickeningCard({
  joint,
  index,
  result,
}: {
  joint: Joint;
  index: number;
  result: JointResult | undefined;
}) {
  const { edit } = useJob();
  const change = (next: Partial<Joint>) =>
    edit((before) => withJoint(before, joint.id, (old) => ({ ...old, ...next })));
  const wet = useFault(`joints.${index}.consistency`);
  const told = new Map(result?.filler_words?.map((word) => [word.consistency, word]));
  return (
    <section aria-label="Thickening" className="space-y-3 border-t border-rule pt-3">
      <ToggleGroup.Root
        type="single"
        aria-label="Consistency"
        value={joint.consistency}
        onValueChange={(next) => next && change({ consistency: next as Joint["consistency"] })}
        className="grid grid-cols-4 rounded-(--radius) border border-rule"
      >
        {words.map((word) => (
          <ToggleGroup.Item
            key={word}
            value={word}
            className="flex flex-col items-center gap-1 border-r border-rule py-2 text-[0.875rem] font-medium last:border-r-0 hover:bg-rule-faint data-[state=on]:bg-ink data-[state=on]:text-sheet data-[state=on]:hover:bg-ink"
          >
            <ConsistencyPicture consistency={word} />
            {word}
            <span className="cond text-[0.7969rem] font-normal">
              {told.has(word) ? `${fixed(told.get(word)?.parts ?? 0, 1)} loose to 1` : "\u00a0"}
            </span>
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      <p className="lab -mt-1">
        It {looks[joint.consistency]}.{" "}
        {told.has(joint.consistency) && <>Parts from {told.get(joint.consistency)?.told_by}.</>}
      </p>
      {wet && <p className="text-[0.8125rem] text-stop">{wet.message}</p>}
      <Fillers joint={joint} index={index} onChange={change} />
      {result && result.paste_ml > 0 && (
        <>
          <Recipe result={result} />
          <ResinInHand key={joint.id} joint={joint} />
        </>
      )}
    </section>
  );
}

function Fillers({
  joint,
  index,
  onChange,
}: {
  joint: Joint;
  index: number;
  onChange: (next: Partial<Joint>) => void;
}) {
  const { library, document, edit } = useJob();
  const missing = useFault(`joints.${index}.filler_id`);
  const second = useFault(`joints.${index}.second_id`);
  const filler = document.materials.fillers.find((other) => other.id === joint.filler_id);
  const options = (library.fillers ?? []).map((other) => [other.id, other.name] as const);
  const take = (field: "filler_id" | "second_id", id: string) =>
    edit((before) => {
      const found = library.fillers?.find((other) => other.id === id);
      const helper = library.fillers?.find((other) => other.id === found?.helper_id);
      const fillers = [found, helper].reduce(
        (held, each) => (each ? withMaterial(held, each) : held),
        before.materials.fillers,
      );
      return {
        ...withJoint(before, joint.id, (old) => ({ ...old, [field]: id })),
        materials: { ...before.materials, fillers },
      };
    });
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 items-start gap-3">
        <Pick
          label="Filler"
          path={`joints.${index}.filler_id`}
          value={joint.filler_id}
          options={options}
          placeholder="choose the filler"
          fault={missing?.message}
          onChange={(id) => take("filler_id", id)}
        />
        <Pick
          label="and a second one"
          path={`joints.${index}.second_id`}
          value={joint.second_id || "none"}
          options={[["none", "none"], ...options.filter(([id]) => id !== joint.filler_id)]}
          placeholder="none"
          fault={second?.message}
          onChange={(id) => (id === "none" ? onChange({ second_id: "" }) : take("second_id", id))}
        />
      </div>
      {filler && (
        <p className="lab">
          {filler.uses ? `${filler.uses[0]?.toUpperCase()}${filler.uses.slice(1)}; ${filler.colour}. ` : ""}Sanding:{" "}
          {filler.sands}. {filler.structural ? "" : "Not structural. "}
          {filler.dust && `Dust: ${filler.dust}.`} {filler.note}
        </p>
      )}
      <div className="grid grid-cols-2 items-start gap-3">
        {joint.second_id ? (
          <NumberField
            label="Share of the thickening by the second, %"
            path={`joints.${index}.second_share`}
            value={Math.round(joint.second_share * 100)}
            min={5}
            max={95}
            onCommit={(share) => share != null && onChange({ second_share: share / 100 })}
          />
        ) : (
          <NumberField
            label="Your own loose parts to 1 of resin"
            path={`joints.${index}.own_parts`}
            value={joint.own_parts}
            step={0.1}
            placeholder="by the table"
            onCommit={(parts) => onChange({ own_parts: parts })}
          />
        )}
      </div>
    </div>
  );
}

/** The whole joint's recipe: resin and hardener first and mixed, then the filler. */
function Recipe({ result }: { result: JointResult }) {
  const { units } = useShop();
  const rows: [string, number | null | undefined][] = [
    ["A, resin", result.part_a_g],
    ["B, hardener", result.part_b_g],
    ["Resin", result.part_a_g == null ? result.resin_g : null],
    ["Catalyst", result.catalyst_g],
  ];
  return (
    <div>
      <table className="w-full text-right">
        <thead className="lab">
          <tr className="border-b border-rule">
            <th className="py-1 text-left font-normal">For the whole joint</th>
            <th className="font-normal">by weight</th>
            <th className="font-normal">loose</th>
            <th className="font-normal">by cup</th>
          </tr>
        </thead>
        <tbody>
          {rows
            .filter(([, grams]) => grams != null)
            .map(([name, grams]) => (
              <tr key={name} className="border-b border-rule-faint">
                <td className="py-1 text-left text-[0.9375rem]">{name}</td>
                <td className="fig text-[1rem]">{units.text("mass", grams ?? 0)}</td>
                <td />
                <td />
              </tr>
            ))}
          {result.fillers?.map((filler) => (
            <tr key={filler.filler_id} className="border-b border-rule-faint">
              <td className="py-1 text-left text-[0.9375rem]">
                {filler.name} <span className="lab">then, mixed in</span>
              </td>
              <td className="fig text-[1rem]">{units.text("mass", filler.grams)}</td>
              <td className="fig text-[1rem]">{units.text("volume", filler.loose_ml)}</td>
              <td className="cond text-[0.875rem] whitespace-nowrap">{filler.cups}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="lab mt-1">
        {result.reaches && `This much ${result.reaches}, by the table. `}
        Paste of {units.text("density", result.density_g_per_ml ?? 0)}, {percent(result.filler_mass_fraction ?? 0)} %
        filler by weight, {percent(result.solids_by_volume ?? 0)} % by volume; with the air that stirring leaves about{" "}
        {units.text("volume", result.with_air_ml ?? 0)} (memory).
      </p>
    </div>
  );
}
