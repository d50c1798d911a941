import { type PointerEvent, useRef } from "react";
import type { Clash, JobOfWeek, WeekDay } from "../api/client";
import { plural } from "../format";
import { useShop } from "../shop";
import { openHours, type WeekClock, weekClock } from "../week/clock";
import { Drag } from "./Drag";
import { useWidth } from "./useWidth";

const [HEAD, PEOPLE, ROW, BAR] = [44, 46, 58, 20];
const LEAST_ROWS = 2;
const HALF_HOUR_MS = 1_800_000;
const ms = Date.parse;

type Laid = JobOfWeek & { work: NonNullable<JobOfWeek["work"]> };

/** All jobs of a week on one clock: how many people are wanted and there, each job's work, its pump, its cures. */
export function WeekPicture({
  days,
  jobs,
  clashes,
  now,
  onMove,
}: {
  days: readonly WeekDay[];
  jobs: readonly Laid[];
  clashes: readonly Clash[];
  now: string;
  /** A job is tried at another start. */
  onMove: (job: Laid, start: number) => void;
}) {
  const [box, wide] = useWidth<SVGSVGElement>();
  const spans = jobs.flatMap(({ work }) => work.busy.map(({ from_at, to_at }) => [ms(from_at), ms(to_at)] as const));
  const clock = weekClock(days, wide, openHours(days, spans));
  const most = Math.max(
    2,
    ...jobs.map(({ work }) => work.people),
    ...days.flatMap(({ shifts }) => shifts.map((s) => s.people)),
  );
  // A week of no job shows its days all the same.
  const tall = HEAD + PEOPLE + 10 + Math.max(jobs.length, LEAST_ROWS) * ROW;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with starts to drag in it
    <svg
      ref={box}
      viewBox={`0 0 ${wide} ${tall}`}
      className="block w-full select-none"
      role="group"
      aria-label={`The week: ${plural(jobs.length, "job")}`}
    >
      {days.map((day, place) => (
        <DayColumn key={day.day} day={day} left={place * clock.dayWide} wide={clock.dayWide} tall={tall} />
      ))}
      <People days={days} jobs={jobs} clock={clock} most={most} />
      {clashes.map((clash) => (
        <rect
          key={clash.lack + clash.mould + clash.from_at + clash.job_ids.join()}
          x={clock.x(ms(clash.from_at))}
          y={HEAD}
          width={Math.max(2, clock.x(ms(clash.to_at)) - clock.x(ms(clash.from_at)))}
          height={tall - HEAD}
          fill="var(--color-stop)"
          opacity=".12"
        />
      ))}
      {jobs.map((job, place) => (
        <JobRow
          key={job.id}
          job={job}
          top={HEAD + PEOPLE + 10 + place * ROW}
          clock={clock}
          clashes={clashes.filter(({ job_ids }) => job_ids.includes(job.id))}
          begun={ms(job.work.start_at) <= ms(now)}
          onMove={onMove}
        />
      ))}
      {ms(now) > ms(days[0]?.from_at ?? now) && ms(now) < ms(days.at(-1)?.to_at ?? now) && (
        <path d={`M${clock.x(ms(now))} ${HEAD - 6}V${tall}`} stroke="var(--color-ink)" strokeDasharray="2 4" />
      )}
      <text x="2" y={HEAD + 12} className="lab" fontSize="12.5" fill="var(--color-ink-soft)">
        people
      </text>
    </svg>
  );
}

function DayColumn({ day, left, wide, tall }: { day: WeekDay; left: number; wide: number; tall: number }) {
  const { weekday, units } = useShop();
  const room =
    day.coldest_c == null || day.warmest_c == null
      ? ""
      : `${units.number("temperature", day.coldest_c)} to ${units.text("temperature", day.warmest_c)}`;
  return (
    <g>
      {day.shut && <rect x={left} y={HEAD} width={wide} height={tall - HEAD} fill="var(--color-rule)" opacity=".6" />}
      <path d={`M${left + 0.5} 4V${tall}`} stroke="var(--color-rule)" />
      <text x={left + 7} y="17" fontSize="15" fontWeight="600" fill="var(--color-ink)">
        {weekday(ms(day.from_at) + 12 * 2 * HALF_HOUR_MS)}
      </text>
      <text x={left + 7} y="34" fontSize="12.5" fill="var(--color-ink-soft)" className="fig">
        {day.shut ? "shut" : room}
      </text>
    </g>
  );
}

