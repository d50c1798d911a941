import { useState } from "react";
import { Link } from "react-router";
import type { CutPiece, CutRoll, StandingTick } from "../api/client";
import { Roll } from "../drawing/Roll";
import { fixed, percent, plural } from "../format";
import { useJob, withPart } from "../job/context";
import { StepCautions } from "../job/JobCautions";
import { settled, useCut, useTick } from "../job/useBeforePot";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Counted } from "../ui/Counted";
import { Download } from "../ui/Download";
import { Prints } from "../ui/Prints";
import { QuantityField } from "../ui/QuantityField";
import { Tick } from "../ui/Tick";
import { TickRow } from "../ui/TickRow";
import { Waiting } from "../ui/Waiting";
import { isByHand, withSeams } from "./laminate/BayFields";
import { Split, Title } from "./Split";

/** Everything cut first: the rolls with their pieces, and the pieces in the order they go down. */
export function CutStep() {
  const { job } = useJob();
  const { data } = useCut();
  const [pointed, point] = useState("");
  const tick = useTick("cut");
  if (!data) return <Waiting words="The pieces are being laid on their rolls" />;
  const { pieces, rolls } = data.plan;
  const ticks = new Map(data.ticks.map((each) => [each.thing, each]));
  const isDone = (id: string) => settled(ticks.get(id));
  const toggle = (id: string) => tick.mutate({ things: [id], state: isDone(id) ? "undone" : "done" });
  const left = pieces.filter((piece) => !isDone(piece.id));
  if (!pieces.length)
    return (
      <main className="p-6">
        <h1 className="text-[1.375rem] font-semibold">Nothing to cut yet</h1>
        <p className="mt-2">
          Pieces come from the stack:{" "}
          <Link to={`/jobs/${job.id}/stack`} className="link">
            write it first
          </Link>
          .
        </p>
      </main>
    );
  return (
    <Split
      picture={
        <>
          <Title
            words={left.length ? `${plural(left.length, "piece")} left to cut` : "All of it is cut"}
            under={`${plural(pieces.length, "piece")} on ${plural(rolls.length, "roll")}, numbered in laying order. Cut square, trimmed on the job.`}
          />
          <div className="space-y-5">
            {rolls.map((roll) => (
              <RollPicture
                key={roll.fabric_id + roll.lot_id + roll.number}
                roll={roll}
                done={isDone}
                pointed={pointed}
                onPoint={point}
                onTick={toggle}
              />
            ))}
          </div>
        </>
      }
      sheet={
        <>
          <BaysToKeep pieces={pieces} />
          <CutList
            pieces={pieces}
            ticks={ticks}
            pointed={pointed}
            onPoint={point}
            onToggle={toggle}
            onAll={(things) => tick.mutate({ things, state: "done" })}
          />
          {tick.isError && (
            <p role="alert" className="text-[0.875rem] text-stop">
              Not written down: {tick.error.message}. Tap again.
            </p>
          )}
          <StepCautions step="cut" />
          <CutWishes />
          <Files rolls={rolls} />
        </>
      }
    />
  );
}

/** Bays that the plan chose may change with the day: they are kept before anything is cut. */
function BaysToKeep({ pieces }: { pieces: CutPiece[] }) {
  const { document, plan, edit } = useJob();
  const cutBy = new Set(pieces.filter((piece) => piece.bay).map((piece) => piece.part_id));
  const chosen = document.parts.filter((part) => cutBy.has(part.id) && !isByHand(part));
  if (!chosen.length) return null;
  const keep = () =>
    edit((before) =>
      chosen.reduce((job, part) => {
        const bays = plan.run_sheet?.lanes.find((lane) => lane.owner_id === part.id)?.bays ?? [];
        return withPart(job, part.id, (old) =>
          withSeams(
            old,
            bays.slice(0, -1).map((bay) => bay.ends),
          ),
        );
      }, before),
    );
  return (
    <div className="border-l border-mid pl-3">
      <p className="text-[0.9062rem]">
        {chosen.map((part) => part.name || "a part").join(", ")}: cut for the bays that the plan chose for today.
        Another day may ask for others.
      </p>
      <Button edits className="mt-2" onClick={keep}>
        Keep these bays
      </Button>
    </div>
  );
}

