import type { FlowLine, Infusion, Part } from "../../api/client";
import { fixed } from "../../format";
import { useJob, withPart, withQuantity } from "../../job/context";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { Fold } from "../../ui/Fold";
import { NumberField } from "../../ui/NumberField";
import { QuantityField } from "../../ui/QuantityField";
import { Tick } from "../../ui/Tick";

type Wishes = NonNullable<Part["infusion"]>;

/** What sets an infusion: mesh, resin, lines, hoses; grooves and a permeability of the shop's own under a fold. */
export function FlowFields({
  part,
  index,
  told,
  onLines,
}: {
  part: Part;
  index: number;
  told: Infusion | undefined;
  onLines: (lines: FlowLine[]) => void;
}) {
  const { edit } = useJob();
  const { units } = useShop();
  const wishes = part.infusion as Wishes;
  const path = `parts.${index}.infusion`;
  const setWishes = (to: (now: Wishes) => Wishes) =>
    edit((before) => withPart(before, part.id, (old) => ({ ...old, infusion: to(old.infusion as Wishes) }) as Part));
  const change = (next: Partial<Wishes>) => setWishes((now) => ({ ...now, ...next }));
  const measure = (field: keyof Wishes, value: number | null, words: string) =>
    setWishes((now) => withQuantity(now, field, value, words));
  const lines = wishes.lines ?? [];
  const set = (id: string, next: Partial<FlowLine>) =>
    onLines(lines.map((line) => (line.id === id ? { ...line, ...next } : line)));
  return (
    <section aria-label="How it is infused" className="space-y-3" data-path={path}>
      <Tick
        label="Flow mesh over it"
        path={`${path}.mesh`}
        checked={wishes.mesh ?? true}
        onChange={(mesh) => change({ mesh })}
      />
      <div className="grid grid-cols-3 items-start gap-3">
        <QuantityField
          label="Mesh ends before a vent"
          path={`${path}.mesh_short_mm`}
          fieldKey={`${part.id}.mesh_short`}
          dimension="thickness"
          value={wishes.mesh_short_mm}
          typed={wishes.typed?.mesh_short_mm}
          onCommit={(value, words) => value != null && measure("mesh_short_mm", value, words)}
        />
        <NumberField
          label="Viscosity at 25 °C"
          path={`${path}.viscosity_mpa_s`}
          value={wishes.viscosity_mpa_s}
          placeholder={told ? String(told.viscosity_mpa_s) : ""}
          hint={wishes.viscosity_mpa_s == null ? "mPa·s; memory, its sheet states it" : "mPa·s, as its sheet states"}
          min={1}
          max={20_000}
          onCommit={(viscosity_mpa_s) => change({ viscosity_mpa_s })}
        />
        <QuantityField
          label="Hose from the bucket"
          path={`${path}.hose_m`}
          fieldKey={`${part.id}.hose`}
          dimension="length"
          value={wishes.hose_m}
          typed={wishes.typed?.hose_m}
          onCommit={(value, words) => value != null && measure("hose_m", value, words)}
        />
      </div>
      <div data-path={`${path}.lines`}>
        <h2 className="text-[0.9375rem] font-semibold">Feeds and vents</h2>
        {told?.lines.every((line) => line.proposed) && (
          <p className="lab mt-0.5">
            Proposed: a feed along one long side, a vent along the other. Drag either to change it.
          </p>
        )}
        <ul className="mt-1">
          {lines.map((line) => {
            const shown = told?.lines.find((each) => each.id === line.id);
            return (
              <li key={line.id} className="border-b border-rule-faint py-1.5">
                <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
                  <span className="font-medium">{capital(shown?.name ?? line.does)}</span>
                  <span className="text-ink-soft">
                    {isLine(line) ? `a line of ${units.text("length", lengthOf(line))}` : "a port"}
                    {line.waits && shown?.at_min != null && `, opened after ${fixed(shown.at_min, 0)} min`}
                  </span>
                  <span className="flex gap-3">
                    <Button
                      edits
                      look="text"
                      onClick={() => set(line.id, { points: isLine(line) ? [middle(line)] : asLine(line) })}
                    >
                      Make it a {isLine(line) ? "port" : "line"}
                    </Button>
                    {isLine(line) && line.points.length < MOST_POINTS && (
                      <Button edits look="text" onClick={() => set(line.id, { points: withPoint(line) })}>
                        Add a point
                      </Button>
                    )}
                    {line.does === "feeds" && !isRing(line) && (
                      <Button edits look="text" onClick={() => set(line.id, { points: asRing(line) })}>
                        Make it a ring
                      </Button>
                    )}
                    <Button edits look="text" onClick={() => onLines(lines.filter((other) => other.id !== line.id))}>
                      Remove
                    </Button>
                  </span>
                </div>
                {line.does === "feeds" && (
                  <Tick
                    label="Opened when resin comes to it"
                    checked={line.waits ?? false}
                    onChange={(waits) => set(line.id, { waits })}
                  />
                )}
              </li>
            );
          })}
        </ul>
      </div>
      <Fold words="Grooves in the core, hoses, what a shot before showed">
        <div className="mt-3 grid grid-cols-3 items-start gap-3">
          <QuantityField
            label="Grooves wide"
            path={`${path}.groove_width_mm`}
            fieldKey={`${part.id}.groove_w`}
            dimension="thickness"
            value={wishes.groove_width_mm}
            typed={wishes.typed?.groove_width_mm}
            placeholder="none"
            optional
            onCommit={(value, words) => measure("groove_width_mm", value, words)}
          />
          <QuantityField
            label="Deep"
            path={`${path}.groove_depth_mm`}
            fieldKey={`${part.id}.groove_d`}
            dimension="thickness"
            value={wishes.groove_depth_mm}
            typed={wishes.typed?.groove_depth_mm}
            onCommit={(value, words) => value != null && measure("groove_depth_mm", value, words)}
          />
          <QuantityField
            label="One every"
            path={`${path}.groove_every_mm`}
            fieldKey={`${part.id}.groove_e`}
            dimension="thickness"
            value={wishes.groove_every_mm}
            typed={wishes.typed?.groove_every_mm}
            onCommit={(value, words) => value != null && measure("groove_every_mm", value, words)}
          />
          <div className="col-span-3">
            <Choice
              label="The grooves run, as it is drawn"
              value={wishes.grooves_run ?? "both ways"}
              options={[
                ["both ways", "both ways"],
                ["left to right", "left to right"],
                ["up and down", "up and down"],
              ]}
              onChange={(grooves_run) => change({ grooves_run })}
            />
          </div>
          <QuantityField
            label="Hose bore"
            path={`${path}.bore_mm`}
            fieldKey={`${part.id}.bore`}
            dimension="thickness"
            value={wishes.bore_mm}
            typed={wishes.typed?.bore_mm}
            onCommit={(value, words) => value != null && measure("bore_mm", value, words)}
          />
          <QuantityField
            label="Stays in the bucket"
            path={`${path}.in_bucket_g`}
            fieldKey={`${part.id}.in_bucket`}
            dimension="mass"
            value={wishes.in_bucket_g}
            typed={wishes.typed?.in_bucket_g}
            onCommit={(value, words) => value != null && measure("in_bucket_g", value, words)}
          />
          <NumberField
            label="Permeability, 10⁻¹² m²"
            path={`${path}.permeability_m2`}
            value={wishes.permeability_m2 == null ? null : Number((wishes.permeability_m2 * 1e12).toPrecision(4))}
            placeholder={told ? String(Number((told.permeability_m2 * 1e12).toPrecision(3))) : ""}
            hint="of all of the bed, from a shot of yours"
            onCommit={(value) => change({ permeability_m2: value == null ? null : value * 1e-12 })}
          />
        </div>
      </Fold>
    </section>
  );
}

