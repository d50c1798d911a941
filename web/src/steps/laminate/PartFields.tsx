import { Link } from "react-router";
import { shapeKinds } from "../../api/asked";
import { client, type Part, taken } from "../../api/client";
import { newId, useJob, withMaterial, withPart } from "../../job/context";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Figure } from "../../ui/Figure";
import { Fold } from "../../ui/Fold";
import { NumberField } from "../../ui/NumberField";
import { Pick } from "../../ui/Pick";
import { QuantityField } from "../../ui/QuantityField";
import { TextField } from "../../ui/TextField";
import { Tick } from "../../ui/Tick";
import { substrates } from "../substrates";
import { Bands } from "./Bands";
import { BayFields } from "./BayFields";
import { CutOuts } from "./CutOuts";
import { GroundFields } from "./GroundFields";
import { PartNotes } from "./PartNotes";
import { ShapeFields } from "./ShapeFields";
import { freshShape, type Kind } from "./shapes";

/** One part: what it is, its measures, its holes and edges, and what it is laid on. */
export function PartFields({ part, index }: { part: Part; index: number }) {
  const { plan, edit, job, document } = useJob();
  const { units } = useShop();
  const result = plan.parts?.find((other) => other.id === part.id);
  const change = (next: Partial<Part>) => edit((before) => withPart(before, part.id, (old) => ({ ...old, ...next })));
  const duplicate = () =>
    edit((before) => ({
      ...before,
      parts: before.parts.flatMap((other) => (other.id === part.id ? [other, copyOf(other)] : [other])),
    }));
  async function makeMould() {
    const made = await taken(
      client.POST("/api/jobs/{job_id}/parts/{part_id}/mould", {
        params: { path: { job_id: job.id, part_id: part.id } },
        body: { document },
      }),
    );
    edit((before) => ({
      ...before,
      parts: [...before.parts, made.part],
      resins: [...before.resins, ...made.uses],
      materials: {
        ...before.materials,
        fabrics: made.fabrics.reduce(withMaterial, before.materials.fabrics),
        resins: made.products.reduce(withMaterial, before.materials.resins),
      },
    }));
  }
  return (
    <fieldset className="space-y-3 border-t border-rule pt-3" data-path={`parts.${index}`}>
      <legend className="sr-only">{part.name || `Part ${index + 1}`}</legend>
      <div className="grid grid-cols-[1fr_auto] items-end gap-3">
        <TextField label="Part" path={`parts.${index}.name`} value={part.name} onCommit={(name) => change({ name })} />
        <Figure
          {...(result ? units.show("area", result.total_area_m2) : { number: "–", unit: units.unit("area") })}
          size={30}
          about={result && `area:${part.id}`}
        />
      </div>
      <div className="grid grid-cols-2 items-start gap-3">
        <Pick
          label="Surface"
          path={`parts.${index}.substrate`}
          value={part.substrate}
          options={substrates}
          placeholder="what is it?"
          onChange={(substrate) => change({ substrate: substrate as Part["substrate"] })}
        />
        <Pick
          label="Measured as"
          value={part.shape.kind}
          options={shapeKinds}
          placeholder="how is it measured?"
          onChange={(kind) =>
            kind !== part.shape.kind && change({ shape: freshShape(kind as Kind, part.shape, newId) })
          }
        />
      </div>
      <div className="grid grid-cols-3 items-start gap-3">
        <ShapeFields part={part} index={index} />
        <NumberField
          label="How many"
          path={`parts.${index}.count`}
          value={part.count}
          min={1}
          max={200}
          live
          onCommit={(count) => count != null && change({ count })}
        />
      </div>
      <Fold path={`parts.${index}.edges`} words="Pair, holes, strips, margin, curve">
        <div className="mt-3 space-y-3">
          <Tick
            label="port and starboard, mirrored"
            path={`parts.${index}.pair`}
            checked={part.pair}
            onChange={(pair) => change({ pair })}
          />
          <div className="grid grid-cols-2 items-start gap-3">
            <QuantityField
              label="Margin all round: lip or trim"
              path={`parts.${index}.margin_mm`}
              fieldKey={`${part.id}.margin`}
              dimension="thickness"
              value={part.margin_mm}
              optional
              onCommit={(value) => change({ margin_mm: value ?? 0 })}
            />
            <NumberField
              label="Larger by its double curve, ×"
              path={`parts.${index}.developed_area_factor`}
              value={part.developed_area_factor}
              step={0.01}
              hint="1 where it lies flat"
              onCommit={(factor) => factor != null && change({ developed_area_factor: factor })}
            />
          </div>
          <CutOuts part={part} index={index} />
          <Bands part={part} index={index} />
        </div>
      </Fold>
      {part.process === "open mould" && <BayFields part={part} index={index} />}
      <GroundFields part={part} index={index} />
      <PartNotes part={part} index={index} onNote={(note) => change({ note })} />
      <div className="flex flex-wrap items-center gap-4">
        <Link
          to={`/wrong?job=${job.id}&part=${part.id}`}
          className="link text-[0.875rem]"
          aria-label={`Something went wrong with ${part.name || "this part"}?`}
        >
          Went wrong?
        </Link>
        <Button edits look="text" aria-label={`Copy ${part.name || "this part"}`} onClick={duplicate}>
          Copy
        </Button>
        {!part.mould_for && part.plies.length > 0 && (
          <Button
            edits
            look="text"
            aria-label={`Make a mould for it: ${part.name || "this part"}`}
            onClick={() => void makeMould()}
          >
            Make a mould for it
          </Button>
        )}
        <Button
          edits
          look="text"
          aria-label={`Remove ${part.name || "this part"}`}
          onClick={() => edit((before) => ({ ...before, parts: before.parts.filter((other) => other.id !== part.id) }))}
        >
          Remove
        </Button>
      </div>
    </fieldset>
  );
}

/** The same part again, with ids of its own all through. */
function copyOf(part: Part): Part {
  const own = <T extends { id: string }>(things: T[]): T[] => things.map((thing) => ({ ...thing, id: newId() }));
  const shape = part.shape.kind === "girths" ? { ...part.shape, stations: own(part.shape.stations) } : part.shape;
  const bands = own(part.bands);
  const plies = own(part.plies).map((ply) => {
    const at = part.bands.findIndex((band) => band.id === ply.band_id);
    return { ...ply, band_id: bands[at]?.id ?? "" };
  });
  return { ...part, id: newId(), name: `${part.name}, copy`, shape, bands, plies, cut_outs: own(part.cut_outs) };
}