function RollPicture({
  roll,
  done,
  pointed,
  onPoint,
  onTick,
}: {
  roll: CutRoll;
  done: (id: string) => boolean;
  pointed: string;
  onPoint: (id: string) => void;
  onTick: (id: string) => void;
}) {
  const { units } = useShop();
  return (
    <section>
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-[1rem] font-semibold">
          {roll.fabric_name}
          {roll.lot_id ? `, offcut ${roll.called}` : roll.number > 1 && `, roll ${roll.number}`}
        </h2>
        <p className="lab">
          <b className="fig text-[1.375rem] text-ink">{units.text("roll_run", roll.run_m)}</b>{" "}
          {roll.lot_id ? "of an offcut" : "off a roll"} {units.text("cut", roll.roll_width_mm)} wide ·{" "}
          {percent(roll.waste_share)} % waste
        </p>
      </div>
      <Roll roll={roll} done={done} focus={pointed} onFocus={onPoint} onTick={onTick} />
    </section>
  );
}

/** More are shown in groups. */
const MANY = 60;
const OF_A_GROUP = 40;

/** The pieces in their order, parted where another part begins, and into groups that a hand can tick through. */
function groupsOf(pieces: CutPiece[]): CutPiece[][] {
  const groups: CutPiece[][] = [];
  for (const piece of pieces) {
    const last = groups.at(-1);
    if (last && last.length < OF_A_GROUP && last[0]?.part_id === piece.part_id) last.push(piece);
    else groups.push([piece]);
  }
  return groups;
}

function CutList({
  pieces,
  ticks,
  pointed,
  onPoint,
  onToggle,
  onAll,
}: {
  pieces: CutPiece[];
  ticks: Map<string, StandingTick>;
  pointed: string;
  onPoint: (id: string) => void;
  onToggle: (id: string) => void;
  onAll: (ids: string[]) => void;
}) {
  const { clock, units } = useShop();
  const isDone = (piece: CutPiece) => settled(ticks.get(piece.id));
  const left = pieces.filter((piece) => !isDone(piece));
  const row = (piece: CutPiece) => {
    const tick = ticks.get(piece.id);
    return (
      <TickRow
        key={piece.id}
        label={`Piece ${piece.number}, ${piece.part_name}, ply ${piece.ply_number}`}
        done={settled(tick)}
        waived={tick?.state === "waived"}
        lit={pointed === piece.id}
        onPoint={(on) => onPoint(on ? piece.id : "")}
        onToggle={() => onToggle(piece.id)}
      >
        <span className="flex flex-wrap items-baseline gap-x-3">
          <b className="fig w-7 text-[1.25rem]">{piece.number}</b>
          <b className="fig text-[1.1875rem]">
            {units.number("cut", piece.along_mm)} × {units.number("cut", piece.across_mm)}
            <span className="text-[0.8125rem] font-normal"> {units.unit("cut")}</span>
          </b>
          <span className="text-[0.9062rem]">
            {piece.fabric_name}
            {piece.angle && ` ±${piece.angle}`}
          </span>
        </span>
        <span className="lab block">
          {piece.part_name}
          {piece.bay && `, ${piece.bay}`}
          {piece.copies > 1 && `, ${piece.copy_number} of ${piece.copies}`}, ply {piece.ply_number}
          {piece.part_of && `, ${piece.part_of}`} · {[piece.edges, ...piece.notes].join(", ")}
          {tick && tick.state !== "undone" && ` · ${tick.by}, ${clock(tick.at)}`}
        </span>
        {tick?.state === "waived" && <span className="block text-[0.8125rem]">waived: {tick.reason}</span>}
        {tick?.state === "done" && tick.changed && (
          <span className="block text-[0.8125rem] text-resin-ink">was cut as {tick.said}: cut again or waive it</span>
        )}
      </TickRow>
    );
  };
  return (
    <div>
      <div className="flex items-baseline justify-between">
        <h2 className="text-[1.0625rem] font-semibold">In laying order</h2>
        {left.length > 1 && (
          <Button edits look="text" onClick={() => onAll(left.map((piece) => piece.id))}>
            all {fixed(left.length, 0)} are cut
          </Button>
        )}
      </div>
      {pieces.length > MANY ? (
        groupsOf(pieces).map((group) => {
          const todo = group.filter((piece) => !isDone(piece));
          const [first, last] = [group[0], group.at(-1)];
          return (
            <Counted
              key={first?.id}
              title={`${first?.part_name || "Part"}: ${first?.number} to ${last?.number}`}
              done={group.length - todo.length}
              of={group.length}
              word="cut"
              open={todo.length > 0 && todo[0] === left[0]}
            >
              {todo.length > 1 && (
                <Button edits className="my-1.5" onClick={() => onAll(todo.map((piece) => piece.id))}>
                  These {fixed(todo.length, 0)} are cut
                </Button>
              )}
              <ul aria-label={`Pieces ${first?.number} to ${last?.number}`}>{group.map(row)}</ul>
            </Counted>
          );
        })
      ) : (
        <ul aria-label="Pieces" className="mt-1 border-t border-rule">
          {pieces.map(row)}
        </ul>
      )}
    </div>
  );
}

