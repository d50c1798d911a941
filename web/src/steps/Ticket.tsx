import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";
import {
  type Caution,
  client,
  type Plan,
  type PotResult,
  type Ready,
  type Run,
  type RunSheet,
  type Ticket,
  taken,
} from "../api/client";
import { Cup } from "../drawing/Cup";
import { fixed, minutes, oneIn } from "../format";
import { newTap, useJob, withQuantity } from "../job/context";
import { JobCaution } from "../job/JobCautions";
import { useReady, useTick } from "../job/useBeforePot";
import { useSheetClock } from "../job/useSheetClock";
import { useSession } from "../session";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { QuantityField } from "../ui/QuantityField";
import { type Explain, Explained, useExplain, Worked } from "../ui/Worked";
import { RecordPot } from "./RecordPot";
import { ThickenPot } from "./ThickenPot";

export function useRuns(jobId: string) {
  return useQuery({
    queryKey: ["runs", jobId],
    queryFn: () => taken(client.GET("/api/jobs/{job_id}/runs", { params: { path: { job_id: jobId } } })),
  });
}

export function TicketStep() {
  const { plan, job } = useJob();
  const runs = useRuns(job.id);
  const newest = runs.data?.[0];
  const live = newest && newest.revision === job.revision ? newest : undefined;
  const [asked, ask] = useSearchParams();
  const number = Number(asked.get("pot")) || 1;
  const setNumber = (pot: number) => ask({ pot: String(pot) }, { replace: true });
  const shown: Plan = live?.plan ?? plan;
  const pots = shown.pots ?? [];
  const at = Math.min(number, Math.max(1, shown.pot_count));
  const pot = pots.find((other) => at >= other.first && at < other.first + other.count);
  const story = live?.stories.find((other) => other.pot === at);
  const poured = story?.events.find((event) => event.kind === "poured");
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
  if (runs.isLoading)
    return (
      <main>
        <h1 className="sr-only">Ticket</h1>
      </main>
    );
  if (!pot?.ticket)
    return (
      <main className="p-6">
        <h1 className="text-[22px] font-semibold">No ticket yet</h1>
        <p className="mt-2 max-w-[60ch]">
          {plan.problems?.[0]?.message ??
            (plan.stuck?.length ? "No pot fits this work: see what frees it under Pots." : "")}{" "}
          <Link className="link" to={`/jobs/${job.id}/${plan.problems?.[0]?.step ?? "pots"}`}>
            Go there
          </Link>
        </p>
      </main>
    );
  return (
    <Gate key={live?.id ?? "plan"} plan={shown} live={live}>
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
              <Clocks pot={pot} ticket={pot.ticket} poured={poured?.happened_at} />
            </div>
            <Link
              className="link inline-block self-start text-[15px] max-lg:order-3"
              to={`/jobs/${job.id}/lab?mass=${pot.mass_g}`}
            >
              Try this pot in the lab
            </Link>
            <div className="max-lg:order-3">
              {live ? <RecordPot run={live} pot={at} planned={pot} /> : <TakeToBench />}
            </div>
          </aside>
        </main>
      </Explained>
    </Gate>
  );
}

function PotHeader({
  pot,
  at,
  count,
  onGo,
  when,
}: {
  when: React.ReactNode;
  pot: PotResult;
  at: number;
  count: number;
  onGo: (number: number) => void;
}) {
  return (
    <div className="flex flex-wrap items-center justify-between gap-3 border-b border-rule pb-3">
      <div>
        <h1 className="fig text-[30px] leading-none">
          Pot {at} <span className="font-normal text-ink-soft">of {fixed(count, 0)}</span>
        </h1>
        <p className="mt-1 text-[15px]">
          {pot.owner_name}: {pot.labels.join(", then ")}
          {pot.shared_by > 1 ? `, for all ${pot.shared_by} alike` : ""}
        </p>
        {when}
      </div>
      <div className="flex gap-2">
        <Button className="min-h-12 px-5 text-[17px]" disabled={at <= 1} onClick={() => onGo(at - 1)}>
          Before
        </Button>
        <Button className="min-h-12 px-5 text-[17px]" disabled={at >= count} onClick={() => onGo(at + 1)}>
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
    <p className="text-[15px] text-ink-soft">
      weigh at <span className="fig text-[18px] text-ink">{say(pot.weigh_min)}</span>, sized for{" "}
      {units.text("temperature", pot.room_c)}
    </p>
  );
}

