import { useState } from "react";
import { Link } from "react-router";
import type { PrepLine, StandingTick } from "../api/client";
import { plural } from "../format";
import { useJob } from "../job/context";
import { StepCautions } from "../job/JobCautions";
import { settled, usePrepare, useTick } from "../job/useBeforePot";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Counted } from "../ui/Counted";
import { Prints } from "../ui/Prints";
import { TickRow } from "../ui/TickRow";
import { Waiting } from "../ui/Waiting";

/** More lines are counted, group by group, and drawn where one looks. */
const MANY = 60;

/** What is done before a pot is opened, in order, each line with its why and who signed it off. */
export function PrepareStep() {
  const { job, saving } = useJob();
  const { data } = usePrepare();
  if (!data) return <Waiting words="The list is being made" />;
  const ticks = new Map(data.ticks.map((each) => [each.thing, each]));
  const left = data.lines.filter((line) => !settled(ticks.get(line.id)));
  const groups = grouped(data.lines);
  const many = data.lines.length > MANY;
  if (!data.lines.length)
    return (
      <main className="p-6">
        <h1 className="text-[1.375rem] font-semibold">Nothing to prepare yet</h1>
        <p className="mt-2">The list follows from the parts, what they lie on, and their stacks.</p>
      </main>
    );
  return (
    <main className="mx-auto max-w-[1180px] bg-sheet px-4 py-4 sm:px-6">
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h1 className="text-[1.625rem] font-semibold">
          {left.length ? `${plural(left.length, "thing")} to do before a pot is opened` : "Ready for the first pot"}
        </h1>
        {saving === "saved" && (
          <span className="flex gap-3">
            <Link
              to={`/jobs/${job.id}/buy`}
              className="link inline-flex min-h-7 items-center self-center text-[0.875rem]"
            >
              what to buy
            </Link>
            <Prints job={job} file="preparation">
              sheet to sign
            </Prints>
          </span>
        )}
      </div>
      <p className="lab mb-3">
        In the order it is done: water before sanding, dust off and a wipe after it. The data sheet and local rules win.
      </p>
      <StepCautions step="prepare" />
      <div className="gap-x-10 lg:columns-2">
        {many &&
          groups.map(([name, lines]) => {
            const todo = lines.filter((line) => !settled(ticks.get(line.id)));
            return (
              <Counted
                key={name || lines[0]?.id}
                className="mb-2 break-inside-avoid"
                title={name}
                done={lines.length - todo.length}
                of={lines.length}
                word="done"
                open={todo.length > 0 && todo[0] === left[0]}
              >
                <Lines name={name} lines={lines} ticks={ticks} />
              </Counted>
            );
          })}
        {!many &&
          groups.map(([name, lines]) => (
            <section key={name || lines[0]?.id} className="mb-5 break-inside-avoid">
              <h2 className="border-b border-ink pb-1 text-[1.0625rem] font-semibold">{name}</h2>
              <Lines name={name} lines={lines} ticks={ticks} />
            </section>
          ))}
      </div>
    </main>
  );
}

function Lines({ name, lines, ticks }: { name: string; lines: PrepLine[]; ticks: Map<string, StandingTick> }) {
  return (
    <ul aria-label={name}>
      {lines.map((line) => (
        <Line key={line.id} line={line} tick={ticks.get(line.id)} />
      ))}
    </ul>
  );
}

/** The lines in their order, under the part they are about; what is about none comes before or after. */
function grouped(lines: PrepLine[]): [string, PrepLine[]][] {
  const groups: [string, PrepLine[]][] = [];
  for (const line of lines) {
    const last = groups.at(-1);
    if (last && last[1][0]?.part_id === line.part_id) last[1].push(line);
    else groups.push([line.part_name || (groups.length ? "At the bench" : "First"), [line]]);
  }
  return groups;
}

function Line({ line, tick }: { line: PrepLine; tick: StandingTick | undefined }) {
  const { clock, day } = useShop();
  const sign = useTick("prepare");
  const [waiving, setWaiving] = useState(false);
  const [reason, setReason] = useState("");
  const done = settled(tick);
  return (
    <>
      <TickRow
        label={line.part_name ? `${line.words}, ${line.part_name}` : line.words}
        done={done}
        waived={tick?.state === "waived"}
        onToggle={() => sign.mutate({ things: [line.id], state: done ? "undone" : "done" })}
        after={
          !done && (
            <Button edits look="text" className="self-center px-2" onClick={() => setWaiving(!waiving)}>
              waive
            </Button>
          )
        }
      >
        <span className="block text-[1rem] leading-tight">
          {line.words}
          {line.gate && !done && <span className="lab"> · keeps the first pot shut</span>}
        </span>
        <span className="lab block">
          {line.why} ({line.source})
        </span>
        {tick && tick.state !== "undone" && (
          <span className={`block text-[0.8125rem] ${tick.changed ? "text-resin-ink" : "text-cool"}`}>
            {tick.state === "waived" ? `waived: ${tick.reason}` : tick.changed ? `signed as “${tick.said}”` : "done"} ·{" "}
            {tick.by}, {day(tick.at)} {clock(tick.at)}
          </span>
        )}
      </TickRow>
      {waiving && !done && (
        <li className="flex flex-wrap gap-2 border-b border-rule-faint bg-floor p-2">
          <input
            aria-label={`Why waive: ${line.words}`}
            value={reason}
            maxLength={300}
            placeholder="why it is not needed here"
            onChange={(event) => setReason(event.target.value)}
            className="field min-w-0 flex-1"
          />
          <Button
            edits
            className="min-h-11"
            disabled={sign.isPending}
            onClick={() => sign.mutate({ things: [line.id], state: "waived", reason })}
          >
            Waive it
          </Button>
        </li>
      )}
      {sign.isError && (
        <li role="alert" className="p-1.5 text-[0.8125rem] text-stop">
          Not written down: {sign.error.message}
        </li>
      )}
    </>
  );
}
