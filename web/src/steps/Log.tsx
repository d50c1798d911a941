import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, type Run, type Schemas, type Story, taken } from "../api/client";
import { fixed, minutes, plural } from "../format";
import { useJob } from "../job/context";
import { useRuns } from "../job/useRuns";
import { amountText } from "../shelf/stock";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Wide } from "../ui/Wide";
import { History } from "./History";
import { Fronts, Repeat, Touches } from "./RunAfter";
import { RunEvents } from "./RunEvents";
import { saidOf } from "./ticket/RecordPot";

export function LogStep() {
  const { job, document } = useJob();
  const runs = useRuns(job.id);
  if (runs.isLoading) return <main />;
  return (
    <main className="mx-auto max-w-[1180px] px-4 py-5">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <h1 className="text-[1.375rem] font-semibold">What was done on {document.name}</h1>
        <span className="flex items-center gap-5 print:hidden">
          <Link to="/taught" className="link text-[0.9375rem]">
            What the log has taught
          </Link>
          <Button onClick={() => window.print()}>Print</Button>
        </span>
      </div>
      {runs.isError && <p className="mt-3 text-stop">{runs.error.message}</p>}
      {runs.data?.length === 0 && (
        <p className="mt-4 max-w-[60ch] text-[1rem]">
          Nothing yet. Take the job to the bench from its{" "}
          <Link to={`/jobs/${job.id}/ticket`} className="link">
            ticket
          </Link>
          , and write down when each pot was poured, used up and gelled: what is written here is what the shop learns
          from.
        </p>
      )}
      {runs.data?.map((run) => (
        <RunSheet key={run.id} run={run} />
      ))}
      <Fillers />
      <History />
    </main>
  );
}

/** What the shop's own pastes say of its fillers: how much each took, beside the table. */
function Fillers() {
  const { plan } = useJob();
  const words = new Map(
    plan.joints
      ?.flatMap((joint) => joint.filler_words ?? [])
      .filter((word) => word.pots > 0)
      .map((word) => [word.filler_name + word.consistency, word]),
  );
  if (!words.size) return null;
  return (
    <section className="mt-6">
      <h2 className="text-[1.1875rem] font-semibold">What the shop's pastes say</h2>
      <ul className="mt-1">
        {[...words.values()].map((word) => (
          <li key={word.filler_name + word.consistency} className="text-[0.9375rem]">
            {word.filler_name} {word.consistency} at <span className="fig text-[1.125rem]">{fixed(word.parts, 2)}</span>{" "}
            loose to 1 of mixed resin, {fixed(word.by_table, 2)} by the table: {plural(word.pots, "pot")} of the shop's
            log.
          </li>
        ))}
      </ul>
    </section>
  );
}

