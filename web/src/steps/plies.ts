import type { Coat, JobSpec, Part, Ply, QuickLine } from "../api/client";
import { newId, withMaterial, withPart } from "../job/context";

/** A ply of nothing yet but itself. */
export const barePly = (): Ply => ({
  id: newId(),
  fabric_id: "",
  coat: null,
  angle: "",
  extra_mm: 0,
  fibre_weight_fraction: null,
  band_id: "",
});

/** What a ply is of, in one word: the fabric's id, or the coat. */
const of = (fabricId: string | undefined, coat: Coat | null | undefined) => (coat ? `coat ${coat.kind}` : fabricId);

/** A part's stack as read from words or from a table. Plies that stand where they stood keep what has no words there. */
export function withStack(document: JobSpec, partId: string, read: QuickLine["plies"]): JobSpec {
  const fabrics = read.reduce(
    (held, ply) => (ply.fabric ? withMaterial(held, ply.fabric) : held),
    document.materials.fabrics,
  );
  const next = withPart(document, partId, (part) => ({ ...part, plies: pliesOf(read, part) }));
  return { ...next, materials: { ...next.materials, fabrics } };
}

function pliesOf(read: QuickLine["plies"], part: Part): Part["plies"] {
  const left = [...part.plies];
  return read.map((ply) => {
    const at = left.findIndex((old) => of(old.fabric_id, old.coat) === of(ply.fabric?.id, ply.coat));
    const [old] = at >= 0 ? left.splice(at, 1) : [];
    const next: Ply = {
      band_id: part.bands.find((band) => band.name === ply.strip)?.id ?? "",
      strips: old?.strips,
      over: old?.over,
      id: old?.id ?? newId(),
      fabric_id: ply.fabric?.id ?? "",
      coat: ply.coat ?? null,
      angle: ply.angle,
      extra_mm: ply.extra_mm,
      fibre_weight_fraction: ply.fibre_weight_fraction,
    };
    // The same ply stays the same object, so that its row need not be drawn again.
    return old && fieldsOf(old) === fieldsOf(next) ? old : next;
  });
}

const fieldsOf = (ply: Ply) => JSON.stringify(Object.entries(ply).sort(([a], [b]) => a.localeCompare(b)));

/** The plies of a part as the quick line knows them. */
export function asWritten(part: Part, fabrics: JobSpec["materials"]["fabrics"]): QuickLine["plies"] {
  return part.plies.flatMap((ply) => {
    const fabric = fabrics.find((other) => other.id === ply.fabric_id);
    if (!fabric && !ply.coat) return [];
    return [
      {
        fabric: fabric ?? null,
        coat: ply.coat ?? null,
        angle: ply.angle,
        extra_mm: ply.extra_mm,
        fibre_weight_fraction: ply.fibre_weight_fraction ?? null,
        strip: part.bands.find((band) => band.id === ply.band_id)?.name ?? "",
      },
    ];
  });
}