/** The steps of who is there, with what is wanted of them before it. */
function People({
  days,
  jobs,
  clock,
  most,
}: {
  days: readonly WeekDay[];
  jobs: readonly Laid[];
  clock: WeekClock;
  most: number;
}) {
  const high = (count: number) => (count / most) * (PEOPLE - 12);
  const foot = HEAD + PEOPLE;
  const busy = jobs.flatMap(({ work }) => work.busy);
  const edges = [...new Set(busy.flatMap(({ from_at, to_at }) => [ms(from_at), ms(to_at)]))].sort((a, b) => a - b);
  const wanted = edges.slice(0, -1).map((from, at) => {
    const to = edges[at + 1] ?? from;
    const people = busy.reduce(
      (sum, one) => sum + (ms(one.from_at) <= from && ms(one.to_at) >= to ? one.people : 0),
      0,
    );
    return { from, to, people };
  });
  return (
    <g>
      {days.flatMap(({ shifts }) =>
        shifts.map((shift) => (
          <rect
            key={shift.from_at}
            x={clock.x(ms(shift.from_at))}
            y={foot - high(shift.people)}
            width={clock.x(ms(shift.to_at)) - clock.x(ms(shift.from_at))}
            height={high(shift.people)}
            fill="var(--color-cool-pale)"
          />
        )),
      )}
      {wanted
        .filter(({ people }) => people > 0)
        .map(({ from, to, people }) => (
          <g key={from}>
            <rect
              x={clock.x(from)}
              y={foot - high(people)}
              width={Math.max(1.5, clock.x(to) - clock.x(from))}
              height={high(people)}
              fill="none"
              stroke="var(--color-ink)"
              strokeWidth="1.4"
            />
            {clock.x(to) - clock.x(from) > 14 && (
              <text
                x={(clock.x(from) + clock.x(to)) / 2}
                y={foot - 4}
                fontSize="12.5"
                textAnchor="middle"
                className="fig"
              >
                {people}
              </text>
            )}
          </g>
        ))}
      <path d={`M0 ${foot}H${clock.wide}`} stroke="var(--color-ink)" />
    </g>
  );
}

function JobRow({
  job,
  top,
  clock,
  clashes,
  begun,
  onMove,
}: {
  job: Laid;
  top: number;
  clock: WeekClock;
  clashes: readonly Clash[];
  begun: boolean;
  onMove: (job: Laid, start: number) => void;
}) {
  const { weekday, clock: hour } = useShop();
  const grabbed = useRef<{ x: number; start: number } | null>(null);
  const { work } = job;
  const [start, laid] = [ms(work.start_at), ms(work.laid_at)];
  const bar = top + 26;
  const end = Math.max(laid, ...work.cures.map(({ at }) => ms(at)));
  const left = clock.x(start);
  const right = clock.x(laid);
  const drag = (event: PointerEvent<SVGGElement>) => {
    const svg = event.currentTarget.ownerSVGElement;
    if (!svg) return;
    const scale = svg.getBoundingClientRect().width / clock.wide || 1;
    const x = (event.clientX - svg.getBoundingClientRect().left) / scale;
    grabbed.current ??= { x, start };
    const moved = clock.at(clock.x(grabbed.current.start) + x - grabbed.current.x);
    onMove(job, Math.round(moved / HALF_HOUR_MS) * HALF_HOUR_MS);
  };
  const words = `${weekday(start)} ${hour(start)}`;
  // A name that begins near the right edge is set to end there.
  const nearEnd = left > clock.wide - 220;
  return (
    <g>
      <path d={`M0 ${top + ROW - 0.5}H${clock.wide}`} stroke="var(--color-rule-faint)" />
      <text
        x={nearEnd ? clock.wide - 4 : Math.max(4, left)}
        y={top + 18}
        fontSize="14.5"
        fontWeight="600"
        textAnchor={nearEnd ? "end" : "start"}
        fill="var(--color-ink)"
      >
        {job.name}
        <tspan fontWeight="400" fill="var(--color-ink-soft)">
          {` · ${hour(start)} · ${work.pots} ${work.pots === 1 ? "pot" : "pots"}`}
        </tspan>
      </text>
      <path d={`M${right} ${bar + BAR / 2}H${clock.x(end)}`} stroke="var(--color-cool)" strokeWidth="1.6" />
      {work.cures.map((cure) => (
        <g key={cure.words + cure.at}>
          <title>{`${cure.words}, ${weekday(ms(cure.at))} ${hour(cure.at)}`}</title>
          <path d={`M${clock.x(ms(cure.at))} ${bar + 3}v${BAR - 6}`} stroke="var(--color-cool)" strokeWidth="3" />
        </g>
      ))}
      {work.pump.map((span) => (
        <rect
          key={span.from_at}
          x={clock.x(ms(span.from_at))}
          y={bar + BAR + 2}
          width={Math.max(2, clock.x(ms(span.to_at)) - clock.x(ms(span.from_at)))}
          height="4"
          fill="var(--color-ink-soft)"
        >
          <title>the pump runs</title>
        </rect>
      ))}
      <Drag
        label={`Start of ${job.name}`}
        words={words}
        value={start}
        least={0}
        most={Number.MAX_SAFE_INTEGER}
        onDrag={begun ? undefined : drag}
        onStep={(steps) => onMove(job, start + steps * HALF_HOUR_MS)}
        onDone={() => {
          grabbed.current = null;
        }}
      >
        <rect x={left} y={bar - 8} width={Math.max(24, right - left)} height={BAR + 16} fill="transparent" />
        <rect x={left} y={bar} width={Math.max(2, right - left)} height={BAR} fill="var(--color-rule)" />
        {work.busy.map((busy) => (
          <rect
            key={busy.from_at}
            x={clock.x(ms(busy.from_at))}
            y={bar}
            width={Math.max(2, clock.x(ms(busy.to_at)) - clock.x(ms(busy.from_at)))}
            height={BAR}
            fill="var(--color-mid)"
            stroke={clashes.length ? "var(--color-stop)" : "var(--color-ink)"}
            strokeWidth={clashes.length ? 2.4 : 1}
          />
        ))}
        {!begun && (
          <circle
            cx={left}
            cy={bar + BAR / 2}
            r="6.5"
            fill="var(--color-ink)"
            stroke="var(--color-sheet)"
            strokeWidth="2.5"
          />
        )}
      </Drag>
    </g>
  );
}
