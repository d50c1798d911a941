import type { Coat, Fabric, JobSpec, Ply } from "../../api/client";
import fresh from "../../api/fresh.json";
import { newId, withPart } from "../../job/context";
import { same } from "../../job/draft/refused";

/** A ply of nothing yet but itself. */
export const barePly = (): Ply => ({ ...(fresh.ply as Omit<Ply, "id">), id: newId() });

/** A coat of nothing said yet. */
export const freshCoat = fresh.coat as Coat;

/** A coat told by its weight alone: what said it otherwise gives way. */
export const byWeight = (resin_gsm: number): Partial<Coat> => ({
  resin_gsm,
  wet_um: null,
  dry_um: null,
  covers_m2_per_l: null,
  gauge_um: [],
});

/** Under what the words of a part's quick line are kept until all of them are understood. */
export const lineKey = (partId: string) => `${partId}.line`;

/** A part's stack as the server read it. What stays as it was stays the same object, so that its row need not be drawn again. */
export function withPlies(document: JobSpec, partId: string, read: { plies: Ply[]; fabrics: Fabric[] }): JobSpec {
  const next = withPart(document, partId, (part) => ({ ...part, plies: keptOf(part.plies, read.plies) }));
  return { ...next, materials: { ...next.materials, fabrics: keptOf(document.materials.fabrics, read.fabrics) } };
}

function keptOf<T extends { id: string }>(old: T[], read: T[]): T[] {
  const standing = new Map(old.map((each) => [each.id, each]));
  return read.map((each) => {
    const stood = standing.get(each.id);
    return stood && same(stood, each) ? stood : each;
  });
}