/** The pours, in the unit of the tool in hand whatever the screens are read in: the scale shows no other. */
function TicketCard({ pot, ticket, live }: { pot: PotResult; ticket: Ticket; live: Run | undefined }) {
  const { document, edit } = useJob();
  const { shop, units } = useShop();
  const converted = units.unit("mass") !== "g";
  const scale = ticket.by === "weight";
  const decimals = (value: number) => (value % 1 ? 1 : 0);
  return (
    <>
      <div className="grid gap-x-6 gap-y-2 pt-4 sm:grid-cols-[200px_1fr]">
        <div className="max-sm:hidden">
          <Cup ticket={ticket} />
        </div>
        <ol className="min-w-0">
          {scale && (
            <li className="grid grid-cols-[1fr_auto] items-end border-b border-rule-faint pb-2">
              <div>
                <div className="text-[17px] font-semibold">Cup on the scale</div>
                <div className="lab">empty, not tared</div>
              </div>
              <div className="fig text-[30px] leading-none">
                {fixed(ticket.cup_g, decimals(ticket.cup_g))}{" "}
                <span className="text-[18px] font-normal text-ink-soft">g</span>
              </div>
            </li>
          )}
          {ticket.pours.map((pour, at) => {
            const drawn = pour.unit !== "g" && scale;
            const hero = drawn ? pour.amount : (pour.running ?? pour.amount);
            return (
              <li key={pour.what} className="grid grid-cols-[1fr_auto] items-end gap-3 border-b border-rule-faint py-2">
                <div className="min-w-0">
                  <div className="text-[20px] font-semibold leading-tight">{pour.what}</div>
                  <div className="text-[14.5px] text-ink-soft">
                    {drawn
                      ? `${pour.note}; the scale then shows ${fixed(pour.running ?? 0, 0)} g`
                      : scale
                        ? `pour ${fixed(pour.amount, decimals(pour.amount))} g${pour.tared == null ? "" : `, tared ${fixed(pour.tared, decimals(pour.tared))}`}${pour.note ? `, ${pour.note}` : ""}`
                        : pour.unit === "ml"
                          ? `${fixed(pour.amount, decimals(pour.amount))} ml, ${pour.note}`
                          : pour.note}
                    {converted &&
                      (pour.unit === "ml" || pour.unit === "g") &&
                      ` (${units.text(pour.unit === "ml" ? "volume" : "mass", pour.amount)}; the tool reads ${pour.unit})`}
                  </div>
                </div>
                <div className="text-right">
                  <div className="lab">{reads(pour.unit, drawn, scale, pour.running != null)}</div>
                  <div className="fig text-[clamp(66px,9vw,92px)] leading-[0.92]">
                    <Worked about={`${at ? "second" : "first"}_pour:${pot.id}`}>{fixed(hero, decimals(hero))}</Worked>
                    <span className="ml-1 text-[26px] font-normal text-ink-soft">
                      {pour.unit === "mark" ? "" : pour.unit}
                    </span>
                  </div>
                </div>
              </li>
            );
          })}
        </ol>
      </div>
      {ticket.order_matters && <PourOrder key={pot.id} pours={ticket.pours} />}
      <ol className="mt-4 list-decimal space-y-1.5 pl-6 text-[17px] marker:text-ink-soft">
        {ticket.mixing.map((words) => (
          <li key={words}>{words}</li>
        ))}
        {ticket.filler && !ticket.thickened && <li>{ticket.filler}</li>}
        {!ticket.thickened && <li>{ticket.lays || "Out of the cup and onto the work at once"}</li>}
      </ol>
      {ticket.thickened && <ThickenPot thickened={ticket.thickened} ticket={ticket} />}
      <div className="mt-4 flex flex-wrap items-start gap-x-8 gap-y-3 border-t border-rule pt-3">
        <div>
          <div className="lab">Set out</div>
          <div className="max-w-[34ch] text-[15px]">{ticket.set_out?.join(", ")}</div>
        </div>
        <div>
          <div className="lab">Wear</div>
          <div className="max-w-[38ch] text-[15px]">{ticket.protection.join(", ")}</div>
        </div>
        <div>
          <div className="lab">
            Rounding to the tool moves the {ticket.pours[1]?.what === "Catalyst" ? "dose" : "ratio"}
          </div>
          <div className="fig text-[17px]">
            <Worked about={`ratio_error:${pot.id}`}>
              {ticket.ratio_error_pct >= 0 ? "+" : "−"}
              {fixed(Math.abs(ticket.ratio_error_pct), 1)} %
            </Worked>
          </div>
        </div>
        {scale && !live && (
          <div className="w-36">
            <QuantityField
              label="This cup weighs"
              path="pots.cup_g"
              fieldKey="pots.cup"
              dimension="mass"
              value={document.pots.cup_g ?? shop.facts.cup_g}
              typed={document.pots.typed?.cup_g}
              optional
              onCommit={(value, words) =>
                edit((before) => ({ ...before, pots: withQuantity(before.pots, "cup_g", value, words) }))
              }
            />
          </div>
        )}
      </div>
    </>
  );
}