function CutWishes() {
  const { document, edit } = useJob();
  const { sheet_overlap_mm, spare } = document.cutting;
  const set = (change: Partial<typeof document.cutting>) =>
    edit((before) => ({ ...before, cutting: { ...before.cutting, ...change } }));
  return (
    <div className="grid items-start gap-x-5 gap-y-2 sm:grid-cols-2">
      <QuantityField
        label="Sheets overlap by"
        path="cutting.sheet_overlap_mm"
        fieldKey="cutting.overlap"
        dimension="thickness"
        value={sheet_overlap_mm}
        onCommit={(value) => value != null && set({ sheet_overlap_mm: value })}
      />
      <div className="pt-5">
        <Tick label="one of each fabric to spare" checked={spare} onChange={(on) => set({ spare: on })} />
      </div>
      <div className="sm:col-span-2">
        <Choice
          label="Pieces are cut"
          value={document.practice.cutting}
          options={[
            ["before the first pot", "before the first pot"],
            ["in the tack waits", "in the tack waits"],
          ]}
          onChange={(cutting) => edit((before) => ({ ...before, practice: { ...before.practice, cutting } }))}
        />
        <p className="lab mt-1">
          {document.practice.cutting === "before the first pot"
            ? "Nothing is cut with live resin in a pot. The bench opens no pot before."
            : "The wait between plies is used. The bench does not ask for them."}
        </p>
      </div>
    </div>
  );
}

function Files({ rolls }: { rolls: CutRoll[] }) {
  const { job, saving } = useJob();
  if (saving !== "saved") return null;
  const at = `/api/jobs/${job.id}`;
  return (
    <p className="flex flex-wrap gap-x-3 text-[0.875rem]">
      <span className="lab self-center">To print: </span>
      <Prints job={job} file="labels">
        labels
      </Prints>
      <Prints job={job} file="cut-plan">
        cut plan
      </Prints>
      {rolls.map((roll, index) => (
        <Download
          key={roll.fabric_id + roll.number}
          href={`${at}/rolls/${index + 1}.svg`}
          name={`roll-${index + 1}.svg`}
        >
          {rolls.length > 1 ? `roll ${index + 1} as SVG` : "the roll as SVG"}
        </Download>
      ))}
      <Link to={`/jobs/${job.id}/buy`} className="link inline-flex min-h-7 items-center self-center">
        what to buy
      </Link>
    </p>
  );
}
