import type { Joint, JointResult, StandingTick } from "../../api/client";
import { plural } from "../../format";
import { useJob } from "../../job/context";
import { settled, useCorners, useTick } from "../../job/useBeforePot";
import { useShop } from "../../shop";
import { Wide } from "../../ui/Wide";

/** Every joint with its length, its paste and its pots, and which of its corners are done: none is missed. */
export function JointList({ chosen, onChoose }: { chosen: string; onChoose: (id: string) => void }) {
  const { document, plan } = useJob();
  const { units } = useShop();
  const { data } = useCorners();
  const tick = useTick("corner");
  const ticks = new Map(data?.ticks.map((each) => [each.thing, each]));
  const results = new Map(plan.joints?.map((each) => [each.id, each]));
  const sum = (of: (result: JointResult) => number) =>
    [...results.values()].reduce((total, each) => total + of(each), 0);
  const corners = Object.entries(data?.corners ?? {});
  const left = corners.filter(([thing]) => !settled(ticks.get(thing))).length;
  const widest = Math.max(...document.joints.map((joint) => runOf(joint) * cornersOf(corners, joint).length), 0);
  const pots = plan.pots?.filter((pot) => results.has(pot.owner_id)).reduce((total, pot) => total + pot.count, 0) ?? 0;
  return (
    <section aria-label="Joints of this job" className="mt-3 border-t border-rule pt-2">
      <Wide label="Joints of this job, as a table">
        <table className="w-full min-w-[560px] text-right [&_td+td]:pl-3 [&_th+th]:pl-3">
          <thead className="lab">
            <tr className="border-b border-rule">
              <th className="py-1 text-left font-normal">
                {plural(document.joints.length, "joint")}, hidden ones first on the day
              </th>
              <th className="font-normal">run</th>
              <th className="font-normal">paste</th>
              <th className="font-normal">resin</th>
              <th className="font-normal">pots</th>
              <th className="pl-4 text-left font-normal">
                {left ? `${left} of ${corners.length} to do, by length` : "all of them done"}
              </th>
            </tr>
          </thead>
          <tbody>
            {document.joints.map((joint, at) => (
              <Row
                key={joint.id}
                joint={joint}
                name={joint.name || `Joint ${at + 1}`}
                result={results.get(joint.id)}
                on={joint.id === chosen}
                onChoose={() => onChoose(joint.id)}
                corners={cornersOf(corners, joint)}
                bar={widest > 0 ? (MAP_PX * runOf(joint)) / widest : 0}
                ticks={ticks}
                onTick={(thing) =>
                  tick.mutate({ things: [thing], state: settled(ticks.get(thing)) ? "undone" : "done" })
                }
              />
            ))}
          </tbody>
          {document.joints.length > 1 && (
            <tfoot>
              <tr className="font-semibold">
                <td className="py-1.5 text-left text-[0.875rem]">All of them</td>
                <td className="fig">
                  {units.text(
                    "length",
                    sum((each) => each.run_m ?? 0),
                  )}
                </td>
                <td className="fig">
                  {units.text(
                    "volume",
                    sum((each) => each.paste_ml),
                  )}
                </td>
                <td className="fig">
                  {units.text(
                    "mass",
                    sum((each) => each.all_resin_g ?? 0),
                  )}
                </td>
                <td className="fig">{pots}</td>
                <td />
              </tr>
            </tfoot>
          )}
        </table>
      </Wide>
      {tick.isError && (
        <p role="alert" className="text-[0.8125rem] text-stop">
          Not written down: {tick.error.message}. Tap again.
        </p>
      )}
    </section>
  );
}

function Row({
  joint,
  name,
  result,
  on,
  onChoose,
  corners,
  bar,
  ticks,
  onTick,
}: {
  joint: Joint;
  name: string;
  result: JointResult | undefined;
  on: boolean;
  onChoose: () => void;
  corners: [string, string][];
  /** How long one of its corners is on the map, px. */
  bar: number;
  ticks: Map<string, StandingTick>;
  onTick: (thing: string) => void;
}) {
  const { plan } = useJob();
  const { units, mayWrite } = useShop();
  const pots = plan.pots?.filter((pot) => pot.owner_id === joint.id).reduce((sum, pot) => sum + pot.count, 0);
  return (
    <tr className={`border-b border-rule-faint ${on ? "bg-sheet" : ""}`}>
      <td className="text-left">
        <button
          type="button"
          aria-pressed={on}
          onClick={onChoose}
          className={`min-h-9 w-full px-1 text-left text-[0.9062rem] hover:underline ${on ? "font-semibold" : ""}`}
        >
          {name}
          {joint.hidden && <span className="lab"> out of reach after</span>}
        </button>
      </td>
      <td className="fig">{result?.run_m ? units.text("length", result.run_m) : "–"}</td>
      <td className="fig">{result?.paste_ml ? units.text("volume", result.paste_ml) : "–"}</td>
      <td className="fig">{result ? units.text("mass", result.all_resin_g ?? 0) : "–"}</td>
      <td className="fig">{pots || "–"}</td>
      <td className="pl-3">
        <span className="flex flex-wrap gap-1 py-1">
          {corners.slice(0, MOST_SHOWN).map(([thing, words]) => {
            const done = settled(ticks.get(thing));
            return (
              <button
                key={thing}
                type="button"
                aria-pressed={done}
                aria-label={`${words}: ${done ? "done" : "to do"}`}
                title={words}
                disabled={!mayWrite}
                onClick={() => onTick(thing)}
                style={{ width: Math.max(bar, LEAST_BAR_PX) }}
                className={`h-7 rounded-(--radius) border-2 ${done ? "border-cool bg-cool text-sheet" : "border-ink bg-sheet hover:bg-rule-faint"}`}
              >
                {done && (
                  <svg
                    viewBox="0 0 12 12"
                    width="15"
                    height="15"
                    className="mx-auto"
                    fill="none"
                    stroke="currentColor"
                    strokeWidth="2.2"
                    aria-hidden="true"
                  >
                    <path d="M1.5 6.5l3 3 6-7" />
                  </svg>
                )}
              </button>
            );
          })}
          {corners.length > MOST_SHOWN && (
            <span className="lab self-center">and {corners.length - MOST_SHOWN} more</span>
          )}
        </span>
      </td>
    </tr>
  );
}

const MOST_SHOWN = 40;
const [MAP_PX, LEAST_BAR_PX] = [176, 24];

const cornersOf = (corners: [string, string][], joint: Joint) =>
  corners.filter(([thing]) => thing.startsWith(`${joint.id}.`));

/** How long one of its corners is; holes have no length. */
const runOf = (joint: Joint) => (joint.kind === "holes" ? 0 : (joint.length_m ?? 0));
