import { useEffect, useRef, useState } from "react";
import type { FlowLine, Infusion, Part } from "../../api/client";
import { DrawCurve } from "../../drawing/DrawCurve";
import { FlowByRoom } from "../../drawing/FlowByRoom";
import { FlowPlan } from "../../drawing/FlowPlan";
import { inRoom } from "../../drawing/flow";
import { between } from "../../drawing/heat";
import { fixed, percent, plural, tenPower } from "../../format";
import { newId, useJob, withPart } from "../../job/context";
import { StepCautions } from "../../job/JobCautions";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Figure } from "../../ui/Figure";
import { Waiting } from "../../ui/Waiting";
import { Split, Title } from "../Split";
import { FlowFields } from "./FlowFields";
import { useFlow } from "./useFlow";

type Line = Infusion["lines"][number];

/** A drawn line as the document holds it, with the name that was given there, not the one it is called by. */
const kept = (line: Line, known: readonly FlowLine[]): FlowLine => ({
  id: line.proposed ? newId() : line.id,
  name: known.find((each) => each.id === line.id)?.name ?? "",
  does: line.does,
  points: line.points.map(([x = 0, y = 0]) => ({ x_m: x, y_m: y })),
  waits: line.waits,
});

/** An infused part in plan: its front by minutes, feeds and vents to drag, what the bucket must hold, the best room. */
export function Flow({ part, index, more }: { part: Part; index: number; more: React.ReactNode }) {
  const { plan, edit, triedRoomC, tryRoom } = useJob();
  const told = plan.infusions?.find((each) => each.id === part.id);
  const { flow, tried, refused, attempt, forget } = useFlow(part.id);
  const [lines, setLines] = useState<Line[] | null>(null);
  const [shown, show] = useState<number | null>(null);
  const standing = tried ?? flow;
  const known = part.infusion?.lines ?? [];
  const written = useRef(known);
  // What was let go stands until the plan has it too, or the document has another.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new flow of the document takes the place of what was tried
  useEffect(() => {
    setLines(null);
    forget();
  }, [flow]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: other lines of the document take the place of what was refused
  useEffect(() => {
    if (known === written.current) return;
    written.current = known;
    setLines(null);
    forget();
  }, [known]);
  const write = (next: FlowLine[]) => {
    written.current = next;
    edit((before) =>
      withPart(before, part.id, (old) => ({ ...old, infusion: { ...old.infusion, lines: next } }) as Part),
    );
  };
  const dragged = useRef<Line[] | null>(null);
  const done = () => {
    if (dragged.current) write(dragged.current.map((line) => kept(line, known)));
    dragged.current = null;
  };
  const drag = (next: Line[]) => {
    // A hand may let go before what it last moved is drawn.
    dragged.current = next;
    setLines(next);
    attempt(next.map((line) => kept(line, known)));
  };
  const add = (does: Line["does"]) => {
    if (!told) return;
    const xs = told.outline.map(([x = 0]) => x);
    const ys = told.outline.map(([, y = 0]) => y);
    const [x, y] = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
    const half = (Math.max(...xs) - Math.min(...xs)) / 8;
    write([
      ...told.lines.map((line) => kept(line, known)),
      {
        id: newId(),
        name: "",
        does,
        points:
          does === "feeds"
            ? [
                { x_m: x - half, y_m: y },
                { x_m: x + half, y_m: y },
              ]
            : [{ x_m: x, y_m: y }],
        waits: false,
      },
    ]);
  };
  const addSecond = (more: readonly (readonly (readonly number[])[])[]) => {
    if (!told) return;
    const laid = more.map(
      (points): FlowLine => ({
        id: newId(),
        name: "",
        does: "feeds",
        points: points.map(([x = 0, y = 0]) => ({ x_m: x, y_m: y })),
        waits: true,
      }),
    );
    write([...told.lines.map((line) => kept(line, known)), ...laid]);
  };
  // Told of the plan as it stands, not of what is being dragged.
  const second = lines ? null : flow?.second;
  const roomC = triedRoomC ?? told?.room_c ?? plan.conditions.room_c;
  const now = standing?.told ?? told;
  const drawing = standing && now && { ...now, lines: lines ?? now.lines };
  const room = now && inRoom(now, roomC);
  const minute = shown ?? (room ? 0.4 * (room.full_min ?? room.sets_min) : 0);
  return (
    <Split
      picture={
        <div className="lg:sticky lg:top-0 lg:max-h-dvh lg:overflow-y-auto">
          <div className="flex flex-wrap items-start justify-between gap-3">
            <Title
              words={`${part.name || "Part"}, infused`}
              under="Minutes from the open valve. Drag feeds and vents."
            />
            <div className="flex flex-wrap gap-2">
              {more}
              <Button edits onClick={() => add("feeds")}>
                Add a feed
              </Button>
              <Button edits onClick={() => add("vents")}>
                Add a vent
              </Button>
            </div>
          </div>
          {refused && (
            <p role="alert" className="mb-1 font-semibold text-stop">
              {refused}
            </p>
          )}
          {drawing ? (
            <FlowPlan
              told={drawing}
              map={standing.map}
              roomC={roomC}
              minute={Math.min(minute, now?.draws.at(-1)?.at_min ?? 0)}
              second={second?.lines ?? []}
              onLines={drag}
              onDone={done}
            />
          ) : (
            told && <Waiting words="The flow is being worked out" tall="min-h-72" />
          )}
          {!told && !refused && (
            <p className="max-w-[60ch] py-4 text-[0.9375rem]">
              {plan.problems?.find((problem) => problem.step === "bag")?.message ??
                "Measure the part, write its stack and choose its resin: then its flow is drawn here."}
            </p>
          )}
          {second && (
            <p className="flex flex-wrap items-center justify-between gap-x-3 text-[0.9375rem]">
              <span className="max-w-[56ch]">
                {second.lines.length > 1
                  ? "More feeds help most along the dashed lines, opened when the resin comes to them"
                  : "One more feed helps most along the dashed line, opened when the resin comes to it"}
                {second.full_min == null ? " (and still it sets before it is full)" : ": full after "}
                {second.full_min != null && <b className="fig font-semibold">{fixed(second.full_min, 0)} min</b>}.
              </span>
              <Button edits onClick={() => addSecond(second.lines)}>
                Lay {second.lines.length > 1 ? "them" : "it"} there
              </Button>
            </p>
          )}
          {now && room && (
            <div className="mt-2 grid gap-4 xl:grid-cols-2">
              <div>
                <h2 className="text-[0.9375rem] font-semibold">Drawn from the bucket</h2>
                <DrawCurve told={now} minute={Math.min(minute, now.draws.at(-1)?.at_min ?? 0)} onMinute={show} />
                <AtMinute told={now} minute={Math.min(minute, now.draws.at(-1)?.at_min ?? 0)} />
              </div>
              <div>
                <h2 className="text-[0.9375rem] font-semibold">By the room: drag it</h2>
                <FlowByRoom told={now} roomC={roomC} onRoom={tryRoom} />
                <Best told={now} />
              </div>
            </div>
          )}
        </div>
      }
      sheet={
        <>
          {now && room && <Hero told={now} room={room} />}
          <StepCautions step="bag" />
          <FlowFields key={part.id} part={part} index={index} told={now} onLines={write} />
          {now && <Amounts told={now} />}
        </>
      }
    />
  );
}

/** What stands beside the largest number: does it fill, by how much. */
function Hero({ told, room }: { told: Infusion; room: ReturnType<typeof inRoom> }) {
  const fills = room.full_min != null && room.margin >= 1;
  const vents = told.lines.filter((line) => line.does === "vents" && line.at_min != null);
  const first = Math.min(...vents.map((line) => line.at_min ?? 0));
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
      {fills ? (
        <Figure name="Full after" number={fixed(room.full_min ?? 0, 0)} unit="min" size={54} />
      ) : (
        <Figure name="Stays dry" number={percent(told.dry_share)} unit="%" size={54} tone="text-stop" />
      )}
      <div className="pb-1 text-[0.9062rem]">
        <p>
          The resin sets after <b className="fig font-semibold">{fixed(room.sets_min, 0)} min</b>
          {fills
            ? `: it would come ${fixed(room.margin, room.margin < 3 ? 2 : 1)} times as far.`
            : ", and does not reach all of it."}
        </p>
        {fills && vents.length > 0 && <p className="text-ink-soft">At the vent after {fixed(first, 0)} min.</p>}
        {fills && (
          <p className="text-ink-soft">
            A part alike would fill up to {fixed(Math.sqrt(room.margin), 1)} times as long.
          </p>
        )}
      </div>
    </div>
  );
}

