import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { type Clash, client, type JobOfWeek, Refused, taken, type Week } from "../api/client";
import { WeekPicture } from "../drawing/WeekPicture";
import { PlainHeader } from "../floor/PlainHeader";
import { plural } from "../format";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { BuyLines } from "../steps/BuyLines";
import { Button } from "../ui/Button";
import { Download } from "../ui/Download";
import { useTitle } from "../ui/useTitle";
import { Wide } from "../ui/Wide";
import { PeopleFields } from "./PeopleFields";

const REFRESH_MS = 60_000;
const BEHIND_MS = 1_500;
const DAY_MS = 86_400_000;
const HALF_HOUR_MS = 1_800_000;
type Laid = JobOfWeek & { work: NonNullable<JobOfWeek["work"]> };
const isLaid = (job: JobOfWeek): job is Laid => job.work != null;
const iso = (ms: number) => new Date(ms).toISOString();

/** All jobs of the shop on one clock, with what clashes and the ways out. */
export function WeekPage() {
  useTitle("Week");
  const { shopId } = useSession();
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <WeekOfShop />
      </ShopProvider>
    </>
  );
}

function WeekOfShop() {
  const { shop, mayWrite, weekday } = useShop();
  const queries = useQueryClient();
  const [search, setSearch] = useSearchParams();
  const first = search.get("from") ?? undefined;
  const board = search.has("board");
  const key = ["week", shop.id, first ?? ""];
  const path = { path: { shop_id: shop.id } };
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/week", { params: { ...path, query: { first } } })),
    placeholderData: keepPreviousData,
    refetchOnMount: "always",
    refetchInterval: ({ state }) => (state.data?.jobs.some(({ behind }) => behind) ? BEHIND_MS : REFRESH_MS),
  });
  const [tried, setTried] = useState<{ job: Laid; start: number; week?: Week } | null>(null);
  const [edits, setEdits] = useState(false);
  const put = useMutation({
    mutationFn: ({ job_id, start_at }: { job_id: string; start_at: string | null }) =>
      taken(client.PUT("/api/jobs/{job_id}/start", { params: { path: { job_id } }, body: { start_at } })),
    onSettled: async () => {
      await queries.invalidateQueries({ queryKey: ["week", shop.id] });
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      setTried(null);
    },
  });
  const firstDay = data?.days[0]?.day;
  useEffect(() => {
    if (!tried || tried.week || !firstDay) return;
    let late = false;
    const body = { job_id: tried.job.id, start_at: iso(tried.start), first: firstDay };
    void taken(client.POST("/api/shops/{shop_id}/week/moved", { params: { path: { shop_id: shop.id } }, body }))
      .then((week) => !late && setTried((now) => (now ? { ...now, week } : now)))
      .catch(() => undefined);
    return () => {
      late = true;
    };
  }, [tried, firstDay, shop.id]);
  if (error instanceof Refused && !data) return <p className="p-8 text-stop">{error.message}</p>;
  if (!data) return null;
  const shown = tried?.week ?? data;
  const jobs = shown.jobs.filter(isLaid).filter(({ work }) => work.given);
  const [begins, ends] = [Date.parse(data.days[0]?.from_at ?? ""), Date.parse(data.days.at(-1)?.to_at ?? "")];
  const inSight = jobs
    .map((job) => (tried && !tried.week && job.id === tried.job.id ? moved(job, tried.start) : job))
    .filter(({ work }) => Date.parse(work.start_at) < ends && lastOf(work) > begins);
  const idle = data.jobs.filter((job) => !job.work?.given);
  const go = (days: number) =>
    setSearch((before) => {
      before.set("from", iso(begins + days * DAY_MS + DAY_MS / 2).slice(0, 10));
      return before;
    });
  return (
    <main className={`mx-auto px-4 py-4 ${board ? "max-w-none text-[1.25rem]" : "max-w-[1280px]"}`}>
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div>
          <h1 className="text-[1.625rem] font-semibold">
            {weekday(begins + DAY_MS / 2)} to {weekday(ends - DAY_MS / 2)}
          </h1>
          <p className={shown.clashes.length ? "text-stop" : "text-cool"} role="status">
            {verdict(shown, inSight.length)}
          </p>
        </div>
        {!board && (
          <div className="flex flex-wrap items-center gap-2 print:hidden">
            <Button className="min-h-11" onClick={() => go(-7)}>
              The week before
            </Button>
            <Button className="min-h-11" onClick={() => setSearch({})}>
              From today
            </Button>
            <Button className="min-h-11" onClick={() => go(7)}>
              The week after
            </Button>
          </div>
        )}
      </div>
      <Wide label="The week, as a picture" className="mt-3 bg-sheet px-2 py-2">
        <div className="min-w-[760px]">
          <WeekPicture
            days={data.days}
            jobs={inSight}
            clashes={shown.clashes}
            now={data.now}
            // Nothing is begun before now.
            onMove={(job, start) =>
              setTried({ job, start: Math.max(start, HALF_HOUR_MS * Math.ceil(Date.parse(data.now) / HALF_HOUR_MS)) })
            }
          />
        </div>
      </Wide>
      {inSight.length === 0 && (
        <p className="mt-2 max-w-[64ch]">
          No job begins in these days. Give one a start below: its work, its pump and its cures are then laid out here,
          and what two jobs want at once is told.
        </p>
      )}
      {tried && (
        <p className="mt-2 flex flex-wrap items-center gap-3 border-l-4 border-ink pl-3">
          <span>
            {tried.job.name} begins <When at={iso(tried.start)} />, as it stands now. In another room it takes other
            hours: its plan will say.
          </span>
          <Button edits look="main" onClick={() => put.mutate({ job_id: tried.job.id, start_at: iso(tried.start) })}>
            Begin it then
          </Button>
          <Button className="min-h-11" onClick={() => setTried(null)}>
            Leave it
          </Button>
        </p>
      )}
      {put.error && (
        <p role="alert" className="mt-2 text-stop">
          {put.error.message}
        </p>
      )}
      <Clashes week={shown} onBegin={board ? undefined : (job_id, start_at) => put.mutate({ job_id, start_at })} />
      {board ? (
        <TodayBoard week={data} jobs={jobs} />
      ) : (
        <>
          <Buying first={first} />
          <Idle jobs={idle} onBegin={(job_id, start_at) => put.mutate({ job_id, start_at })} />
          <section className="mt-6 border-t border-rule pt-3 print:hidden" aria-label="Who is there">
            <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
              <p>{whoWords(data)}</p>
              {mayWrite && (
                <Button edits className="min-h-11" aria-expanded={edits} onClick={() => setEdits(!edits)}>
                  {edits ? "Done" : "Who works when"}
                </Button>
              )}
              <Link className="link" to={{ search: "?board" }}>
                Board for the wall
              </Link>
              <Subscribe week={data} />
            </div>
            {edits && <PeopleFields week={data.people} />}
          </section>
        </>
      )}
    </main>
  );
}