function RunSheet({ run }: { run: Run }) {
  const { units, clock, day } = useShop();
  const { data: lots } = useQuery({
    queryKey: ["lots", run.id],
    queryFn: () => taken(client.GET("/api/runs/{run_id}/lots", { params: { path: { run_id: run.id } } })),
    refetchOnMount: "always",
  });
  const told = run.stories.filter((story) => story.poured_at || story.events.length > 0);
  const poured = told.filter((story) => story.poured_at);
  return (
    <section className="mt-5 bg-sheet px-4 py-4">
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h2 className="text-[1.1875rem] font-semibold">
          {day(run.started_at)}, {clock(run.started_at)}
        </h2>
        <p className="lab">
          {run.started_by} · revision {run.revision} · room {units.text("temperature", run.room_c)} · {poured.length} of{" "}
          {plural(run.pot_count, "pot")} poured
        </p>
      </div>
      <p className="print:hidden">
        <Link to={`/bench/${run.id}`} className="link text-[0.9375rem]">
          Open its bench
        </Link>
        {" · "}
        <Link to={`/built/${run.id}`} className="link text-[0.9375rem]">
          As built
        </Link>
        {" · "}
        <Link to={`/wrong?run=${run.id}`} className="link text-[0.9375rem]">
          Something went wrong?
        </Link>
        {run.outcome && <span className="lab"> · closed, {run.outcome}</span>}
      </p>
      {run.simulated && (
        <p className="text-[0.9375rem] text-mid">
          Worked with simulated instruments: a trial, of which the shop learns nothing.
        </p>
      )}
      {run.overridden.map((caution) => (
        <p key={caution.id + caution.path} className="mt-1 text-[0.875rem]">
          {caution.override?.by} went on past a stop, {caution.message}: “{caution.override?.reason}”
        </p>
      ))}
      {told.length === 0 ? (
        <p className="mt-3 text-ink-soft">No pot written down yet.</p>
      ) : (
        <Wide label="Pots of this run" className="mt-3">
          <table className="w-full min-w-[820px]">
            <thead className="lab text-left">
              <tr className="border-b border-rule">
                <th className="py-1.5 font-normal">Pot</th>
                <th className="font-normal">For</th>
                <th className="font-normal">Poured</th>
                <th className="w-[38%] font-normal">Promised and done, minutes from the pour</th>
                <th className="text-right font-normal">Gel</th>
                <th className="text-right font-normal">Ratio</th>
                <th className="text-right font-normal">Filler</th>
              </tr>
            </thead>
            <tbody>
              {told.map((story) => (
                <StoryRow key={story.pot} story={story} of={lots?.find(({ number }) => number === story.pot)} />
              ))}
            </tbody>
          </table>
        </Wide>
      )}
      <Touches run={run} />
      <Fronts run={run} />
      <Repeat run={run} />
      <RunEvents runId={run.id} />
    </section>
  );
}

function signed(percent: number): string {
  return `${percent >= 0 ? "+" : "−"}${fixed(Math.abs(percent), Math.abs(percent) < 10 ? 1 : 0)} %`;
}

function StoryRow({ story, of }: { story: Story; of: Schemas["PotLots"] | undefined }) {
  const { units, clock } = useShop();
  const at = (kind: string) => story.events.find((event) => event.kind === kind && !event.taken_back);
  const poured = at("touched") ?? at("B in");
  const dumped = at("dumped");
  const notes = story.events.filter((event) => event.words).map((event) => event.words);
  return (
    <tr className="border-b border-rule-faint align-top">
      <td className="fig py-2 pr-3 text-[1.375rem] leading-none">{story.pot}</td>
      <td className="py-2 pr-3">
        {story.owner_name}
        {story.bay && `, ${story.bay}`}
        <span className="lab block">
          {units.text("mass", story.mass_g)} · {story.labels.join(", ")}
        </span>
        {of?.lots.map((lot) => (
          <Link
            key={lot.id}
            to={`/shelf/lot/${lot.id}`}
            className={`inline-block min-h-6 w-full text-[0.8438rem] hover:underline ${lot.bad ? "font-semibold text-stop" : "text-ink-soft"}`}
          >
            {amountText(units, lot.unit, lot.amount)} of {lot.name}
            {lot.batch && <span className="whitespace-nowrap">, lot {lot.batch}</span>}
            {lot.bad && `, a bad lot: ${lot.bad}`}
          </Link>
        ))}
        {of?.short.map((short) => (
          <span key={short.name} className="block text-[0.8438rem] font-semibold text-mid">
            {amountText(units, short.unit, short.amount)} of {short.name} came from no lot: count what is there
          </span>
        ))}
        {story.events.map(
          (event) =>
            event.taken_back && (
              <span key={event.id} className="block text-[0.875rem] text-ink-soft">
                <s>
                  {saidOf(event.kind)} {clock(event.happened_at)}
                </s>{" "}
                taken back by {event.taken_back.by}: “{event.taken_back.reason}”
              </span>
            ),
        )}
        {notes.map((note) => (
          <span key={note} className="block text-[0.875rem]">
            “{note}”
          </span>
        ))}
      </td>
      <td className="fig py-2 pr-3 whitespace-nowrap">
        {story.poured_at && clock(story.poured_at)}
        <span className="lab block">{poured?.by}</span>
      </td>
      <td className="py-1 pr-3">
        <LifeBar story={story} />
        {story.unfit && <span className="block text-[0.8438rem] font-semibold text-stop">must not be used</span>}
        {dumped && <span className="text-[0.8438rem] font-semibold text-kick">dumped {clock(dumped.happened_at)}</span>}
      </td>
      <td className="fig py-2 pl-4 text-right whitespace-nowrap">
        {story.gelled_in_min == null ? "–" : `${minutes(story.gelled_in_min)} min`}
        <span className="lab block">
          {story.gel_error_pct == null ? "" : `${signed(story.gel_error_pct)} on the plan`}
        </span>
      </td>
      <td className="fig py-2 pl-4 text-right whitespace-nowrap">
        {story.ratio_error_pct == null ? "–" : signed(story.ratio_error_pct)}
      </td>
      <td className="fig py-2 pl-4 text-right whitespace-nowrap">
        {story.stirred_ml == null ? "–" : units.text("volume", story.stirred_ml)}
        <span className="lab block">
          {story.filler_error_pct == null ? "" : `${signed(story.filler_error_pct)} on the plan`}
        </span>
      </td>
    </tr>
  );
}

