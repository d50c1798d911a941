import type { Part, Ply } from "../../api/client";
import { fixed } from "../../format";
import { useJob, withPart, withQuantity } from "../../job/context";
import { UsePick } from "../../job/UsePick";
import { NumberField } from "../../ui/NumberField";
import { QuantityField } from "../../ui/QuantityField";
import { byWeight } from "./plies";

/** What one ply has of its own: its edge, its fibre share, strips with their overlap, the stretch it covers. */
export function PlyDetail({ part, index, at }: { part: Part; index: number; at: number }) {
  const { plan, edit } = useJob();
  const ply = part.plies[at];
  const result = plan.parts?.find((other) => other.id === part.id)?.plies.find((other) => other.id === ply?.id);
  if (!ply) return null;
  const path = `parts.${index}.plies.${at}`;
  const change = (next: (old: Ply) => Ply) =>
    edit((before) =>
      withPart(before, part.id, (old) => ({
        ...old,
        plies: old.plies.map((other) => (other.id === ply.id ? next(other) : other)),
      })),
    );
  const strips = ply.strips ?? { width_m: null, overlap: 0, layers: null, typed: {} };
  const over = ply.over ?? { kind: "rectangle" as const, width_m: null, length_m: null, typed: {} };
  const lay = (next: Partial<typeof strips>) =>
    change((old) => ({ ...old, strips: { ...(old.strips ?? strips), ...next } }));
  const coat = ply.coat;
  return (
    <div className="grid grid-cols-2 items-start gap-x-3 pb-2 text-left sm:grid-cols-4">
      {coat && (
        <QuantityField
          label="Resin in the coat"
          path={`${path}.coat.resin_gsm`}
          fieldKey={`${ply.id}.coat`}
          dimension="areal_weight"
          value={result?.coat ? result.resin_gsm / (result.coat_count ?? 1) : coat.resin_gsm}
          onCommit={(value) => value != null && change((old) => ({ ...old, coat: { ...coat, ...byWeight(value) } }))}
        />
      )}
      {coat && (
        <UsePick
          label="Of the resin"
          path={`${path}.coat.use_id`}
          value={coat.use_id}
          usual={coat.kind === "gel" ? "by its own sheet, no pot" : "its part's"}
          onChange={(use_id) => change((old) => ({ ...old, coat: { ...coat, use_id } }))}
        />
      )}
      <QuantityField
        label="Wider each side by"
        path={`${path}.extra_mm`}
        fieldKey={`${ply.id}.extra`}
        dimension="thickness"
        value={ply.extra_mm}
        optional
        onCommit={(value) => change((old) => ({ ...old, extra_mm: value ?? 0 }))}
      />
      {!coat && (
        <NumberField
          label="Its own fibre, %"
          path={`${path}.fibre_weight_fraction`}
          value={ply.fibre_weight_fraction == null ? null : Number((ply.fibre_weight_fraction * 100).toFixed(2))}
          placeholder="as the table"
          onCommit={(pct) => change((old) => ({ ...old, fibre_weight_fraction: pct == null ? null : pct / 100 }))}
        />
      )}
      <QuantityField
        label="Covers only, width"
        path={`${path}.over.width_m`}
        fieldKey={`${ply.id}.over.width`}
        dimension="length"
        value={over.width_m}
        typed={over.typed?.width_m}
        optional
        placeholder="all of it"
        onCommit={(value, words) =>
          change((old) => ({ ...old, over: withQuantity(old.over ?? over, "width_m", value, words) }))
        }
      />
      <QuantityField
        label="and length"
        path={`${path}.over.length_m`}
        fieldKey={`${ply.id}.over.length`}
        dimension="length"
        value={over.length_m}
        typed={over.typed?.length_m}
        optional
        placeholder="all of it"
        onCommit={(value, words) =>
          change((old) => ({ ...old, over: withQuantity(old.over ?? over, "length_m", value, words) }))
        }
      />
      {!coat && (
        <QuantityField
          label="In strips of"
          path={`${path}.strips.width_m`}
          fieldKey={`${ply.id}.strips`}
          dimension="length"
          value={strips.width_m}
          typed={strips.typed?.width_m}
          optional
          placeholder="one piece"
          onCommit={(value, words) =>
            change((old) => ({
              ...old,
              strips: value == null ? null : withQuantity(old.strips ?? strips, "width_m", value, words),
            }))
          }
        />
      )}
      {!coat && strips.width_m != null && (
        <>
          <NumberField
            label="overlapping by, %"
            path={`${path}.strips.overlap`}
            value={strips.layers == null ? Number((strips.overlap * 100).toFixed(2)) : null}
            placeholder="as the layers ask"
            onCommit={(pct) => pct != null && lay({ overlap: pct / 100, layers: null })}
          />
          <NumberField
            label="or for layers, mean"
            path={`${path}.strips.layers`}
            value={strips.layers}
            step={0.5}
            min={1}
            onCommit={(layers) => lay({ layers })}
          />
          {result && (
            <p className="lab pt-6">
              {result.layers_least === result.layers_most
                ? `${result.layers_most} layers all over`
                : `${result.layers_least} to ${result.layers_most} layers, ${fixed(result.layers_mean, 2)} on the mean`}
              , {result.strip_count} strips
            </p>
          )}
        </>
      )}
    </div>
  );
}
