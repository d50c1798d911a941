import { useState } from "react";
import { Link } from "react-router";
import type { JobStrip, Step } from "../api/client";
import { MiniSection } from "../drawing/Section";
import { plural } from "../format";
import { names } from "../job/stepNames";
import { useShop } from "../shop";
import { Choice } from "../ui/Choice";
import { SearchField } from "../ui/SearchField";

/** From so many on they are looked for: by a word, or by what they wait for. */
const MANY = 12;
const ALL = "all";
const STOPPED = "stopped";
type Waits = typeof ALL | typeof STOPPED | Step;

const waitsFor = (job: JobStrip): Waits => (job.state === "stop" ? STOPPED : job.next_step.step);
const wordOf = (waits: Waits) => (waits === ALL ? "All" : waits === STOPPED ? "Stopped" : names[waits]);

/** The jobs of the floor, each a strip. Many of them are counted by the step they wait at, and found by a word. */
export function JobList({ jobs }: { jobs: JobStrip[] }) {
  const [words, setWords] = useState("");
  const [wanted, setWanted] = useState<Waits>(ALL);
  const many = jobs.length > MANY;
  const counts = new Map<Waits, number>([[ALL, jobs.length]]);
  for (const job of jobs) counts.set(waitsFor(job), (counts.get(waitsFor(job)) ?? 0) + 1);
  // What nobody waits at any more shows all again.
  const waits = counts.has(wanted) ? wanted : ALL;
  const order: Waits[] = [ALL, STOPPED, ...(Object.keys(names) as Step[])];
  const told = words.trim().toLowerCase();
  const shown = many
    ? jobs.filter(
        (job) =>
          (waits === ALL || waitsFor(job) === waits) &&
          [job.name, job.resin_name, job.next_step.words].some((each) => each.toLowerCase().includes(told)),
      )
    : jobs;
  return (
    <>
      {many && (
        <div className="mt-2 flex flex-wrap items-end gap-x-5 gap-y-2">
          <SearchField label="Find a job" value={words} onChange={setWords} />
          <Choice
            looks
            label="Waiting at"
            value={waits}
            options={order
              .filter((each) => counts.has(each))
              .map((each) => [each, `${wordOf(each)} ${counts.get(each)}`] as const)}
            onChange={setWanted}
          />
        </div>
      )}
      {many && shown.length === 0 && (
        <p className="mt-3">No job here says “{words.trim()}”: look under All, or in the search at the top.</p>
      )}
      <ul aria-label="Jobs" className="mt-1.5 border-t border-rule">
        {shown.map((job) => (
          <Strip key={job.id} job={job} />
        ))}
      </ul>
    </>
  );
}

function Strip({ job }: { job: JobStrip }) {
  const { units, clock, day } = useShop();
  const to = `/jobs/${job.id}/${job.next_step.step}`;
  return (
    <li className="border-b border-rule [contain-intrinsic-size:auto_78px] [content-visibility:auto]">
      <Link
        to={to}
        className="grid items-center gap-x-6 gap-y-2 px-1 py-3 hover:bg-sheet sm:grid-cols-[120px_1fr_1.1fr]"
      >
        <MiniSection plies={job.plies} substrate={job.substrate} id={job.id} />
        <div>
          <div className="text-[1.125rem] font-semibold">{job.name}</div>
          <div className="lab">
            {job.part_count
              ? `${plural(job.part_count, "part")} · ${units.text("area", job.total_area_m2)}`
              : "not measured"}
            {job.resin_name && ` · ${job.resin_name}`}
          </div>
        </div>
        <div>
          <div className="text-[1.0312rem] font-medium">
            {job.state === "stop" && <strong className="text-stop">Stop: </strong>}
            <span className={job.state === "stop" ? "" : "inline-block first-letter:uppercase"}>
              {job.next_step.words}
            </span>
          </div>
          <div className="lab">
            {job.behind ? "being planned again" : `next, under ${job.next_step.step}`} · saved {day(job.saved_at)}{" "}
            {clock(job.saved_at)} by {job.saved_by}
          </div>
        </div>
      </Link>
    </li>
  );
}
