import { AlertDialog } from "radix-ui";
import { useState } from "react";
import type { Conflicts, JobSpec } from "../api/client";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { useJob } from "./context";

type Node = Record<string, unknown> | Node[] | unknown;

/** The document with a value set at a path of ids and fields; `gone` takes the thing away. */
function withValue(node: Node, steps: string[], value: unknown, gone: boolean): Node {
  const [step = "", ...rest] = steps;
  if (Array.isArray(node)) {
    const things = node as { id: string }[];
    const last = rest.length === 0;
    if (last && gone) return things.filter((thing) => thing.id !== step);
    if (last && !things.some((thing) => thing.id === step)) return [...things, value];
    return things.map((thing) => (thing.id === step ? (last ? value : withValue(thing, rest, value, gone)) : thing));
  }
  const fields = node as Record<string, unknown>;
  return { ...fields, [step]: rest.length ? withValue(fields[step], rest, value, gone) : value };
}

const units = /_(m2|mm|m|g|min|h|pct|c)$/;
const unitWords: Record<string, string> = { m2: "m²", pct: "%", c: "°C" };

/** The unit that a field carries in its name. */
function unitOf(path: string): string {
  const unit = path.match(units)?.[1] ?? "";
  return unitWords[unit] ?? unit;
}

/** A path of ids in words: the thing's name, then the field. */
function inWords(path: string, document: JobSpec): string {
  const names = new Map<string, string>();
  for (const part of document.parts) names.set(part.id, part.name || "a part");
  for (const joint of document.joints) names.set(joint.id, joint.name || "a joint");
  const steps = path
    .split("/")
    .filter((step) => !["parts", "joints", "plies", "shape", "chemistry", "pots", "practice"].includes(step));
  return steps.map((step) => names.get(step) ?? step.replace(units, "").replaceAll("_", " ")).join(": ");
}

function shown(value: unknown, removed: boolean, path: string): string {
  if (removed) return "taken away";
  if (value === null || value === "") return "empty";
  if (typeof value !== "object") return `${value} ${unitOf(path)}`.trim();
  const named = value as { name?: string; width_m?: number; length_m?: number; area_m2?: number };
  if (named.name) return named.name;
  if (named.area_m2) return `${named.area_m2} m²`;
  return named.width_m ? `${named.width_m} × ${named.length_m} m` : "changed";
}

/** Where two people changed the same field: both values, and a choice for each. */
export function ConflictDialog({ conflicts }: { conflicts: Conflicts }) {
  const { resolve } = useJob();
  const [choices, choose] = useState<Record<string, "mine" | "theirs">>({});
  function keep() {
    const taken = conflicts.conflicts.filter(({ path }) => choices[path] === "theirs");
    const chosen = taken.reduce<Node>(
      (document, { path, theirs, theirs_removed }) => withValue(document, path.split("/"), theirs, theirs_removed),
      conflicts.merged,
    );
    resolve(chosen as JobSpec);
  }
  return (
    <AlertDialog.Root open>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/40" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 max-h-[85dvh] w-[min(620px,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-(--radius) border border-ink bg-sheet p-5">
          <AlertDialog.Title className="text-[1.25rem] font-semibold">
            {conflicts.saved_by} changed the same thing
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-[0.9062rem]">
            Everything else of both is kept. Choose what stands here:
          </AlertDialog.Description>
          <ul className="mt-4 space-y-4">
            {conflicts.conflicts.map((conflict) => (
              <li key={conflict.path} className="border-t border-rule pt-3">
                <Choice
                  label={inWords(conflict.path, conflicts.merged)}
                  value={choices[conflict.path] ?? "mine"}
                  options={[
                    ["mine", `yours: ${shown(conflict.mine, conflict.mine_removed, conflict.path)}`],
                    [
                      "theirs",
                      `${conflicts.saved_by}: ${shown(conflict.theirs, conflict.theirs_removed, conflict.path)}`,
                    ],
                  ]}
                  onChange={(side) => choose({ ...choices, [conflict.path]: side })}
                />
              </li>
            ))}
          </ul>
          <div className="mt-5 flex justify-end">
            <AlertDialog.Action asChild>
              <Button look="main" onClick={keep}>
                Keep these
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
