import { type ReactNode, useMemo, useRef } from "react";
import { Link, useSearchParams } from "react-router";
import { client, type Plan, type PotResult, type RunSheet, taken } from "../api/client";
import { fixed } from "../format";
import { useJob } from "../job/context";
import { JobCaution } from "../job/JobCautions";
import { useRun, useRuns } from "../job/useRuns";
import { useSheetClock } from "../job/useSheetClock";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { useForm } from "../ui/form";
import { type Explain, Explained, useExplain } from "../ui/Worked";
import { lineKey } from "./laminate/plies";
import { GettingHot, RUNAWAY } from "./ticket/GettingHot";
import { PeroxideGate } from "./ticket/PeroxideGate";
import { PotClocks } from "./ticket/PotClocks";
import { outOfOneTin } from "./ticket/pours";
import { RecordPot } from "./ticket/RecordPot";
import { TakeToBench } from "./ticket/TakeToBench";
import { TicketCard } from "./ticket/TicketCard";

export function TicketStep() {
  const { plan, job, document } = useJob();
  const { pending } = useForm();
  const runs = useRuns(job.id);
  const newest = runs.data?.[0];
  // One that was closed is over: the job may be taken to the bench again.
  const named = newest && newest.revision === job.revision && !newest.outcome ? newest.id : undefined;
  const { data: live } = useRun(named);
  const [asked, ask] = useSearchParams();
  // Where no pot is asked for, the one that came next on arrival: it stays when it is poured, to be watched.
  const arrived = useRef<number | null>(null);
  if (arrived.current === null && !runs.isLoading && (!named || live)) arrived.current = live?.next_pot ?? 1;
  const number = Number(asked.get("pot")) || arrived.current || 1;
  const setNumber = (pot: number) => ask({ pot: String(pot) }, { replace: true });
  const shown: Plan = live?.plan ?? plan;
  const pots = shown.pots ?? [];
  const at = Math.min(number, Math.max(1, shown.pot_count));
  const pot = pots.find((other) => at >= other.first && at < other.first + other.count);
  const story = live?.stories.find((other) => other.pot === at);
  const poured = story?.poured_at ?? undefined;
  const runId = live?.id;
  const ofRun = useMemo(
    () =>
      runId
        ? (about: string) =>
            taken(client.POST("/api/runs/{run_id}/working", { params: { path: { run_id: runId } }, body: { about } }))
        : null,
    [runId],
  );
  const ofPlan = useExplain() as Explain;
  if (runs.isLoading || (named && !live))
    return (
      <main>
        <h1 className="sr-only">Ticket</h1>
      </main>
    );
  const halfRead = document.parts?.find((part) => pending.get(lineKey(part.id)) !== undefined);
  if (halfRead && !live)
    return (
      <main className="p-6">
        <h1 className="text-[1.375rem] font-semibold">No ticket yet</h1>
        <p className="mt-2 max-w-[60ch]">
          The line of {halfRead.name || "this part"} is not understood to its end: no pot is mixed for half a stack.{" "}
          <Link className="link" to={`/jobs/${job.id}/stack`}>
            Finish it there
          </Link>
        </p>
      </main>
    );
  if (!pot?.ticket)
    return (
      <main className="p-6">
        <h1 className="text-[1.375rem] font-semibold">No ticket yet</h1>
        <p className="mt-2 max-w-[60ch]">
          {plan.problems?.[0]?.message ??
            (plan.stuck?.length
              ? "No pot lives long enough for this work: see what helps under Pots."
              : plan.weighed_only?.length
                ? `${plan.weighed_only.join(" and ")}: to be infused. Its weights are worked out; its pots wait for a plan of its flow.`
                : "")}{" "}
          <Link className="link" to={`/jobs/${job.id}/${plan.problems?.[0]?.step ?? "pots"}`}>
            Go there
          </Link>
        </p>
      </main>
    );
  return (
    <PeroxideGate key={live?.id ?? "plan"} plan={shown} live={live}>
      <Explained explain={ofRun ?? ofPlan}>
        {/* On a phone the pours come first, and once they are in the cup its clocks do. */}
        <main className="mx-auto flex min-h-[calc(100dvh-114px)] max-w-[1280px] flex-col gap-4 bg-sheet px-4 py-4 lg:grid lg:grid-cols-[1fr_372px] lg:gap-0 lg:p-0">
          <section aria-label="Ticket" className="max-lg:contents lg:min-w-0 lg:px-6 lg:py-4">
            <PotHeader
              pot={pot}
              at={at}
              count={shown.pot_count}
              onGo={setNumber}
              when={shown.run_sheet && <WhenPlanned sheet={shown.run_sheet} number={at} />}
              resin={shown.resins.length > 1 ? pot.resin_name : ""}
            />
            <div className="min-w-0 max-lg:order-2">
              <TicketCard pot={pot} ticket={pot.ticket} live={live} />
            </div>
          </section>
          <aside className="border-rule max-lg:contents lg:space-y-4 lg:border-l lg:px-4 lg:py-4">
            <div className={poured ? "max-lg:order-1" : "max-lg:order-3"}>
              <GettingHot cautions={shown.cautions ?? []} />
            </div>
            <div className="space-y-2 max-lg:order-3">
              {shown.cautions
                ?.filter((caution) => caution.step === "ticket" && caution.id !== RUNAWAY)
                .map((caution) => (
                  <JobCaution key={caution.id} caution={caution} />
                ))}
            </div>
            <div className={poured ? "max-lg:order-1" : "max-lg:order-3"}>
              {story?.unfit && !story.dumped ? (
                <Unfit why={story.unfit} />
              ) : (
                <PotClocks pot={pot} ticket={pot.ticket} poured={poured} />
              )}
            </div>
            {!outOfOneTin(pot.ticket) && (
              <Link
                className="link inline-block self-start text-[0.9375rem] max-lg:order-3"
                to={`/jobs/${job.id}/lab?mass=${pot.mass_g}`}
              >
                Try this pot in the lab
              </Link>
            )}
            <div className="max-lg:order-3">
              {live ? (
                <>
                  <Link
                    to={`/bench/${live.id}`}
                    className="mb-3 flex min-h-14 items-center justify-center rounded-(--radius) bg-ink px-5 text-[1.125rem] font-semibold text-sheet hover:opacity-90"
                  >
                    Open the bench
                  </Link>
                  <RecordPot run={live} pot={at} planned={pot} />
                </>
              ) : (
                <TakeToBench />
              )}
            </div>
          </aside>
        </main>
      </Explained>
    </PeroxideGate>
  );
}