/** What stands over the number to hit. */
function reads(unit: string, drawn: boolean, scale: boolean, running: boolean): string {
  if (unit === "strokes") return "pump";
  if (unit === "drops") return "count";
  if (drawn) return "draw";
  if (scale) return running ? "scale shows" : "weigh, tared";
  return running ? "up to mark" : "measure";
}

/** In one marked cup the second mark holds only over the first part: the order is tapped, and caught when it is wrong. */
function PourOrder({ pours }: { pours: Ticket["pours"] }) {
  const [inCup, setInCup] = useState<number[]>([]);
  const wrong = inCup[0] !== undefined && inCup[0] !== 0;
  return (
    <div className="mt-3">
      <div className="flex flex-wrap items-center gap-2">
        {pours.map((pour, at) => (
          <Button
            key={pour.what}
            className="min-h-12 px-4 text-[16px]"
            aria-pressed={inCup.includes(at)}
            disabled={inCup.includes(at)}
            onClick={() => setInCup((before) => [...before, at])}
          >
            {pour.what.split(",")[0]} is in{inCup.includes(at) ? " ✓" : ""}
          </Button>
        ))}
        {inCup.length > 0 && (
          <Button look="text" onClick={() => setInCup([])}>
            begin again
          </Button>
        )}
      </div>
      {wrong && (
        <p role="alert" className="mt-2 border-l-8 border-stop pl-3 text-[17px]">
          <strong>Stop.</strong> {pours[1]?.what.split(",")[0]} went in first, so its mark holds for nothing now. Do not
          mix: put this cup aside, take a clean one, and pour {pours[0]?.what} to its mark first.
        </p>
      )}
      {inCup.length === pours.length && !wrong && <p className="mt-2 text-[17px] text-cool">In order. Now mix.</p>}
    </div>
  );
}

