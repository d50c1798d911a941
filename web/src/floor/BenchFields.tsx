import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { type BenchTools, client, type Library, type Settings, taken } from "../api/client";
import { useShop } from "../shop";
import { Choice } from "../ui/Choice";
import { Pick } from "../ui/Pick";
import type { Change } from "../ui/useMerged";

type Tool = NonNullable<Library["tools"]>[number];
type Vessel = NonNullable<Library["vessels"]>[number];

/** What measures at the bench: tools and cups of the shelf, each chosen where it is used. */
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
  const mixing = mixed.find((vessel) => vessel.id === tools.mixing_id);
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
  return (
    <>
      {pick("Pots are weighed on", "scale_id", options("scale"))}
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
      {now.dose_tool === "drops"
        ? pick("The dropper", "dropper_id", options("dropper"), "count its drops first, and write them on the shelf")
        : pick("The syringe", "syringe_id", options("syringe"))}
      <Choice
        label="Two parts by volume are measured in"
        value={tools.by_volume}
        options={[
          ["cup", "a cup with marks"],
          ["pumps", "a pair of pumps"],
        ]}
        onChange={(by_volume) => choose({ by_volume })}
      />
      {tools.by_volume === "cup" ? (
        pick(
          "The cup they are measured in",
          "cup_id",
          marked.map((vessel) => [vessel.id, vessel.name] as const),
          marksOf(
            marked.find((vessel) => vessel.id === tools.cup_id),
            (ml) => units.words("volume", ml),
          ),
        )
      ) : (
        <>
          {pick("The pump for part A", "pump_a_id", options("pump"))}
          {pick("The pump for part B", "pump_b_id", options("pump"))}
        </>
      )}
      {pick(
        "Pots are mixed in",
        "mixing_id",
        mixed.map((vessel) => [vessel.id, vessel.name] as const),
        mixing &&
          `holds ${units.words("volume", mixing.holds_ml)}, weighs ${units.words("mass", mixing.weighs_g ?? 0)} empty`,
      )}
      <p className="lab self-center">
        One of yours is not in the list?{" "}
        <Link to="/shelf" className="link">
          Put it on the shelf
        </Link>
        , with what it reads to, or holds and weighs empty.
      </p>
    </>
  );
}

function marksOf(cup: Vessel | undefined, volume: (ml: number) => string): string {
  if (!cup?.marked_every_ml) return "";
  if (cup.columns_for) return `two columns, printed for ${cup.columns_for}`;
  return `a mark every ${volume(cup.marked_every_ml)}`;
}