/** In place of its clocks: a pot that must not be used has no hour to be used by. */
function Unfit({ why }: { why: string }) {
  return (
    <div role="alert" className="border-l-8 border-stop pl-3">
      <p className="text-[1.875rem] font-semibold leading-tight text-stop">Do not use this pot</p>
      <p className="mt-1 text-[1.0625rem]">{why}.</p>
      <p className="mt-1 text-[1.0625rem]">
        Write below that it is dumped. If it was mended, take “poured” back and write what is in it now.
      </p>
    </div>
  );
}

function PotHeader({
  pot,
  at,
  count,
  onGo,
  when,
  resin,
}: {
  when: ReactNode;
  /** Of which resin, where the job has several. */
  resin: string;
  pot: PotResult;
  at: number;
  count: number;
  onGo: (number: number) => void;
}) {
  return (
    <div className="flex flex-wrap items-center justify-between gap-3 border-b border-rule pb-3">
      <div>
        <h1 className="fig text-[1.875rem] leading-none">
          Pot {at} <span className="font-normal text-ink-soft">of {fixed(count, 0)}</span>
        </h1>
        <p className="mt-1 text-[0.9375rem]">
          {pot.owner_name}
          {pot.bay && `, ${pot.bay}`}: {pot.labels.join(", then ")}
          {resin && <b className="font-semibold text-ink">, {resin}</b>}
          {pot.shared_by > 1 ? `, for all ${pot.shared_by} alike` : ""}
        </p>
        {pot.hardener_changes && at === pot.first && (
          <p role="status" className="mt-2 text-[1.5rem] leading-tight font-semibold text-mid">
            From this pot on: {pot.hardener} hardener
          </p>
        )}
        {when}
      </div>
      <div className="flex gap-2">
        <Button className="min-h-12 px-5 text-[1.0625rem]" disabled={at <= 1} onClick={() => onGo(at - 1)}>
          Before
        </Button>
        <Button className="min-h-12 px-5 text-[1.0625rem]" disabled={at >= count} onClick={() => onGo(at + 1)}>
          Next
        </Button>
      </div>
    </div>
  );
}

/** When the run sheet has this pot weighed, and for what room it was sized. */
function WhenPlanned({ sheet, number }: { sheet: RunSheet; number: number }) {
  const { units } = useShop();
  const { say } = useSheetClock(sheet);
  const pot = sheet.pots.find((each) => each.number === number);
  if (!pot) return null;
  return (
    <p className="text-[0.9375rem] text-ink-soft">
      weigh at <span className="fig text-[1.125rem] text-ink">{say(pot.weigh_min)}</span>, sized for{" "}
      {units.text("temperature", pot.room_c)}
    </p>
  );
}