function Clocks({ pot, ticket, poured }: { pot: PotResult; ticket: Ticket; poured: string | undefined }) {
  const { clock } = useShop();
  const [chosen, setFrom] = useState<Date | null>(null);
  const from = poured ? new Date(poured) : chosen;
  const at = (min: number) => (from ? clock(new Date(from.getTime() + min * 60_000).toISOString()) : "");
  return (
    <div>
      <div className="grid grid-cols-2 gap-4">
        <div>
          <div className="lab">On the work by</div>
          <div className="fig text-[44px] leading-none">
            <Worked about={`use_by:${pot.id}`}>{from ? at(ticket.use_by_min) : minutes(ticket.use_by_min)}</Worked>
            {!from && <span className="ml-1 text-[18px] font-normal text-ink-soft">min</span>}
          </div>
        </div>
        <div>
          <div className="lab">Kicks about</div>
          <div className="fig text-[44px] leading-none text-kick">
            <Worked about={`life:${pot.id}`}>{from ? at(ticket.life_min) : minutes(ticket.life_min)}</Worked>
            {!from && <span className="ml-1 text-[18px] font-normal text-ink-soft">min</span>}
          </div>
        </div>
      </div>
      {ticket.left_in_cup_min != null && (
        <p className="mt-2 text-[16px]">
          Left in its cup it kicks {from ? "at" : "after"}{" "}
          <span className="fig text-[22px]">
            {from ? at(ticket.left_in_cup_min) : `${minutes(ticket.left_in_cup_min)} min`}
          </span>
          : pour it out at once.
        </p>
      )}
      <p className="lab mt-1">
        Counted from the moment the parts touch; <Worked about={`chance:${pot.id}`}>{oneIn(pot.chance_lost)}</Worked>{" "}
        gels before it is used.{" "}
        {!poured && (
          <Button look="text" onClick={() => setFrom(from ? null : new Date())}>
            {from ? "in minutes" : "by the clock, from now"}
          </Button>
        )}
      </p>
    </div>
  );
}

const RUNAWAY = "people.runaway_pot";

/** What to do with a pot that runs away: always one tap away. */
function GettingHot({ cautions }: { cautions: Caution[] }) {
  const runaway = cautions.find((caution) => caution.id === RUNAWAY);
  if (!runaway) return null;
  return (
    <details className="border-2 border-kick">
      <summary className="min-h-12 cursor-pointer list-none px-3 py-3 text-center text-[17px] font-semibold text-kick">
        Pot getting hot?
      </summary>
      <div className="space-y-2 px-3 pb-3 text-[15.5px]">
        {runaway.do.split(/(?<=\.) /).map((sentence) => (
          <p key={sentence}>{sentence}</p>
        ))}
      </div>
    </details>
  );
}

