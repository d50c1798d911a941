import type { Part } from "../../api/client";
import { newId, useJob, withPart, withQuantity } from "../../job/context";
import { Button } from "../../ui/Button";
import { useFault } from "../../ui/form";
import { QuantityField } from "../../ui/QuantityField";

type Hole = Part["cut_outs"][number];

/** Holes in a part: a disc by its diameter, else a rectangle. */
export function CutOuts({ part, index }: { part: Part; index: number }) {
  const { edit } = useJob();
  const fault = useFault(`parts.${index}.cut_outs`);
  const change = (holes: (old: Hole[]) => Hole[]) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, cut_outs: holes(old.cut_outs) })));
  return (
    <div data-path={`parts.${index}.cut_outs`}>
      {part.cut_outs.map((hole, at) => (
        <div key={hole.id} className="grid grid-cols-[1fr_1fr_1fr_auto] items-start gap-3">
          {(
            [
              ["diameter_m", "Hole, diameter"],
              ["width_m", "or width"],
              ["length_m", "and length"],
            ] as const
          ).map(([field, label]) => (
            <QuantityField
              key={field}
              label={label}
              path={`parts.${index}.cut_outs.${at}.${field}`}
              fieldKey={`${hole.id}.${field}`}
              dimension="length"
              value={hole[field]}
              typed={hole.typed?.[field]}
              optional={field === "diameter_m" || hole.diameter_m != null}
              onCommit={(value, words) =>
                change((old) =>
                  old.map((other) => (other.id === hole.id ? withQuantity(other, field, value, words) : other)),
                )
              }
            />
          ))}
          <Button
            edits
            look="text"
            className="mt-7"
            aria-label={`Remove hole ${at + 1}`}
            onClick={() => change((old) => old.filter((other) => other.id !== hole.id))}
          >
            Remove
          </Button>
        </div>
      ))}
      {fault && <p className="mb-1 text-[0.8125rem] text-stop">{fault.message}</p>}
      <Button
        edits
        onClick={() =>
          change((old) => [
            ...old,
            { id: newId(), name: "", diameter_m: null, width_m: null, length_m: null, count: 1, typed: {} },
          ])
        }
      >
        Add a hole
      </Button>
    </div>
  );
}
