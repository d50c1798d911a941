import type { Fault, JobSpec } from "../../api/client";
import mayStandEmpty from "../../api/may_stand_empty.json";

/** Quantities that may stand empty: a refused one is taken out of the document, its words stay in the field. */
const MAY_STAND_EMPTY = new Set(mayStandEmpty);

type Tree = { [key: string]: Tree | unknown };

function holderOf(document: JobSpec, path: string): { holder: Tree | undefined; field: string } {
  const steps = path.split(".");
  const field = steps.pop() ?? "";
  const start = document as unknown as Tree;
  return { holder: steps.reduce<Tree | undefined>((tree, step) => tree?.[step] as Tree | undefined, start), field };
}

/** Whether a field still shows the words that were refused: it is empty, and words are kept for it. */
export function standsRefused(document: JobSpec, path: string): boolean {
  const { holder, field } = holderOf(document, path);
  const typed = holder?.typed as Record<string, string> | undefined;
  return holder?.[field] == null && !!typed?.[field];
}

/** The document without the quantities at these paths, so that one bad field does not hold up the rest. */
export function withoutRefused(document: JobSpec, faults: Fault[]): JobSpec | null {
  const copy = structuredClone(document);
  const emptied = faults.filter(({ path }) => {
    const { holder, field } = holderOf(copy, path);
    const typed = holder?.typed as Record<string, string> | undefined;
    // What has no words of its own would be gone: it stands, and is told at its field.
    if (!holder || !MAY_STAND_EMPTY.has(field) || holder[field] == null || !typed?.[field]) return false;
    holder[field] = null;
    return true;
  });
  return faults.length > 0 && emptied.length === faults.length ? copy : null;
}

/** Whether two documents, or pieces of them, say the same; what is left out is null. */
export function same(one: unknown, other: unknown): boolean {
  if (one === other) return true;
  if (typeof one !== "object" || typeof other !== "object" || !one || !other) return false;
  const [a, b] = [one as Tree, other as Tree];
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...keys].every((key) => same(a[key] ?? null, b[key] ?? null));
}
