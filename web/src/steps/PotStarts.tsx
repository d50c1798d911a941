import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, type RunSheet, type StartTried, taken } from "../api/client";
import { oneIn, plural } from "../format";
import { useJob } from "../job/context";
import { useSheetClock } from "../job/useSheetClock";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { MomentField } from "../ui/MomentField";
import { fieldOf } from "../zoned";

const DAYS = 7;
const DAY_MS = 86_400_000;
type Aim = "laid" | "trim" | "load";

interface DayTried {
  day: string;
  tried: StartTried[];
  whole: boolean;
}

/** When to begin: set, found for a forecast, or found back from an hour. */
export function PotStarts({ sheet, onStart }: { sheet: RunSheet; onStart: (ms: number) => void }) {
  const { job, document, triedRoomC } = useJob();
  const { shop } = useShop();
  const { words } = useSheetClock(sheet);
  const [days, setDays] = useState<DayTried[]>([]);
  const [best, setBest] = useState<StartTried | null>(null);
  const [aim, setAim] = useState<Aim>("laid");
  const [by, setBy] = useState<number | null>(null);
  const body = { document, room_c: triedRoomC, leaner: false };
  const path = { path: { job_id: job.id } };
  /** Once the screen is left nobody waits: what is being tried is given up, and no further day is asked for. */
  const left = useRef(new AbortController());
  useEffect(() => {
    left.current = new AbortController();
    return () => left.current.abort();
  }, []);
  const search = useMutation({
    mutationFn: async () => {
      setDays([]);
      setBest(null);
      const { signal } = left.current;
      let found: StartTried | null = null;
      for (let n = 0; n < DAYS; n++) {
        const day = fieldOf(Date.now() + n * DAY_MS, shop.time_zone).slice(0, 10);
        const sent = { params: path, body: { ...body, day }, signal };
        const answer = await taken(client.POST("/api/jobs/{job_id}/starts", sent));
        setDays((before) => [...before, { day, tried: answer.tried, whole: answer.whole }]);
        if (answer.best && (!found || better(answer.best, found))) found = answer.best;
        setBest(found);
      }
    },
  });
  const back = useMutation({
    mutationFn: (ms: number) =>
      taken(
        client.POST("/api/jobs/{job_id}/latest-start", {
          params: path,
          body: { ...body, by: new Date(ms).toISOString(), aim },
          signal: left.current.signal,
        }),
      ),
    onSuccess: (start) => onStart(Date.parse(start.start_at)),
  });
  return (
    <section aria-labelledby="starts" className="mt-5 border-t border-rule pt-4">
      <h2 id="starts" className="text-[1.0625rem] font-semibold">
        When to begin
      </h2>
      <div className="mt-2 grid items-start gap-4 sm:grid-cols-2">
        <MomentField
          label="First pot weighed at"
          value={sheet.start_at ? Date.parse(sheet.start_at) : null}
          placeholder="tomorrow 8:00"
          onCommit={(ms) => ms !== null && onStart(ms)}
        />
        <div>
          <Choice
            label="Or begin so late that it is"
            value={aim}
            options={[
              ["laid", "laid"],
              ["trim", "to trim"],
              ["load", "to load"],
            ]}
            onChange={setAim}
          />
          <div className="mt-2">
            <MomentField
              label="by"
              value={by}
              fault={back.error?.message}
              placeholder="Thu 17:00"
              onCommit={(ms) => {
                setBy(ms);
                if (ms !== null) back.mutate(ms);
              }}
            />
            {back.data && !back.error && (
              <p className="text-[0.875rem] text-cool">begin at {words(Date.parse(back.data.start_at))}</p>
            )}
          </div>
        </div>
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button disabled={search.isPending} onClick={() => search.mutate()}>
          {search.isPending ? `Trying day ${days.length + 1} of ${DAYS} …` : `Try every half hour of ${DAYS} days`}
        </Button>
        {search.isPending && <progress max={DAYS} value={days.length} aria-label="Days tried" />}
        {days.some((day) => !day.whole) && (
          <p className="text-[0.8125rem]">
            There was not time to try every half hour of these days: the job has many pots.
          </p>
        )}
        {search.error && <p className="text-[0.8125rem] text-stop">{search.error.message}</p>}
        {best && (
          <p>
            Best: <strong>{words(Date.parse(best.start_at))}</strong>, {plural(best.pot_count, "pot")}, laid by{" "}
            {words(Date.parse(best.laid_by))}, {oneIn(best.chance_any)}
            {best.fault && `, though ${best.fault}`}{" "}
            <Button edits look="text" onClick={() => onStart(Date.parse(best.start_at))}>
              begin then
            </Button>
          </p>
        )}
      </div>
      {days.length > 0 && <Week days={days} best={best} chosen={sheet.start_at ?? ""} onStart={onStart} />}
    </section>
  );
}

/** Whether one start ranks before another, as the server ranks them. */
function better(one: StartTried, other: StartTried): boolean {
  const [a, b] = [one.rank ?? [], other.rank ?? []];
  const at = a.findIndex((value, n) => value !== b[n]);
  return at >= 0 && (a[at] ?? 0) < (b[at] ?? 0);
}

/** Every half hour that was tried: a row a day; pressed, it is the start. */
function Week({
  days,
  best,
  chosen,
  onStart,
}: {
  days: DayTried[];
  best: StartTried | null;
  chosen: string;
  onStart: (ms: number) => void;
}) {
  const { clock, day: dateOf, wholeHour, mayWrite } = useShop();
  return (
    <div className="mt-3 space-y-1.5">
      {days.map(({ day, tried }) => (
        <div key={day} className="grid grid-cols-[64px_1fr] items-center gap-2">
          <span className="lab">{dateOf(`${day}T12:00:00Z`)}</span>
          <div className="flex gap-px">
            {tried.length === 0 && <span className="lab">no hour left</span>}
            {tried.map((start) => {
              const said = start.pot_count
                ? `${plural(start.pot_count, "pot")}, laid by ${clock(start.laid_by)}, ${oneIn(start.chance_any)}${start.nights ? `, ${plural(start.nights, "night")}` : ""}`
                : "";
              const is = Date.parse(start.start_at) === Date.parse(chosen);
              const look = start.fault
                ? "bg-[repeating-linear-gradient(45deg,var(--color-rule)_0_3px,transparent_3px_7px)]"
                : start.nights
                  ? "bg-sheet"
                  : "bg-cool-pale";
              return (
                <button
                  key={start.start_at}
                  type="button"
                  title={`${clock(start.start_at)}: ${[said, start.fault].filter(Boolean).join(", ")}`}
                  aria-label={`${dateOf(start.start_at)} ${clock(start.start_at)}: ${[said, start.fault].filter(Boolean).join(", ")}`}
                  disabled={!mayWrite}
                  onClick={() => onStart(Date.parse(start.start_at))}
                  className={`fig h-9 min-w-0 flex-1 border text-[0.7812rem] ${look} ${is ? "border-2 border-ink" : "border-rule"} ${start.start_at === best?.start_at ? "font-bold underline" : ""}`}
                >
                  {wholeHour(start.start_at)}
                </button>
              );
            })}
          </div>
        </div>
      ))}
      <p className="lab">
        Blue: laid the same day, nothing against it. White: with a night in it. Hatched: a window missed, a damp
        surface, or no pot lives long enough; point at it to read why.
      </p>
    </div>
  );
}