function AtMinute({ told, minute }: { told: Infusion; minute: number }) {
  const { units } = useShop();
  const grams = between(
    told.draws.map((each) => each.at_min),
    told.draws.map((each) => each.grams),
    minute,
  );
  return (
    <p aria-live="polite" className="text-[0.9375rem]">
      After {fixed(minute, 0)} min: <b className="fig font-semibold">{units.text("mass", grams)}</b> drawn; the blue
      line is the front.
    </p>
  );
}

function Best({ told }: { told: Infusion }) {
  const { units } = useShop();
  if (told.best_c == null || told.coolest_c == null)
    return <p className="text-[0.9375rem]">No room gives it time enough with these lines.</p>;
  const there = inRoom(told, told.best_c);
  return (
    <p className="text-[0.9375rem]">
      Room, mould and resin alike: half as much again to spare from{" "}
      <b className="fig font-semibold">{units.text("temperature", told.coolest_c)}</b> to{" "}
      <b className="fig font-semibold">{units.text("temperature", told.best_c)}</b>; the warmest is the quickest, full
      after {fixed(there.full_min ?? 0, 0)} min.
    </p>
  );
}

/** A lag that is seen on a part. */
const TOLD_LAG_MM = 10;

/** By what it is known how open the bed is. */
function openBy(told: Infusion): string {
  if (told.permeability_from === "as typed") return "as you typed it";
  if (told.permeability_from === "memory") return "memory: a shot of yours corrects it";
  const [least, most] = [told.least_m2 ?? 0, told.most_m2 ?? 0];
  const band = told.own_shots > 1 ? `, ${tenPower(least)} to ${tenPower(most)}` : "";
  return `by ${plural(told.own_shots, "shot")} of yours of ${told.bed_name}${band}; memory says ${tenPower(told.by_memory_m2)}`;
}

