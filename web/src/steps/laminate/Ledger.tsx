import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { memo, type ReactNode, useCallback } from "react";
import type { Part, PartResult, Ply } from "../../api/client";
import { fixed, percent } from "../../format";
import { newId, useJob, withPart } from "../../job/context";
import { useNameOf } from "../../job/resins";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Worked } from "../../ui/Worked";
import { PlyDetail } from "./PlyDetail";

/** The plies of a part in laying order: each weighed, opened to what it has of its own, dragged by its number. */
export function Ledger({
  part,
  index,
  result,
  pointed,
  onPoint,
  chosen,
  onChoose,
}: {
  part: Part;
  index: number;
  result: PartResult;
  pointed: string;
  onPoint: (id: string) => void;
  chosen: string;
  onChoose: (id: string) => void;
}) {
  const { edit, plan, document } = useJob();
  const { units } = useShop();
  const nameOf = useNameOf();
  const names = new Map(document.resins.map((use) => [use.id, nameOf(use)]));
  const change = useCallback(
    (plies: (old: Part["plies"]) => Part["plies"]) =>
      edit((before) => withPart(before, part.id, (old) => ({ ...old, plies: plies(old.plies) }))),
    [edit, part.id],
  );
  // One unit down the column, whatever the set: grams, or ounces.
  const column = units.axis("mass");
  const reorder = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id)
      change((old) => {
        const at = (id: unknown) => old.findIndex((ply) => ply.id === id);
        return arrayMove(old, at(active.id), at(over.id));
      });
  };
  // A tap still opens the row: only a pull of a few pixels lifts it.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const missing = plan.problems?.filter((problem) => problem.path.startsWith(`parts.${index}.plies.`));
  return (
    <div>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={reorder}
        accessibility={{ screenReaderInstructions: { draggable: "Open the ply to move it earlier or later." } }}
      >
        <table className="w-full text-right">
          <caption className="sr-only">Plies from the surface outward</caption>
          <thead className="lab">
            <tr className="border-b border-rule">
              <th className="py-1.5 text-left font-normal" colSpan={2}>
                Ply, from the surface
              </th>
              <th className="font-normal">fibre</th>
              <th className="font-normal">resin : fibre</th>
              <th className="font-normal">fibre {column.unit}</th>
              <th className="font-normal">resin {column.unit}</th>
            </tr>
          </thead>
          <SortableContext items={part.plies.map((ply) => ply.id)} strategy={verticalListSortingStrategy}>
            <tbody>
              {part.plies.map((ply, at) => (
                <PlyRows
                  key={ply.id}
                  ply={ply}
                  path={`parts.${index}.plies.${at}`}
                  at={at}
                  last={at === part.plies.length - 1}
                  fabricName={document.materials.fabrics.find((other) => other.id === ply.fabric_id)?.name}
                  resinName={ply.coat?.use_id ? names.get(ply.coat.use_id) : undefined}
                  bandName={part.bands.find((other) => other.id === ply.band_id)?.name}
                  found={result.plies.find((other) => other.id === ply.id)}
                  count={result.count}
                  lit={ply.id === (pointed || chosen)}
                  detail={chosen === ply.id ? <PlyDetail part={part} index={index} at={at} /> : null}
                  onPoint={onPoint}
                  onChoose={onChoose}
                  change={change}
                />
              ))}
            </tbody>
          </SortableContext>
        </table>
      </DndContext>
      {missing?.map((problem) => (
        <p key={problem.path} className="mt-1 text-[0.8125rem] text-stop">
          {problem.message}
        </p>
      ))}
      {result.plies[0] && (
        <p className="lab mt-1.5">
          Its share: {(result.plies.find((ply) => ply.id === (pointed || chosen)) ?? result.plies[0]).fraction_source}
        </p>
      )}
    </div>
  );
}

type Found = PartResult["plies"][number];

interface RowProps {
  ply: Ply;
  path: string;
  at: number;
  last: boolean;
  fabricName: string | undefined;
  /** Which of the job's resins a coat names. */
  resinName: string | undefined;
  bandName: string | undefined;
  found: Found | undefined;
  count: number;
  lit: boolean;
  /** What the ply has of its own, where it is opened. */
  detail: ReactNode;
  onPoint: (id: string) => void;
  onChoose: (id: string) => void;
  change: (plies: (old: Part["plies"]) => Part["plies"]) => void;
}

/** Whether two results of one ply print the same. */
const alike = (one: Found | undefined, other: Found | undefined) => JSON.stringify(one) === JSON.stringify(other);

