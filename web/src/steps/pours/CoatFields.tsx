import { coatLimits } from "../../api/asked";
import type { Coat, CoatResult } from "../../api/client";
import { useJob, withPart, withQuantity } from "../../job/context";
import { UsePick } from "../../job/UsePick";
import { useShop } from "../../shop";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { QuantityField } from "../../ui/QuantityField";
import { byWeight } from "../laminate/plies";

const NONE = "-";
const tools = [
  [NONE, "nothing counted"],
  ["brush", "brush"],
  ["roller", "roller"],
  ["squeegee", "squeegee"],
  ["gun", "gun"],
  ["poured", "poured"],
] as const;

/** How much of a coat there is, said by its film, dry or wet, by how far a litre goes, or by weight; and with what tool. */
export function CoatFields({ told }: { told: CoatResult }) {
  const { document, edit } = useJob();
  const { units } = useShop();
  const part = document.parts.find((each) => each.id === told.part_id);
  const coat = part?.plies.find((ply) => ply.id === told.ply_id)?.coat;
  if (!part || !coat) return null;
  // Where a film or a coverage says it, the weight is only told.
  const byFilm = coat.wet_um != null || coat.dry_um != null || coat.covers_m2_per_l != null;
  const path = `${told.path}.coat`;
  const set = (to: (now: Coat) => Coat) =>
    edit((before) =>
      withPart(before, part.id, (old) => ({
        ...old,
        plies: old.plies.map((ply) => (ply.id === told.ply_id && ply.coat ? { ...ply, coat: to(ply.coat) } : ply)),
      })),
    );
  const change = (next: Partial<Coat>) => set((now) => ({ ...now, ...next }));
  const measure = (field: keyof Coat, value: number | null, words: string) =>
    set((now) => withQuantity(now, field, value, words));
  const key = (field: string) => `${told.ply_id}.${field}`;
  return (
    <section aria-label="How much" className="space-y-3" data-path={path}>
      <UsePick
        value={coat.use_id ?? ""}
        path={`${path}.use_id`}
        label="Of the resin"
        usual={coat.kind === "gel" ? "by its own sheet, no pot" : "its part's"}
        onChange={(use_id) => change({ use_id })}
      />
      <div className="grid grid-cols-3 items-start gap-3">
        <NumberField
          label="Coats alike"
          path={`${path}.count`}
          value={coat.wet_um && coat.dry_um ? told.count : coat.count}
          min={coatLimits.count[0]}
          max={coatLimits.count[1]}
          hint={coat.wet_um && coat.dry_um ? "as many as make the dry film" : ""}
          onCommit={(count) => count != null && change({ count })}
        />
        <QuantityField
          label="Wet film of each"
          path={`${path}.wet_um`}
          fieldKey={key("wet")}
          dimension="film"
          value={coat.wet_um}
          typed={coat.typed?.wet_um}
          placeholder={units.words("film", told.each_wet_um)}
          optional
          onCommit={(value, words) => measure("wet_um", value, words)}
        />
        <QuantityField
          label="Dry film in all"
          path={`${path}.dry_um`}
          fieldKey={key("dry")}
          dimension="film"
          value={coat.dry_um}
          typed={coat.typed?.dry_um}
          placeholder={units.words("film", told.dry_um)}
          optional
          onCommit={(value, words) => measure("dry_um", value, words)}
        />
        <NumberField
          label="Solids, % by volume"
          path={`${path}.solids_pct`}
          value={coat.solids_pct}
          min={coatLimits.solids_pct[0]}
          max={coatLimits.solids_pct[1]}
          onCommit={(solids_pct) => solids_pct != null && change({ solids_pct })}
        />
        <QuantityField
          label="Coverage"
          path={`${path}.covers_m2_per_l`}
          fieldKey={key("covers")}
          dimension="coverage"
          value={coat.covers_m2_per_l}
          typed={coat.typed?.covers_m2_per_l}
          placeholder={units.words("coverage", told.spreads_m2_per_l)}
          optional
          onCommit={(value, words) => measure("covers_m2_per_l", value, words)}
        />
        <QuantityField
          label="Or by weight"
          path={`${path}.resin_gsm`}
          fieldKey={key("gsm")}
          dimension="areal_weight"
          value={byFilm ? null : coat.resin_gsm}
          typed={coat.typed?.resin_gsm}
          placeholder={units.words("areal_weight", told.each_gsm)}
          optional
          onCommit={(value, words) => value != null && change({ ...byWeight(value), typed: { resin_gsm: words } })}
        />
        <Pick
          label="Put on with"
          path={`${path}.tool`}
          value={coat.tool || NONE}
          options={tools}
          placeholder="choose"
          onChange={(tool) => change({ tool: tool === NONE ? "" : (tool as Coat["tool"]) })}
        />
        <QuantityField
          label="A gauge read"
          path={`${path}.gauge_um`}
          fieldKey={key("gauge")}
          dimension="film"
          value={coat.gauge_um?.[0]}
          typed={coat.typed?.gauge_um}
          placeholder="230; 250; 240"
          optional
          onCommit={(value, words) =>
            set((now) => ({ ...withQuantity(now, "gauge_um", value, words), gauge_um: value == null ? [] : [value] }))
          }
        />
      </div>
      <p className="lab">
        Said last, the weight takes the place of film and coverage. With a wet and a dry film it takes as many coats as
        make the dry one. A wet-film gauge read on the first of it corrects the rest.
      </p>
    </section>
  );
}