/** Where the resin goes. */
function Amounts({ told }: { told: Infusion }) {
  const { units } = useShop();
  const rows = [
    ["into the fibre", told.in_fibre_g],
    ["into the core's holes and cuts", told.in_core_g],
    ["into the mesh", told.in_mesh_g],
    ["into the peel ply", told.in_peel_ply_g],
    ["in hoses and feed lines", told.in_hoses_g],
    ["on into the trap", told.in_trap_g],
    ["stays in the bucket", told.in_bucket_g],
  ] as const;
  return (
    <section aria-label="Where the resin goes" className="border-t border-rule pt-3 text-[0.9062rem]">
      <h2 className="flex items-baseline justify-between text-[0.9375rem] font-semibold">
        To mix{told.copies > 1 ? " for each" : ""}, in {plural(told.feeds_g.length, "pot")}
        <span className="fig text-[1.375rem]">{units.text("mass", told.mixed_g)}</span>
      </h2>
      <ul className="mt-1">
        {rows
          .filter(([, grams]) => grams > 0)
          .map(([words, grams]) => (
            <li key={words} className="flex items-baseline justify-between border-b border-rule-faint py-1">
              {words}
              <span className="fig">{units.text("mass", grams)}</span>
            </li>
          ))}
        <li className="flex items-baseline justify-between py-1 text-ink-soft">
          held ready besides, a third of the fill
          <span className="fig">{units.text("mass", told.stand_by_g)}</span>
        </li>
      </ul>
      <p className="lab mt-1">
        The bed is {units.text("thickness", told.thickness_mm)} thick, {percent(told.porosity)} % of it open, and lets
        through {tenPower(told.permeability_m2)} m² ({openBy(told)}).{" "}
        {(told.lag_mm ?? 0) >= TOLD_LAG_MM &&
          `Under the mesh the fabric fills ${units.text("size", told.lag_mm ?? 0)} behind what is seen. `}
        Not reckoned with: resin that runs ahead along an edge, what the hoses hold back.
      </p>
    </section>
  );
}
