import { bayLimits } from "../../api/asked";
import type { Part, SheetLane } from "../../api/client";
import { plural } from "../../format";
import { useJob, withPart, withQuantity } from "../../job/context";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Fold } from "../../ui/Fold";
import { NumberField } from "../../ui/NumberField";
import { QuantityField } from "../../ui/QuantityField";

type Bays = Part["bays"];

/** The lane of a part on the run sheet: of several copies the first. */
export function useLaneOf(partId: string): SheetLane | undefined {
  const { plan } = useJob();
  return plan.run_sheet?.lanes.find((lane) => lane.owner_id === partId && (lane.bays ?? []).length > 0);
}

/** Where the seams of a part lie, kept as they are. */
export const withSeams = (part: Part, seams_m: number[]): Part => ({
  ...part,
  bays: { ...part.bays, bay_count: null, width_m: null, seams_m, typed: {} },
});

/** Whether the builder divided a part himself. */
export const isByHand = ({ bays }: Part) =>
  bays.bay_count != null || bays.width_m != null || (bays.seams_m ?? []).length > 0;

/** How a part is divided into bays, by the plan or by hand. */
export function BayFields({ part, index }: { part: Part; index: number }) {
  const { edit } = useJob();
  const { units } = useShop();
  const lane = useLaneOf(part.id);
  const planned = lane?.bays ?? [];
  const change = (next: (bays: Bays) => Bays) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, bays: next(old.bays) })));
  const byHand = isByHand(part);
  const widths = planned.map((bay) => bay.ends - bay.begins);
  const words = planned.length
    ? `${plural(planned.length, "bay")} of ${span(widths, (value) => units.text("length", value))}, each wetted and plied before the next`
    : "Laid whole: no window asks for more";
  return (
    <Fold
      path={`parts.${index}.bays`}
      open={byHand}
      words={<>Bays: {byHand ? "as you set them" : planned.length ? `${planned.length}, as planned` : "one"}</>}
    >
      <div className="mt-3 space-y-3">
        <p className="text-[0.9062rem]">{words}.</p>
        <div className="grid grid-cols-3 items-start gap-3">
          <NumberField
            label="So many bays"
            path={`parts.${index}.bays.bay_count`}
            value={part.bays.bay_count ?? null}
            min={1}
            max={bayLimits.most}
            placeholder={planned.length ? `${planned.length}, ${byHand ? "as dragged" : "as planned"}` : "as planned"}
            onCommit={(bay_count) =>
              change((old) => ({ ...withQuantity(old, "width_m", null, ""), bay_count, seams_m: [] }))
            }
          />
          <QuantityField
            label="Or each so wide"
            path={`parts.${index}.bays.width_m`}
            fieldKey={`${part.id}.bay-width`}
            dimension="length"
            value={part.bays.width_m ?? null}
            typed={part.bays.typed?.width_m}
            optional
            placeholder="as planned"
            onCommit={(value, said) =>
              change((old) => withQuantity({ ...old, bay_count: null, seams_m: [] }, "width_m", value, said))
            }
          />
          <QuantityField
            label="Each ply steps back"
            path={`parts.${index}.bays.stagger_mm`}
            fieldKey={`${part.id}.stagger`}
            dimension="thickness"
            value={part.bays.stagger_mm}
            typed={part.bays.typed?.stagger_mm}
            onCommit={(value, said) => {
              if (value != null) change((old) => withQuantity(old, "stagger_mm", value, said));
            }}
          />
        </div>
        <div className="flex flex-wrap gap-2">
          {planned.length > 1 && !byHand && (
            <Button
              edits
              onClick={() =>
                edit((before) =>
                  withPart(before, part.id, (old) =>
                    withSeams(
                      old,
                      planned.slice(0, -1).map((bay) => bay.ends),
                    ),
                  ),
                )
              }
            >
              Keep these {planned.length} bays
            </Button>
          )}
          {byHand && (
            <Button
              edits
              onClick={() => change((old) => ({ ...old, bay_count: null, width_m: null, seams_m: [], typed: {} }))}
            >
              Let the plan choose
            </Button>
          )}
          {!byHand && planned.length > 1 && (
            <Button
              edits
              look="text"
              onClick={() => change((old) => ({ ...old, bay_count: 1, width_m: null, seams_m: [] }))}
            >
              Lay it whole
            </Button>
          )}
        </div>
        <p className="lab">
          The plan takes whole drops of fabric, in the bays that end the job soonest with its windows kept. Keep them
          before you cut: a warmer day may ask for others. Drag a seam on the drawing to move it.
        </p>
      </div>
    </Fold>
  );
}

/** The least and the most of some lengths, or the one they all are. */
function span(values: number[], words: (value: number) => string): string {
  const [least, most] = [words(Math.min(...values)), words(Math.max(...values))];
  return least === most ? least : `${least} to ${most}`;
}