/** Shorter than its own hose is wide it is a port. */
const PORT_M = 0.015;
const MOST_POINTS = 24;
const isLine = (line: FlowLine) => line.points.length > 1 && lengthOf(line) > PORT_M;
const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
const middle = (line: FlowLine) => ({
  x_m: line.points.reduce((sum, point) => sum + point.x_m, 0) / line.points.length,
  y_m: line.points.reduce((sum, point) => sum + point.y_m, 0) / line.points.length,
});
const asLine = (line: FlowLine) => {
  const { x_m, y_m } = middle(line);
  return [
    { x_m: x_m - 0.05, y_m },
    { x_m: x_m + 0.05, y_m },
  ];
};
/** A ring of eight points round where the line lies, as long as a usual port has none. */
const RING_M = 0.1;
const asRing = (line: FlowLine) => {
  const { x_m, y_m } = middle(line);
  const radius = Math.max(RING_M, lengthOf(line) / (2 * Math.PI));
  return Array.from({ length: 9 }, (_, at) => ({
    x_m: x_m + radius * Math.cos((at * Math.PI) / 4),
    y_m: y_m + radius * Math.sin((at * Math.PI) / 4),
  }));
};
const isRing = ({ points }: FlowLine) => {
  const [first, last] = [points[0], points.at(-1)];
  return (
    points.length > 3 && Math.hypot((first?.x_m ?? 0) - (last?.x_m ?? 0), (first?.y_m ?? 0) - (last?.y_m ?? 0)) < PORT_M
  );
};
/** A point more, in the middle of its longest piece. */
const withPoint = ({ points }: FlowLine) => {
  const long = (at: number) => {
    const [a, b] = [points[at], points[at + 1]];
    return a && b ? Math.hypot(a.x_m - b.x_m, a.y_m - b.y_m) : 0;
  };
  const longest = points.reduce((best, _, at) => (long(at) > long(best) ? at : best), 0);
  const [a, b] = [points[longest], points[longest + 1]];
  if (!a || !b) return points;
  const between = { x_m: (a.x_m + b.x_m) / 2, y_m: (a.y_m + b.y_m) / 2 };
  return [...points.slice(0, longest + 1), between, ...points.slice(longest + 1)];
};
const lengthOf = (line: FlowLine) =>
  line.points
    .slice(1)
    .reduce(
      (sum, point, at) =>
        sum + Math.hypot(point.x_m - (line.points[at]?.x_m ?? 0), point.y_m - (line.points[at]?.y_m ?? 0)),
      0,
    );