const sameRow = (one: RowProps, other: RowProps) =>
  (Object.keys(one) as (keyof RowProps)[]).every((name) =>
    name === "found" ? alike(one.found, other.found) : one[name] === other[name],
  );

/** One ply of the ledger; chosen, it opens what it has of its own. One that cannot be worked out keeps its row. */
const PlyRows = memo(function PlyRows(props: RowProps) {
  const { ply, path, at, last, fabricName, resinName, bandName, found, count, lit, detail, onPoint, onChoose, change } =
    props;
  const { units } = useShop();
  const column = units.axis("mass");
  const grams = (value: number) => fixed(column.shown(value), column.unit === "g" ? 0 : 1);
  const { setNodeRef, setActivatorNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: ply.id });
  const move = (by: number) =>
    change((old) => {
      const next = old.filter((other) => other.id !== ply.id);
      next.splice(Math.max(0, at + by), 0, ply);
      return next;
    });
  return (
    <>
      <tr
        ref={setNodeRef}
        style={{ transform: CSS.Translate.toString(transform), transition }}
        data-path={path}
        onPointerEnter={() => onPoint(ply.id)}
        onPointerLeave={() => onPoint("")}
        className={`group border-b border-rule-faint ${isDragging ? "relative z-10 bg-sheet outline-2 outline-ink" : ""} ${lit ? "bg-floor shadow-[inset_3px_0_0_var(--color-ink)]" : ""}`}
      >
        <td
          ref={setActivatorNodeRef}
          {...listeners}
          title="Drag to another place"
          className="lab w-9 cursor-grab touch-none py-1.5 pl-1 text-left whitespace-nowrap"
        >
          <Grip />
          {at + 1}
        </td>
        <td className="text-left">
          <button
            type="button"
            className="text-left text-[0.9688rem] leading-tight"
            onFocus={() => onChoose(ply.id)}
            onClick={() => onChoose(ply.id)}
          >
            {found?.name ?? fabricName ?? (ply.coat ? `${ply.coat.kind} coat` : ply.fabric_id)}
            {ply.angle ? ` ±${ply.angle}` : ""}
            {bandName ? <span className="lab"> @ {bandName}</span> : null}
            {found?.extra_mm ? <span className="lab"> +{units.words("size", found.extra_mm)}</span> : null}
          </button>
          {found && (
            <span className="lab">
              {found.layers_mean > 1 && ` × ${fixed(found.layers_mean, 2)} layers`}
              {!found.stays && " comes off"}
              {resinName ? ` of ${resinName}` : found.coat === "gel" && " its own tin"}
            </span>
          )}
          {detail && (
            <span className="flex flex-wrap gap-x-3 text-[0.8125rem]">
              <Button edits look="text" disabled={at === 0} onClick={() => move(-1)}>
                earlier
              </Button>
              <Button edits look="text" disabled={last} onClick={() => move(1)}>
                later
              </Button>
              <Button
                edits
                look="text"
                onClick={() =>
                  change((old) =>
                    old.flatMap((other) => (other.id === ply.id ? [other, { ...other, id: newId() }] : [other])),
                  )
                }
              >
                double
              </Button>
              <Button edits look="text" onClick={() => change((old) => old.filter((other) => other.id !== ply.id))}>
                remove
              </Button>
            </span>
          )}
        </td>
        <td className="fig" title={found?.fraction_source}>
          {found?.fibre_weight_fraction == null ? "–" : `${percent(found.fibre_weight_fraction)} %`}
        </td>
        <td className="fig">{found?.resin_to_fibre == null ? "–" : `${fixed(found.resin_to_fibre, 2)} : 1`}</td>
        <td className="fig">{found ? grams(found.fibre_g * count) : "–"}</td>
        <td className="fig text-[1rem]">
          {found ? <Worked about={`ply_resin:${ply.id}`}>{grams(found.resin_g * count)}</Worked> : "–"}
        </td>
      </tr>
      {detail && (
        <tr>
          <td />
          <td colSpan={5}>{detail}</td>
        </tr>
      )}
    </>
  );
}, sameRow);

/** Six dots that say a row can be pulled. */
function Grip() {
  return (
    <svg viewBox="0 0 8 14" width="8" height="14" aria-hidden="true" className="mr-1.5 inline opacity-45">
      <path d="M1 2h2M5 2h2M1 7h2M5 7h2M1 12h2M5 12h2" stroke="currentColor" strokeWidth="2" />
    </svg>
  );
}
