import { askedOfShape } from "../../api/asked";
import type { Part } from "../../api/client";
import { newId, useJob, withPart, withQuantity } from "../../job/context";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { useFault } from "../../ui/form";
import { NumberField } from "../../ui/NumberField";
import { QuantityField } from "../../ui/QuantityField";
import { Tick } from "../../ui/Tick";
import { dimensionOf, measureOf, type Shape, typedOf } from "./shapes";

type Girths = Extract<Shape, { kind: "girths" }>;

function useShape(part: Part) {
  const { edit } = useJob();
  const change = (next: (shape: Shape) => Shape) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, shape: next(old.shape) })));
  return { change, set: (fields: Partial<Shape>) => change((old) => ({ ...old, ...fields }) as Shape) };
}

/** Whether a dimension of a drawing is one that is typed: a patch's ground follows from its taper. */
export const isTyped = (shape: Shape, field: string) =>
  field.startsWith("stations.") || askedOfShape[shape.kind].asked.some((other) => other.field === field);

/** One measure of a part's shape, wherever it is typed: on the sheet or on the drawing. */
export function MeasureField({ part, index, field }: { part: Part; index: number; field: string }) {
  const { change } = useShape(part);
  const { shape } = part;
  const station = field.match(/^stations\.(\d+)\.(at_m|girth_m)$/);
  if (station && shape.kind === "girths") {
    return <StationField part={part} index={index} at={Number(station[1])} field={station[2] as "at_m" | "girth_m"} />;
  }
  const measure = askedOfShape[shape.kind].asked.find((other) => other.field === field);
  if (!measure) return null;
  return (
    <QuantityField
      label={measure.label}
      path={`parts.${index}.shape.${field}`}
      fieldKey={`${part.id}.${field}`}
      dimension={dimensionOf(field)}
      value={measureOf(shape, field)}
      typed={typedOf(shape, field)}
      example={measure.example ?? undefined}
      onCommit={(value, words) => change((old) => withQuantity(old as never, field, value, words) as Shape)}
    />
  );
}

/** What is measured of a shape, and what else it needs to be known. */
export function ShapeFields({ part, index }: { part: Part; index: number }) {
  const { shape } = part;
  const { set } = useShape(part);
  const { units } = useShop();
  if (shape.kind === "girths") return <Stations part={part} shape={shape} index={index} />;
  return (
    <>
      {askedOfShape[shape.kind].asked.map(({ field }) => (
        <MeasureField key={field} part={part} index={index} field={field} />
      ))}
      {shape.kind === "cylinder" && (
        <Choice
          label="Round"
          value={String(shape.around)}
          options={[
            ["1", "all"],
            ["0.5", "half"],
            ["0.25", "a quarter"],
          ]}
          onChange={(around) => set({ around: Number(around) })}
        />
      )}
      {shape.kind === "strip" && (
        <NumberField
          label="Sides"
          path={`parts.${index}.shape.sides`}
          value={shape.sides}
          min={1}
          max={8}
          live
          onCommit={(sides) => sides != null && set({ sides })}
        />
      )}
      {shape.kind === "patch" && (
        <>
          <NumberField
            label="Bevel, times the thickness"
            path={`parts.${index}.shape.taper`}
            value={shape.taper}
            hint="8 to 20; the designer's figure wins"
            onCommit={(taper) => taper != null && set({ taper })}
          />
          <div>
            <QuantityField
              label="Each ply wider by"
              path={`parts.${index}.shape.step_mm`}
              fieldKey={`${part.id}.step_mm`}
              dimension="thickness"
              value={shape.step_mm}
              onCommit={(step_mm) => step_mm != null && set({ step_mm })}
            />
            <p className="lab">
              {units.example("thickness", 15)} to {units.example("thickness", 25)} is usual
            </p>
          </div>
          <div className="col-span-3 flex flex-wrap gap-x-6">
            <Tick label="right through" checked={shape.through} onChange={(through) => set({ through })} />
            {shape.through && (
              <Tick label="its back can be reached" checked={shape.behind} onChange={(behind) => set({ behind })} />
            )}
          </div>
          <div className="col-span-3">
            <Choice
              label="Plies step from"
              value={shape.order}
              options={[
                ["largest first", "largest first"],
                ["smallest first", "smallest first"],
              ]}
              onChange={(order) => set({ order })}
            />
            <p className="lab mt-1">
              {shape.order === "largest first"
                ? "The first ply bonds to all of the ground; the rest build on it."
                : "Each ply follows the taper and bonds to its own step of it."}
            </p>
          </div>
        </>
      )}
    </>
  );
}

function StationField({
  part,
  index,
  at,
  field,
}: {
  part: Part;
  index: number;
  at: number;
  field: "at_m" | "girth_m";
}) {
  const { change } = useShape(part);
  const station = part.shape.kind === "girths" ? part.shape.stations[at] : undefined;
  if (!station) return null;
  return (
    <QuantityField
      label={field === "at_m" ? `Station ${at + 1}, along` : "girth there"}
      path={`parts.${index}.shape.stations.${at}.${field}`}
      fieldKey={`${station.id}.${field}`}
      dimension="length"
      value={station[field]}
      typed={station.typed?.[field]}
      example={field === "at_m" ? at * 0.5 : 0.9}
      onCommit={(value, words) =>
        change((old) => ({
          ...(old as Girths),
          stations: (old as Girths).stations.map((other) =>
            other.id === station.id ? withQuantity(other, field, value, words) : other,
          ),
        }))
      }
    />
  );
}

/** Stations along the part and the girth at each; an odd number evenly spaced goes by Simpson's rule. */
function Stations({ part, shape, index }: { part: Part; shape: Girths; index: number }) {
  const { set } = useShape(part);
  const fault = useFault(`parts.${index}.shape.stations`);
  return (
    <div className="col-span-3" data-path={`parts.${index}.shape.stations`}>
      <ol className="space-y-0.5">
        {shape.stations.map((station, at) => (
          <li key={station.id} className="grid grid-cols-[1fr_1fr_auto] items-start gap-3">
            <StationField part={part} index={index} at={at} field="at_m" />
            <StationField part={part} index={index} at={at} field="girth_m" />
            <Button
              edits
              look="text"
              className="mt-7"
              aria-label={`Remove station ${at + 1}`}
              onClick={() => set({ stations: shape.stations.filter((other) => other.id !== station.id) })}
            >
              Remove
            </Button>
          </li>
        ))}
      </ol>
      {fault && <p className="text-[0.8125rem] text-stop">{fault.message}</p>}
      <Button
        edits
        onClick={() => set({ stations: [...shape.stations, { id: newId(), at_m: null, girth_m: null, typed: {} }] })}
      >
        Add a station
      </Button>
      <p className="lab mt-1">
        From one end to the other. An odd number, evenly spaced, goes by Simpson's rule; any other by trapezia. A
        pointed end has a girth of 0 m.
      </p>
    </div>
  );
}