const lastOf = (work: Laid["work"]) =>
  Math.max(Date.parse(work.laid_at), ...work.cures.map(({ at }) => Date.parse(at)));

/** A job drawn at another start until the server has said what that clashes with. */
function moved(job: Laid, start: number): Laid {
  const by = start - Date.parse(job.work.start_at);
  const later = (at: string) => iso(Date.parse(at) + by);
  const span = <T extends { from_at: string; to_at: string }>(one: T): T => ({
    ...one,
    from_at: later(one.from_at),
    to_at: later(one.to_at),
  });
  const { work } = job;
  return {
    ...job,
    work: {
      ...work,
      start_at: iso(start),
      laid_at: later(work.laid_at),
      busy: work.busy.map(span),
      pump: work.pump.map(span),
      cures: work.cures.map((cure) => ({ ...cure, at: later(cure.at) })),
    },
  };
}

function verdict(week: Week, jobs: number): string {
  if (week.clashes.length)
    return `${plural(week.clashes.length, "clash", "clashes")}: more is wanted at once than is there.`;
  if (!jobs) return "";
  return week.people.people?.length
    ? "Everybody who is wanted is there, and nothing is promised twice."
    : "Nobody is named yet, so only pumps, moulds and warm rooms are held apart: say below who works when.";
}

function whoWords(week: Week): string {
  const people = week.people.people ?? [];
  const pumps = `${plural(week.people.pumps ?? 1, "vacuum pump")}, ${plural(week.people.warm_rooms ?? 1, "warm room")}`;
  return people.length ? `${people.map(({ name }) => name).join(", ")}; ${pumps}.` : `Nobody is named yet; ${pumps}.`;
}

