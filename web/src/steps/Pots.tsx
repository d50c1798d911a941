import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { client, type PotResult, type RunSheet as Sheet, taken } from "../api/client";
import { RunSheet, type View } from "../drawing/RunSheet";
import { oneIn, plural } from "../format";
import { useJob } from "../job/context";
import { StepCautions } from "../job/JobCautions";
import { usePotSize } from "../job/potSize";
import { useRuns } from "../job/useRuns";
import { useSheetClock } from "../job/useSheetClock";
import { type Paper, useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Download } from "../ui/Download";
import { Figure } from "../ui/Figure";
import { Fold } from "../ui/Fold";
import { DayList } from "./DayList";
import { PotDetail } from "./PotDetail";
import { PotLevers, PotWishFields } from "./PotLevers";
import { PotStarts } from "./PotStarts";
import { ResinAmounts } from "./ResinAmounts";
import { Split, Title } from "./Split";

const MINUTE = 60_000;
const [SHORTEST_MIN, LONGEST_MIN] = [2, 14 * 1440];
const SPANS = { hour: 60, day: 1440, week: 7 * 1440 } as const;

export function PotsStep() {
  const { plan, job, edit, triedRoomC } = useJob();
  const { units } = useShop();
  const size = usePotSize();
  const [before, setBefore] = useState<Sheet | null>(null);
  const pots = plan.pots ?? [];
  const sheet = plan.run_sheet;
  const worst = pots.reduce((most, pot) => (pot.chance_lost > (most?.chance_lost ?? -1) ? pot : most), pots[0]);
  const start = (ms: number) => {
    setBefore((old) => old ?? sheet ?? null);
    edit((document) => ({ ...document, pots: { ...document.pots, start: new Date(ms).toISOString() } }));
  };
  return (
    <Split
      wide
      path="pots"
      picture={
        <>
          {!sheet && (
            <Title
              words={
                plan.stuck?.length
                  ? `No pot lives long enough for ${plural(plan.stuck.length, "piece")} of the work`
                  : "No pots yet"
              }
              under={plan.problems?.[0]?.message ?? ""}
            />
          )}
          {(plan.weighed_only?.length ?? 0) > 0 && (
            <p className="mb-4 max-w-[64ch] border-l-4 border-ink bg-sheet px-4 py-3">
              <strong>{plan.weighed_only?.join(" and ")}</strong>: to be infused. Its weights are worked out, for
              buying; its pots and hours wait for a plan of its flow, see Bag &amp; flow.
            </p>
          )}
          {plan.stuck?.map((stuck) => (
            <div key={stuck.owner_id + stuck.labels.join()} className="mb-4 border-l-8 border-stop bg-sheet px-4 py-3">
              <p className="font-semibold">
                {stuck.owner_name}: {stuck.labels.join(", ")}
                {(stuck.alike ?? 1) > 1 ? `, and ${(stuck.alike ?? 1) - 1} more alike` : ""}
              </p>
              <p>{stuck.why}.</p>
              <table className="mt-2">
                <caption className="lab text-left">What frees it</caption>
                <tbody>
                  {stuck.levers.map((lever) => (
                    <tr key={lever.name}>
                      <td className="pr-6">{lever.name}</td>
                      <td className="fig text-right">
                        {lever.mass_g == null ? "not enough" : size.text(lever.mass_g)}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          ))}
          {sheet && (
            <OfRun>
              <Sheets
                sheet={sheet}
                kinds={pots}
                roomC={plan.conditions.room_c ?? 20}
                before={before}
                onForget={() => setBefore(null)}
                onStart={start}
              />
            </OfRun>
          )}
          {!pots.length && !plan.stuck?.length && plan.problems?.[0] && (
            <Link to={`/jobs/${job.id}/${plan.problems[0].step}`} className="link">
              Go there
            </Link>
          )}
        </>
      }
      sheet={
        <>
          {sheet && worst && (
            <div>
              <Figure
                name={
                  sheet.pots.length === 1
                    ? "Chance of losing the pot"
                    : `Chance of losing one of the ${sheet.pots.length} pots`
                }
                number={oneIn(sheet.chance_any)}
                size={50}
                about="chance_any"
              />
              <p className="text-[0.875rem] text-ink-soft">
                {sheet.chance_words}. The tightest alone: {oneIn(worst.chance_lost)}, {size.text(worst.mass_g)} for{" "}
                {worst.labels[0]}
                {worst.room_c != null && <> at {units.text("temperature", worst.room_c)}</>}; limited by{" "}
                {worst.limited_by}.
              </p>
              <Link className="link text-[0.875rem]" to={`/jobs/${job.id}/lab?mass=${worst.mass_g}`}>
                Try this pot before you pour it
              </Link>
            </div>
          )}
          <StepCautions step="pots" />
          {(sheet || !!plan.stuck?.length) && (
            <PotLevers onMove={() => setBefore(triedRoomC === null ? (sheet ?? null) : null)} />
          )}
          <Fold className="" open={!sheet} words="Set by hand">
            <div className="pt-3">
              <PotWishFields />
            </div>
          </Fold>
          <ResinAmounts />
          {pots.length > 0 && !plan.stuck?.length && (
            <>
              <Link
                to={`/jobs/${job.id}/ticket`}
                className="flex min-h-12 items-center justify-center rounded-(--radius) bg-ink font-semibold text-sheet hover:opacity-90"
              >
                To the tickets
              </Link>
              <Papers />
            </>
          )}
        </>
      }
    />
  );
}

/** While a run is on its way: what is left of it, planned again from now, in place of the plan it began with. */
function OfRun({ children }: { children: React.ReactNode }) {
  const { job } = useJob();
  const runs = useRuns(job.id);
  const [shown, show] = useState(false);
  const live = runs.data?.find((run) => run.revision === job.revision);
  const poured = live?.stories.length ?? 0;
  const rest = useQuery({
    queryKey: ["rest", live?.id, poured],
    queryFn: () => taken(client.GET("/api/runs/{run_id}/rest", { params: { path: { run_id: live?.id ?? "" } } })),
    enabled: shown && !!live,
    gcTime: 0,
  });
  if (!live || !poured) return children;
  return (
    <>
      <p className="mb-3 flex flex-wrap items-center gap-x-4 border-l-4 border-cool bg-sheet px-3 py-1.5 text-[0.9062rem]">
        {plural(poured, "pot")} of {live.pot_count} poured.{" "}
        <Button look="text" aria-pressed={shown} onClick={() => show(!shown)}>
          {shown ? "Show the plan it began with" : "Plan the rest again from now"}
        </Button>
      </p>
      {!shown && children}
      {shown && rest.error && <p className="text-stop">{rest.error.message}</p>}
      {shown && rest.data && !rest.data.run_sheet && <Title words="All of it is laid" />}
      {shown && rest.data?.run_sheet && (
        <Sheets sheet={rest.data.run_sheet} kinds={rest.data.pots} roomC={live.room_c} before={null} />
      )}
    </>
  );
}

/** The run sheet as a picture or as a list, with its zoom, what it was before a lever was moved, and when to begin. */
function Sheets({
  sheet,
  kinds,
  roomC,
  before,
  onForget,
  onStart,
}: {
  sheet: Sheet;
  kinds: PotResult[];
  roomC: number;
  before: Sheet | null;
  onForget?: () => void;
  /** None where the start is now, and no longer to be moved. */
  onStart?: (ms: number) => void;
}) {
  const clock = useSheetClock(sheet);
  const { weekday } = useShop();
  const [asList, setAsList] = useState(false);
  const [picked, pick] = useState(0);
  const [own, setOwn] = useState<View | null>(null);
  const fitted = viewOfAll(sheet, clock.at);
  const view = own ?? fitted;
  const startMs = clock.at(0);
  const day = weekday(startMs);
  // A start moved out of sight is followed.
  useEffect(() => {
    setOwn((kept) => (kept && (startMs < kept.from || startMs > kept.from + kept.span * MINUTE) ? null : kept));
  }, [startMs]);
  const zoom = (factor: number) => {
    const span = Math.min(LONGEST_MIN, Math.max(SHORTEST_MIN, view.span * factor));
    const middle = view.from + (view.span * MINUTE) / 2;
    const from =
      factor < 1 && startMs > view.from ? Math.max(view.from, Math.min(middle, startMs) - 4 * MINUTE) : view.from;
    setOwn({ from, span });
  };
  const shift = (share: number) => setOwn({ ...view, from: view.from + share * view.span * MINUTE });
  return (
    <>
      <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-2">
        <Title
          words={sheet.sentence}
          under={
            before ? (
              <>
                {day}. Was: {before.sentence}, {oneIn(before.chance_any)}{" "}
                <Button look="text" className="min-h-7" onClick={onForget}>
                  forget it
                </Button>
              </>
            ) : (
              `${day}. ${onStart ? "Drag the ring to move the start. " : "From now on. "}Room ${sheet.room_words}.`
            )
          }
        />
        <div className="flex flex-wrap items-center gap-2">
          <Choice
            hideLabel
            small
            looks
            label="Show"
            value={asList ? "list" : "picture"}
            options={[
              ["picture", "picture"],
              ["list", "list"],
            ]}
            onChange={(next) => setAsList(next === "list")}
          />
          {!asList && (
            <>
              <Choice
                hideLabel
                small
                looks
                label="Zoom"
                value={
                  own
                    ? ((Object.keys(SPANS) as (keyof typeof SPANS)[]).find((key) => SPANS[key] === own.span) ?? "")
                    : "work"
                }
                options={[
                  ["hour", "hour"],
                  ["work", "the work"],
                  ["day", "day"],
                  ["week", "week"],
                ]}
                onChange={(next) =>
                  setOwn(
                    next === "work" || !next
                      ? null
                      : {
                          from: next === "hour" ? Math.max(view.from, startMs - 5 * MINUTE) : startMs - 60 * MINUTE,
                          span: SPANS[next as keyof typeof SPANS],
                        },
                  )
                }
              />
              <span className="flex">
                <Button aria-label="Earlier" onClick={() => shift(-0.5)}>
                  ‹
                </Button>
                <Button aria-label="Wider" onClick={() => zoom(2)}>
                  −
                </Button>
                <Button aria-label="Closer" onClick={() => zoom(0.5)}>
                  +
                </Button>
                <Button aria-label="Later" onClick={() => shift(0.5)}>
                  ›
                </Button>
              </span>
            </>
          )}
        </div>
      </div>
      {sheet.problems.map((problem) => (
        <p key={problem} className="mb-2 border-l-4 border-ink bg-sheet px-3 py-1.5 text-[0.9062rem]">
          {problem}
        </p>
      ))}
      {asList ? (
        <DayList sheet={sheet} kinds={kinds} />
      ) : (
        <>
          <RunSheet
            sheet={sheet}
            roomC={roomC}
            before={before}
            view={view}
            picked={picked}
            onPick={(pot) => pick(pot === picked ? 0 : pot)}
            onStart={onStart}
          />
          <Legend />
        </>
      )}
      {picked > 0 && <PotDetail sheet={sheet} kinds={kinds} number={picked} />}
      {onStart && <PotStarts sheet={sheet} onStart={onStart} />}
    </>
  );
}

/** All of the first day's work, and what comes of it that day. */
function viewOfAll(sheet: Sheet, at: (minute: number) => number): View {
  const begins = Math.min(0, sheet.busy[0]?.from_min ?? 0);
  const pots = sheet.pots.filter((pot) => pot.used_min - begins < 13 * 60);
  const laid = Math.max(60, ...pots.map((pot) => pot.kick_min));
  const ends = [sheet.trim_min, ...sheet.marks.map((mark) => mark.at_min)].filter((minute) => minute < laid + 300);
  const until = Math.max(laid, ...ends);
  const margin = Math.max(8, (until - begins) * 0.03);
  return { from: at(begins - margin), span: until - begins + 2.2 * margin };
}

function Legend() {
  return (
    <p className="mt-2 flex flex-wrap gap-x-5 gap-y-1 border-t border-rule pt-2 text-[0.8438rem] text-ink-soft">
      <span>
        <svg width="34" height="14" aria-hidden="true" className="mr-1.5 inline">
          <path d="M1 13V1H9L33 11V13Z" fill="var(--color-fresh)" stroke="var(--color-ink)" />
        </svg>
        pot, less as it is spread
      </span>
      <span>
        <svg width="34" height="14" aria-hidden="true" className="mr-1.5 inline">
          <path d="M0 8H32" stroke="var(--color-kick)" strokeDasharray="2 3" strokeWidth="2" />
          <path d="M32 2v11" stroke="var(--color-kick)" strokeWidth="3" />
        </svg>
        kicks
      </span>
      <span>
        <svg width="34" height="14" aria-hidden="true" className="mr-1.5 inline">
          <rect width="34" height="14" fill="url(#window)" />
        </svg>
        next layer bonds
      </span>
      <span>
        <svg width="14" height="14" aria-hidden="true" className="mr-1.5 inline">
          <circle cx="7" cy="7" r="5" fill="none" stroke="var(--color-cool)" strokeWidth="2.4" />
        </svg>
        touch it: the clock predicts, touch decides
      </span>
    </p>
  );
}

/** What leaves the screen, all of it from the same plan. */
function Papers() {
  const { job, document, saving } = useJob();
  const { papers } = useShop();
  const [paper, setPaper] = useState(papers[0] as Paper);
  if (saving !== "saved") return <p className="lab">Paper and files are made once it is saved.</p>;
  const base = `/api/jobs/${job.id}`;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <Choice
        hideLabel
        small
        looks
        label="Paper"
        value={paper}
        options={[
          ["A4", "A4"],
          ["Letter", "Letter"],
        ]}
        onChange={setPaper}
      />
      <Download href={`${base}/run-sheet.pdf?paper=${paper}`} name={`${document.name}, run sheet.pdf`}>
        run sheet
      </Download>
      <Download href={`${base}/tickets.pdf?paper=${paper}`} name={`${document.name}, tickets.pdf`}>
        tickets
      </Download>
      <Download href={`${base}/day-list.pdf?paper=${paper}`} name={`${document.name}, list.pdf`}>
        list
      </Download>
      <Download href={`${base}/run-sheet.ics`} name={`${document.name}.ics`}>
        calendar
      </Download>
      <Download href={`${base}/run-sheet.csv`} name={`${document.name}, run sheet.csv`}>
        CSV
      </Download>
      <Download href={`${base}/run-sheet.svg`} name={`${document.name}, run sheet.svg`}>
        SVG
      </Download>
    </div>
  );
}
