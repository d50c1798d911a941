import type { Part } from "../../api/client";
import { newId, useJob, withPart, withQuantity } from "../../job/context";
import { Button } from "../../ui/Button";
import { QuantityField } from "../../ui/QuantityField";
import { TextField } from "../../ui/TextField";

type Band = Part["bands"][number];

/** Named strips of a part, for plies that cover no more: `300 cloth @ keel` in the quick line. */
export function Bands({ part, index }: { part: Part; index: number }) {
  const { edit } = useJob();
  const change = (bands: (old: Band[]) => Band[]) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, bands: bands(old.bands) })));
  const one = (id: string, next: (band: Band) => Band) =>
    change((old) => old.map((band) => (band.id === id ? next(band) : band)));
  return (
    <div data-path={`parts.${index}.bands`}>
      {part.bands.map((band, at) => (
        <div key={band.id} className="grid grid-cols-[1fr_1fr_1fr_auto] items-start gap-3">
          <TextField
            label="Strip, called"
            path={`parts.${index}.bands.${at}.name`}
            value={band.name}
            onCommit={(name) => one(band.id, (old) => ({ ...old, name: name.trim().replaceAll(" ", "-") }))}
          />
          {(["width_m", "length_m"] as const).map((field) => (
            <QuantityField
              key={field}
              label={field === "width_m" ? "its width" : "its length"}
              path={`parts.${index}.bands.${at}.${field}`}
              fieldKey={`${band.id}.${field}`}
              dimension="length"
              value={band[field]}
              typed={band.typed?.[field]}
              onCommit={(value, words) => one(band.id, (old) => withQuantity(old, field, value, words))}
            />
          ))}
          <Button
            edits
            look="text"
            className="mt-7"
            aria-label={`Remove the strip ${band.name}`}
            onClick={() => change((old) => old.filter((other) => other.id !== band.id))}
          >
            Remove
          </Button>
        </div>
      ))}
      <Button
        edits
        onClick={() =>
          change((old) => [
            ...old,
            { id: newId(), name: `strip-${old.length + 1}`, width_m: null, length_m: null, typed: {} },
          ])
        }
      >
        Name a strip of it
      </Button>
    </div>
  );
}