function When({ at }: { at: string }) {
  const { weekday, clock } = useShop();
  return (
    <span className="whitespace-nowrap">
      {weekday(Date.parse(at))} {clock(at)}
    </span>
  );
}

const lacks: Record<Clash["lack"], (clash: Clash) => string> = {
  people: ({ wanted, there }) =>
    there
      ? `${plural(wanted, "person", "people")} ${wanted === 1 ? "is" : "are"} wanted, and ${there} ${there === 1 ? "is" : "are"} there`
      : `${plural(wanted, "person", "people")} ${wanted === 1 ? "is" : "are"} wanted, and nobody is there`,
  mixers: () => "nobody is there who may mix",
  pump: ({ wanted, there }) => `${wanted} pumps run, and the shop has ${there}`,
  "warm room": ({ wanted, there }) =>
    there
      ? `${plural(wanted, "job")} want the warm room, and there ${there === 1 ? "is one" : `are ${there}`}`
      : "a warm room is wanted, and the shop has none",
  mould: ({ mould, wanted }) => `the mould “${mould}” is wanted by ${plural(wanted, "job")} at once`,
  shut: () => "the shop is shut",
};

/** What cannot be, each with its ways out. */
function Clashes({ week, onBegin }: { week: Week; onBegin?: (job_id: string, start_at: string) => void }) {
  const { clock, weekday } = useShop();
  if (!week.clashes.length) return null;
  const named = new Map(week.jobs.map((job) => [job.id, job.name]));
  return (
    <section className="mt-4" aria-label="Clashes">
      <ul>
        {week.clashes.map((clash) => (
          <li
            key={clash.lack + clash.mould + clash.from_at + clash.job_ids.join()}
            className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-rule border-l-4 border-l-stop py-2 pl-3"
          >
            <span className="min-w-[22rem] flex-1">
              <strong>
                {weekday(Date.parse(clash.from_at))} {clock(clash.from_at)} to{" "}
                {weekday(Date.parse(clash.from_at)) === weekday(Date.parse(clash.to_at))
                  ? ""
                  : `${weekday(Date.parse(clash.to_at))} `}
                {clock(clash.to_at)}
              </strong>
              : {lacks[clash.lack](clash)} ({clash.job_ids.map((id) => named.get(id)).join(", ")}).
            </span>
            {clash.ways.map((way) =>
              way.start_at && onBegin ? (
                <Button
                  edits
                  key={way.job_id}
                  className="min-h-11"
                  onClick={() => onBegin(way.job_id, way.start_at ?? "")}
                >
                  {named.get(way.job_id)} <When at={way.start_at} />
                </Button>
              ) : (
                way.people_more > 0 && (
                  <span key="more" className="lab">
                    or {plural(way.people_more, "person", "people")} more
                  </span>
                )
              ),
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What all jobs of these days need, beside what is there. */
function Buying({ first }: { first: string | undefined }) {
  const { shop, money } = useShop();
  const [open, setOpen] = useState(false);
  const { data } = useQuery({
    queryKey: ["week", shop.id, "buy", first ?? ""],
    queryFn: () =>
      taken(client.GET("/api/shops/{shop_id}/week/buy", { params: { path: { shop_id: shop.id }, query: { first } } })),
    enabled: open,
    refetchOnMount: "always",
  });
  const lacking = data?.lines.filter((line) => line.free < line.need) ?? [];
  return (
    <section className="mt-4 print:hidden" aria-label="To buy">
      <Button className="min-h-11" aria-expanded={open} onClick={() => setOpen(!open)}>
        To buy for these days
      </Button>
      {open && data && (
        <>
          <p className="mt-2">
            {lacking.length
              ? `${plural(lacking.length, "line")} to buy${data.total == null ? "" : `, ${money(data.total)} for what has a price`}.`
              : "Nothing: what these days need is there."}
          </p>
          <BuyLines lines={lacking} />
        </>
      )}
    </section>
  );
}

/** Jobs without a start, each with the first hour at which it fits beside the others. */
function Idle({ jobs, onBegin }: { jobs: readonly JobOfWeek[]; onBegin: (job_id: string, start_at: string) => void }) {
  if (!jobs.length) return null;
  return (
    <section className="mt-6" aria-label="Without a start">
      <h2 className="border-b border-ink pb-1 text-[1.0625rem] font-semibold">Without a start</h2>
      <ul className="grid gap-x-8 sm:grid-cols-2">
        {jobs.map((job) => (
          <li
            key={job.id}
            className="flex min-h-14 min-w-0 flex-wrap items-center justify-between gap-x-4 border-b border-rule-faint py-1.5"
          >
            <span className="min-w-0">
              <Link to={`/jobs/${job.id}`} className="font-medium hover:underline">
                {job.name}
              </Link>
              <span className="lab block truncate">{job.behind ? "being planned" : job.next_words}</span>
            </span>
            {job.free_at ? (
              <Button edits className="min-h-11" onClick={() => onBegin(job.id, job.free_at ?? "")}>
                Begin it <When at={job.free_at} />
              </Button>
            ) : (
              job.work && (
                <span className="lab">
                  wants {plural(job.work.people, "person", "people")}: fits nowhere in two weeks
                </span>
              )
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The address of the calendar, for those who may give it to others. */
function Subscribe({ week }: { week: Week }) {
  const { shop, mayWrite } = useShop();
  const queries = useQueryClient();
  const make = useMutation({
    mutationFn: () =>
      taken(client.POST("/api/shops/{shop_id}/week/calendar", { params: { path: { shop_id: shop.id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["week", shop.id] }),
  });
  if (!mayWrite) return null;
  if (!week.calendar)
    return (
      <Button edits className="min-h-11" onClick={() => make.mutate()}>
        A calendar to subscribe to
      </Button>
    );
  return (
    <span className="flex min-w-0 flex-wrap items-center gap-x-3">
      <label className="lab" htmlFor="calendar">
        Calendar address: whoever has it reads the week
      </label>
      <input
        id="calendar"
        readOnly
        value={week.calendar}
        onFocus={(event) => event.target.select()}
        className="min-h-10 w-[26rem] max-w-full rounded-(--radius) border border-rule bg-floor px-2.5 text-[0.875rem]"
      />
      <Download href={new URL(week.calendar).pathname} name="week.ics">
        File
      </Download>
      <Button edits look="text" onClick={() => make.mutate()}>
        a new address
      </Button>
    </span>
  );
}

/** For the wall: who does what today and tomorrow, in letters to be read from the door. */
function TodayBoard({ week, jobs }: { week: Week; jobs: readonly Laid[] }) {
  const { clock, weekday } = useShop();
  return (
    <div className="mt-5 grid gap-8 lg:grid-cols-2">
      {week.days.slice(0, 2).map((day) => {
        const [begins, ends] = [Date.parse(day.from_at), Date.parse(day.to_at)];
        const during = (from: string, to = from) => Date.parse(from) < ends && Date.parse(to) >= begins;
        const working = jobs.filter(({ work }) => work.busy.some(({ from_at, to_at }) => during(from_at, to_at)));
        const due = jobs.flatMap(({ name, work }) =>
          work.cures.filter(({ at }) => during(at)).map((cure) => ({ name, ...cure })),
        );
        return (
          <section key={day.day} aria-label={weekday(begins + DAY_MS / 2)}>
            <h2 className="border-b-2 border-ink text-[2rem] font-semibold">{weekday(begins + DAY_MS / 2)}</h2>
            <p className="text-ink-soft">{day.shut ? "shut" : day.names.join(", ")}</p>
            <ul>
              {working.map(({ id, name, work }) => (
                <li key={id} className="border-b border-rule py-2">
                  <span className="block text-[1.5rem] font-semibold">{name}</span>
                  {work.busy
                    .filter(({ from_at, to_at }) => during(from_at, to_at))
                    .map(({ from_at, to_at }) => `${clock(from_at)} to ${clock(to_at)}`)
                    .join(", ")}
                  ; {work.crew.length ? work.crew.join(", ") : plural(work.people, "person", "people")};{" "}
                  {plural(work.pots, "pot")}
                </li>
              ))}
              {due
                .sort((one, other) => one.at.localeCompare(other.at))
                .map((cure) => (
                  <li key={cure.name + cure.words + cure.at} className="border-b border-rule py-1.5 text-cool">
                    {clock(cure.at)} {cure.name}: {cure.words}
                  </li>
                ))}
            </ul>
            {!working.length && !due.length && <p className="mt-2">Nothing is laid and nothing comes due.</p>}
          </section>
        );
      })}
    </div>
  );
}
