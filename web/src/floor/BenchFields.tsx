import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { type BenchTools, client, type Library, type Settings, taken } from "../api/client";
import { type DrawnTool, ToolPicture } from "../drawing/ToolPicture";
import { useShop } from "../shop";
import { Choice } from "../ui/Choice";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import type { Change } from "../ui/useMerged";

type Tool = NonNullable<Library["tools"]>[number];
type Vessel = NonNullable<Library["vessels"]>[number];

/** The bench as it stands: what measures and what one mixes in, each a thing of the shelf, chosen where it is drawn. */
export function BenchFields({ now, set }: { now: Settings; set: (change: Change<Settings>) => void }) {
  const { shop, units } = useShop();
  const { data: library } = useQuery({
    queryKey: ["library", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/library", { params: { path: { shop_id: shop.id } } })),
  });
  if (!library) return null;
  const tools = now.tools as Required<BenchTools>;
  const choose = (change: Partial<BenchTools>) =>
    set(({ tools }) => ({ tools: { ...tools, ...change } as BenchTools }));
  const ofKind = (kind: Tool["kind"]) => (library.tools ?? []).filter((tool) => tool.kind === kind);
  const options = (kind: Tool["kind"]) => ofKind(kind).map((tool) => [tool.id, tool.name] as const);
  const marked = (library.vessels ?? []).filter((vessel) => vessel.marked_every_ml);
  const mixed = (library.vessels ?? []).filter((vessel) => vessel.form !== "tray" && vessel.weighs_g != null);
  const cup = marked.find((vessel) => vessel.id === tools.cup_id);
  const mixing = mixed.find((vessel) => vessel.id === tools.mixing_id);
  const scale = ofKind("scale").find((tool) => tool.id === tools.scale_id);
  const pick = (label: string, id: keyof BenchTools, from: readonly (readonly [string, string])[], hint = "") => (
    <Pick
      label={label}
      path={`tools.${id}`}
      value={tools[id]}
      placeholder="choose"
      options={from.map(([value, name]) => [value, name] as [string, string])}
      hint={hint}
      onChange={(chosen) => choose({ [id]: chosen })}
    />
  );
  const named = (vessels: Vessel[]) => vessels.map((vessel) => [vessel.id, vessel.name] as const);
  return (
    <>
      <ul className="grid gap-x-5 gap-y-6 sm:grid-cols-2 xl:grid-cols-4">
        <Standing tool={{ kind: "scale", reads: scale ? `${scale.reads_to} ${scale.unit}` : "" }}>
          {pick("Pots are weighed on", "scale_id", options("scale"))}
        </Standing>
        <Standing tool={mixing && drawn(mixing)}>
          {pick(
            "Pots are mixed in",
            "mixing_id",
            named(mixed),
            mixing &&
              `holds ${units.words("volume", mixing.holds_ml)}, weighs ${units.words("mass", mixing.weighs_g ?? 0)} empty`,
          )}
        </Standing>
        <Standing
          tool={
            now.dose_tool === "scale"
              ? { kind: "scale", reads: scale ? `${scale.reads_to} ${scale.unit}` : "" }
              : { kind: now.dose_tool === "drops" ? "dropper" : "syringe" }
          }
        >
          <Choice
            label="Catalyst is measured by"
            value={now.dose_tool}
            options={[
              ["syringe", "syringe"],
              ["scale", "scale"],
              ["drops", "drops"],
            ]}
            onChange={(dose_tool) => set({ dose_tool })}
          />
          {now.dose_tool === "drops" &&
            pick("The dropper", "dropper_id", options("dropper"), "count its drops first, and write them on the shelf")}
          {now.dose_tool === "syringe" && pick("The syringe", "syringe_id", options("syringe"))}
        </Standing>
        <Standing tool={tools.by_volume === "pumps" ? { kind: "pump" } : cup && drawn(cup)}>
          <Choice
            label="Two parts by volume are measured in"
            value={tools.by_volume}
            options={[
              ["cup", "a cup with marks"],
              ["pumps", "pumps"],
            ]}
            onChange={(by_volume) => choose({ by_volume })}
          />
          {tools.by_volume === "cup" ? (
            pick(
              "The cup they are measured in",
              "cup_id",
              named(marked),
              marksOf(cup, (ml) => units.words("volume", ml)),
            )
          ) : (
            <>
              {pick("The pump for part A", "pump_a_id", options("pump"))}
              {pick("The pump for part B", "pump_b_id", options("pump"))}
            </>
          )}
        </Standing>
      </ul>
      <div className="mt-5 grid items-start gap-x-5 gap-y-3 sm:grid-cols-2 xl:grid-cols-4">
        <QuantityField
          label="Left on the wall of a measuring cup"
          path="residue_ml"
          fieldKey="settings.residue"
          dimension="volume"
          value={now.residue_ml}
          onCommit={(value) => value != null && set({ residue_ml: value })}
        />
        <QuantityField
          label="Filler is scooped with a cup of"
          path="scoop_ml"
          fieldKey="settings.scoop"
          dimension="volume"
          value={now.scoop_ml}
          onCommit={(value) => value != null && set({ scoop_ml: value })}
        />
        <Choice
          label="Pots for"
          value={now.learner ? "learner" : "practised"}
          options={[
            ["practised", "practised hands"],
            ["learner", "a learner, smaller"],
          ]}
          onChange={(who) => set({ learner: who === "learner" })}
        />
        <p className="lab self-center">
          One of yours is not in a list?{" "}
          <Link to="/shelf" className="link">
            Put it on the shelf
          </Link>
          , with what it reads to, or holds and weighs empty.
        </p>
      </div>
    </>
  );
}

/** A tool on the bench, with its fields under it. */
function Standing({ tool, children }: { tool: DrawnTool | undefined; children: ReactNode }) {
  return (
    <li className="space-y-2">
      <div className="border-b-2 border-ink">{tool ? <ToolPicture tool={tool} /> : <div className="h-[104px]" />}</div>
      {children}
    </li>
  );
}

const drawn = (vessel: Vessel): DrawnTool => ({
  kind: "cup",
  holds_ml: vessel.holds_ml,
  marks: vessel.marked_every_ml ? Math.round(vessel.holds_ml / vessel.marked_every_ml) : 0,
  columns: !!vessel.columns_for,
});

function marksOf(cup: Vessel | undefined, volume: (ml: number) => string): string {
  if (!cup?.marked_every_ml) return "";
  if (cup.columns_for) return `two columns, printed for ${cup.columns_for}`;
  return `a mark every ${volume(cup.marked_every_ml)}`;
}
