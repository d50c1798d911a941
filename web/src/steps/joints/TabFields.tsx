import { limits } from "../../api/asked";
import { client, type Joint, type JointResult, type TabStrip, taken } from "../../api/client";
import { isFlat } from "../../drawing/corner";
import { newId, useJob, withJoint, withMaterial, withQuantity } from "../../job/context";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { useFault } from "../../ui/form";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { QuantityField } from "../../ui/QuantityField";

/** The strips over a fillet, first to last, each with its fabric, its width and what it takes. */
export function TabFields({ joint, index, result }: { joint: Joint; index: number; result: JointResult | undefined }) {
  const { edit, library } = useJob();
  const { units } = useShop();
  const change = (next: (old: Joint) => Partial<Joint>) =>
    edit((before) => withJoint(before, joint.id, (old) => ({ ...old, ...next(old) })));
  async function add() {
    const last = joint.tabs.at(-1);
    const body = {
      last_mm: last?.width_mm,
      radius_mm: isFlat(joint) ? 0 : (joint.radius_mm ?? 0),
      angle_deg: joint.angle_deg,
    };
    const { width_mm, kind } = await taken(client.POST("/api/next-strip", { body }));
    const fabric = library.fabrics?.find((each) => (last?.fabric_id ? each.id === last.fabric_id : each.kind === kind));
    const fabric_id = last?.fabric_id || fabric?.id || "";
    edit((before) => ({
      ...withJoint(before, joint.id, (old) => ({
        ...old,
        tabs: [...old.tabs, { id: newId(), fabric_id, width_mm, typed: {} }],
      })),
      materials: {
        ...before.materials,
        fabrics: fabric ? withMaterial(before.materials.fabrics, fabric) : before.materials.fabrics,
      },
    }));
  }
  return (
    <section aria-label="Tabbing" className="space-y-2 border-t border-rule pt-3">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-[0.9375rem] font-semibold">Tabbing over it</h2>
        <Button edits className="min-h-9" onClick={() => void add()} disabled={joint.tabs.length >= 12}>
          Add a strip
        </Button>
      </div>
      {joint.tabs.map((strip, at) => (
        <Strip
          key={strip.id}
          joint={joint}
          strip={strip}
          path={`joints.${index}.tabs.${at}`}
          number={at + 1}
          result={result?.tabs?.find((tab) => tab.id === strip.id)}
          onChange={(next) =>
            change((old) => ({
              tabs: old.tabs.map((other) => (other.id === strip.id ? { ...other, ...next } : other)),
            }))
          }
          onRemove={() => change((old) => ({ tabs: old.tabs.filter((other) => other.id !== strip.id) }))}
        />
      ))}
      {joint.tabs.length === 0 ? (
        <p className="lab">
          None: the fillet alone is the joint. Usual over plywood is a first strip of {units.example("thickness", 75)}{" "}
          to {units.example("thickness", 100)}, the next {units.example("thickness", 25)} wider on each leg, three to
          four layers for a structural tab (common practice).
        </p>
      ) : (
        <>
          {result?.layers_words && <p className="lab">{result.layers_words}.</p>}
          <div className="grid grid-cols-2 items-start gap-3">
            <QuantityField
              label="Laid in lengths of"
              path={`joints.${index}.tab_piece_m`}
              fieldKey={`${joint.id}.tab-piece`}
              dimension="length"
              value={joint.tab_piece_m}
              typed={joint.typed?.tab_piece_m}
              placeholder="one piece"
              optional
              onCommit={(value, words) => change((old) => withQuantity(old, "tab_piece_m", value, words))}
            />
            {joint.tab_piece_m ? (
              <NumberField
                label="overlapping by, %"
                path={`joints.${index}.tab_overlap`}
                value={Math.round(joint.tab_overlap * 100)}
                min={100 * limits.tab_overlap[0]}
                max={100 * limits.tab_overlap[1]}
                hint="a third or more"
                onCommit={(share) => share != null && change(() => ({ tab_overlap: share / 100 }))}
              />
            ) : null}
          </div>
        </>
      )}
    </section>
  );
}

function Strip({
  joint,
  strip,
  path,
  number,
  result,
  onChange,
  onRemove,
}: {
  joint: Joint;
  strip: TabStrip;
  path: string;
  number: number;
  result: NonNullable<JointResult["tabs"]>[number] | undefined;
  onChange: (next: Partial<TabStrip>) => void;
  onRemove: () => void;
}) {
  const { library, edit } = useJob();
  const { units } = useShop();
  const missing = useFault(`${path}.fabric_id`);
  const choose = (id: string) => {
    const fabric = library.fabrics?.find((each) => each.id === id);
    if (!fabric) return;
    edit((before) => ({
      ...withJoint(before, joint.id, (old) => ({
        ...old,
        tabs: old.tabs.map((other) => (other.id === strip.id ? { ...other, fabric_id: id } : other)),
      })),
      materials: { ...before.materials, fabrics: withMaterial(before.materials.fabrics, fabric) },
    }));
  };
  return (
    <div className="grid grid-cols-[auto_1fr_92px_auto] items-start gap-2 border-b border-rule-faint pb-1">
      <span className="fig pt-2 text-[1.25rem]">{number}</span>
      <div className="min-w-0">
        <Pick
          label={`Fabric of strip ${number}`}
          hideLabel
          path={`${path}.fabric_id`}
          value={strip.fabric_id}
          options={(library.fabrics ?? [])
            .filter((each) => each.resin_taken_gsm == null)
            .map((each) => [each.id, each.name] as const)}
          placeholder="choose the fabric"
          fault={missing?.message}
          onChange={choose}
        />
        {result && (
          <p className="lab mt-0.5">
            {units.text("mass", result.fibre_g)} fibre, {units.text("mass", result.resin_g)} resin, ends{" "}
            {units.text("size", result.end_mm)} out
          </p>
        )}
      </div>
      <QuantityField
        label={`Width of strip ${number}`}
        hideLabel
        path={`${path}.width_mm`}
        fieldKey={`${strip.id}.width`}
        dimension="thickness"
        value={strip.width_mm}
        typed={strip.typed?.width_mm}
        example={90}
        onCommit={(value, words) => onChange({ width_mm: value, typed: { width_mm: words } })}
      />
      <Button look="text" className="mt-1.5" aria-label={`Remove strip ${number}`} onClick={onRemove}>
        Remove
      </Button>
    </div>
  );
}
