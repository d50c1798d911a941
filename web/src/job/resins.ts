import { useLocation, useSearchParams } from "react-router";
import type { JobSpec, Plan, ResinInUse, ResinResult } from "../api/client";
import fresh from "../api/fresh.json";
import { newId, useJob, withQuantity } from "./context";

/** What the plan tells of a resin in use; of the first where none is named. */
export const toldOf = (plan: Plan, id: string): ResinResult | undefined =>
  plan.resins.find((told) => told.id === id || !id);

/** The document with one of its resins in use changed. */
export function withUse(document: JobSpec, id: string, change: (use: ResinInUse) => ResinInUse): JobSpec {
  return { ...document, resins: document.resins.map((use) => (use.id === id ? change(use) : use)) };
}

/** The document with one resin more, nothing of it chosen yet. */
export const withAnotherUse = (document: JobSpec, id = newId()): JobSpec => ({
  ...document,
  resins: [...document.resins, { ...(fresh.resin as Omit<ResinInUse, "id">), id }],
});

/** The document without a resin; what was laid in it is laid in the first. */
export function withoutUse(document: JobSpec, id: string): JobSpec {
  const freed = <T extends { use_id: string }>(thing: T): T => (thing.use_id === id ? { ...thing, use_id: "" } : thing);
  const resins = document.resins.filter((use) => use.id !== id);
  return withProductsInUse({
    ...document,
    resins,
    parts: document.parts.map((part) => ({
      ...freed(part),
      plies: part.plies.map((ply) => (ply.coat ? { ...ply, coat: freed(ply.coat) } : ply)),
    })),
    joints: document.joints.map(freed),
  });
}

/** The document with copies of only those products that are in use. */
export function withProductsInUse(document: JobSpec): JobSpec {
  const used = new Set(document.resins.map((use) => use.resin_id));
  const resins = document.materials.resins.filter((resin) => used.has(resin.id));
  return { ...document, materials: { ...document.materials, resins } };
}

/** What a resin in use is called where several are: by what it is for, else by its product. */
export function useNameOf() {
  const { document } = useJob();
  return (use: ResinInUse) =>
    use.word || document.materials.resins.find((resin) => resin.id === use.resin_id)?.name || "no resin yet";
}

/** The resin in use that a step is about: the one the address names, or that a caution pointed at, else the first. */
export function useResinInHand() {
  const { document, plan, edit } = useJob();
  const [asked, setAsked] = useSearchParams();
  const { state } = useLocation();
  const named = document.resins.findIndex((use) => use.id === asked.get("resin"));
  const pointed = Number(/^resins\.(\d+)/.exec((state as { at?: string } | null)?.at ?? "")?.[1] ?? 0);
  const at = named >= 0 ? named : document.resins[pointed] ? pointed : 0;
  const use = document.resins[at] as ResinInUse;
  const told = plan.resins.find((other) => other.id === use.id);
  return {
    at,
    use,
    told,
    path: `resins.${at}`,
    product: document.materials.resins.find((resin) => resin.id === use.resin_id),
    /** The name of a working of this resin: the first's is not named. */
    own: (working: string) => (at ? `${working}:${use.id}` : working),
    take: (id: string) => setAsked({ resin: id }, { replace: true }),
    change: (next: Partial<ResinInUse>) => edit((before) => withUse(before, use.id, (old) => ({ ...old, ...next }))),
    measure: (field: "deadline_h" | "wanted_gel_min", value: number | null, words: string) =>
      edit((before) => withUse(before, use.id, (old) => withQuantity(old, field, value, words))),
  };
}