function TakeToBench() {
  const { job, plan, saving } = useJob();
  const queries = useQueryClient();
  const stops = plan.cautions?.filter((caution) => caution.severity === "stop") ?? [];
  const standing = stops.some((caution) => !caution.override);
  const { data: ready } = useReady();
  const waiting = ready?.waiting ?? [];
  const start = useMutation({
    mutationFn: () => taken(client.POST("/api/jobs/{job_id}/runs", { params: { path: { job_id: job.id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["runs", job.id] }),
  });
  return (
    <div className="border-t border-rule pt-4">
      {stops.map((stop) => (
        <div key={stop.id + stop.path} className="mb-2">
          <JobCaution caution={stop} />
        </div>
      ))}
      {ready && waiting.length > 0 && <FirstPotShut ready={ready} />}
      <Button
        look="main"
        className="min-h-14 w-full text-[17px]"
        disabled={standing || waiting.length > 0 || saving !== "saved" || start.isPending}
        onClick={() => start.mutate()}
      >
        Take it to the bench
      </Button>
      <p className="lab mt-1">
        {standing
          ? "The bench opens no pot while a stop stands: mend it, or override it with a reason."
          : waiting.length > 0
            ? "Tick it under Cut and Prepare, or say above why you go on."
            : "Fixes these numbers as a run, so that each pot can be written down."}
      </p>
      {start.isError && (
        <p role="alert" className="mt-1 text-[14px] text-stop">
          {start.error.message}
        </p>
      )}
    </div>
  );
}

/** What keeps the first pot shut, and the way past it: a reason, kept with the job. */
function FirstPotShut({ ready }: { ready: Ready }) {
  const { job } = useJob();
  const [reason, setReason] = useState("");
  const cut = useTick("cut");
  const prepare = useTick("prepare");
  const refused = cut.error ?? prepare.error;
  const goOn = async () => {
    for (const [kind, tick] of [
      ["cut", cut],
      ["prepare", prepare],
    ] as const) {
      const things = ready.to_waive[kind] ?? [];
      if (things.length) await tick.mutateAsync({ things, state: "waived", reason }).catch(() => undefined);
    }
  };
  return (
    <div className="mb-3 border-l-2 border-ink pl-3">
      <p className="font-semibold">The first pot stays shut</p>
      <ul className="text-[14px]">
        {ready.waiting.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      <p className="mt-1 flex gap-4 text-[14px]">
        <Link className="link" to={`/jobs/${job.id}/cut`}>
          To Cut
        </Link>
        <Link className="link" to={`/jobs/${job.id}/prepare`}>
          To Prepare
        </Link>
      </p>
      <div className="mt-2 flex gap-2">
        <input
          aria-label="Why go on all the same"
          value={reason}
          maxLength={300}
          placeholder="why go on all the same"
          onChange={(event) => setReason(event.target.value)}
          className="min-h-11 min-w-0 flex-1 rounded-(--radius) border border-rule bg-sheet px-2.5"
        />
        <Button className="min-h-11" onClick={() => void goOn()}>
          Go on
        </Button>
      </div>
      {refused && (
        <p role="alert" className="mt-1 text-[13px] text-stop">
          {refused.message}
        </p>
      )}
    </div>
  );
}

/** Before the first peroxide ticket of a run, and for each new person at the bench: a screen of its own. */
function Gate({ plan, live, children }: { plan: Plan; live: Run | undefined; children: React.ReactNode }) {
  const { session } = useSession();
  const { job } = useJob();
  const { day } = useShop();
  const queries = useQueryClient();
  const key = `inch-cradle.goggles.${job.id}.${live?.id ?? "plan"}.${session?.person}`;
  const [said, setSaid] = useState(() => sessionStorage.getItem(key) === "yes");
  const peroxide = plan.cautions?.find((caution) => caution.id === "people.peroxide_and_eyes");
  const written = live?.stories.some((story) =>
    story.events.some((event) => event.kind === "goggles on" && event.recorded_by === session?.person),
  );
  if (!peroxide || said || written) return children;
  return (
    <main className="mx-auto max-w-[860px] px-5 py-10">
      <p className="text-[15px] font-semibold text-stop">Peroxide catalyst</p>
      <h1 className="mt-1 text-[44px] font-semibold leading-[1.05]">Goggles on, before the bottle is opened</h1>
      <p className="mt-5 text-[20px]">{peroxide.reason}</p>
      <ul className="mt-4 space-y-2 text-[18px]">
        {peroxide.do.split(/(?<=\.) /).map((sentence) => (
          <li key={sentence} className="border-l border-ink pl-3">
            {sentence}
          </li>
        ))}
      </ul>
      <Button
        look="main"
        className="mt-8 min-h-16 px-8 text-[20px]"
        onClick={() => {
          sessionStorage.setItem(key, "yes");
          setSaid(true);
          if (live) void tapGoggles(live).then(() => queries.invalidateQueries({ queryKey: ["runs", job.id] }));
        }}
      >
        Goggles are on
      </Button>
      {live && <p className="lab mt-2">Written down for the run of {day(live.started_at)}.</p>}
    </main>
  );
}

function tapGoggles(run: Run) {
  return taken(
    client.POST("/api/runs/{run_id}/events", {
      params: { path: { run_id: run.id } },
      body: { tap_id: newTap(), pot: 1, kind: "goggles on", happened_at: new Date().toISOString(), note: "" },
    }),
  );
}