/** One pot's life: the promise as a burning bar with its limit, what was seen as marks on it. */
function LifeBar({ story }: { story: Story }) {
  const end = Math.max(story.predicted_life_min, story.gelled_in_min ?? 0, story.used_in_min ?? 0) * 1.12;
  const x = (min: number) => (min / end) * 400;
  const gradient = `life-${story.pot}`;
  return (
    <svg
      viewBox="0 0 400 46"
      className="w-full max-w-[420px]"
      role="img"
      aria-label={`promised ${minutes(story.predicted_life_min)} minutes`}
    >
      <defs>
        <linearGradient id={gradient}>
          <stop offset="0" stopColor="var(--color-fresh)" />
          <stop offset=".6" stopColor="var(--color-mid)" />
          <stop offset="1" stopColor="var(--color-kick-fill)" />
        </linearGradient>
      </defs>
      <rect y="16" width={x(story.predicted_life_min)} height="12" fill={`url(#${gradient})`} />
      <path d={`M${x(story.use_by_min)} 12v20`} stroke="var(--color-ink)" strokeWidth="1.4" />
      <text
        x={x(story.predicted_life_min)}
        y="43"
        textAnchor="middle"
        fontSize="12.5"
        fill="var(--color-kick)"
        className="fig"
      >
        {minutes(story.predicted_life_min)}
      </text>
      <text
        x={x(story.use_by_min)}
        y="43"
        textAnchor="middle"
        fontSize="12.5"
        fill="var(--color-ink-soft)"
        className="fig"
      >
        {minutes(story.use_by_min)}
      </text>
      {story.used_in_min != null && (
        <g>
          <circle
            cx={x(story.used_in_min)}
            cy="22"
            r="6.5"
            fill="var(--color-sheet)"
            stroke="var(--color-cool)"
            strokeWidth="2.4"
          />
          <text
            x={Math.max(x(story.used_in_min), 22)}
            y="10"
            textAnchor="middle"
            fontSize="12.5"
            fill="var(--color-cool)"
            className="fig"
          >
            used {fixed(story.used_in_min, 0)}
          </text>
        </g>
      )}
      {story.gelled_in_min != null && (
        <g>
          <path d={`M${x(story.gelled_in_min) - 6} 16l12 12m0-12l-12 12`} stroke="var(--color-ink)" strokeWidth="2.4" />
          <text
            x={Math.min(Math.max(x(story.gelled_in_min), 28), 380)}
            y="10"
            textAnchor="middle"
            fontSize="12.5"
            fill="var(--color-ink)"
            className="fig"
          >
            gelled {fixed(story.gelled_in_min, 0)}
          </text>
        </g>
      )}
    </svg>
  );
}
