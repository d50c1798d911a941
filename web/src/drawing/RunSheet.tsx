import { scaleLinear } from "d3-scale";
import { useState } from "react";
import type { RunSheet as Sheet, SheetPot } from "../api/client";
import { usePotSize } from "../job/potSize";
import { useSheetClock } from "../job/useSheetClock";
import { useShop } from "../shop";
import { Drag } from "./Drag";
import { useWidth } from "./useWidth";

const MINUTE = 60_000;
const [TOP, HANDS, POT, ROOM] = [46, 44, 44, 74];
const MOST_ROWS = 5;
const TICKS = [1, 2, 5, 10, 15, 30, 60, 120, 180, 360, 720, 1440];
/** A start is dragged by so many minutes at a time. */
const SNAP_MIN = 5;

export interface View {
  from: number;
  span: number;
}

/** Pots over as few rows as keep one clear of the other until it kicks. */
function rowsOf(pots: SheetPot[]): SheetPot[][] {
  const rows: SheetPot[][] = [];
  for (const pot of pots) {
    const free = rows.find((row) => (row.at(-1)?.kick_min ?? 0) <= pot.touch_min);
    if (free) free.push(pot);
    else if (rows.length < MOST_ROWS) rows.push([pot]);
    else [...rows].sort((a, b) => (a.at(-1)?.kick_min ?? 0) - (b.at(-1)?.kick_min ?? 0))[0]?.push(pot);
  }
  return rows;
}

/** What a mark is called, where its kind is not its name. */
const MARKS: Partial<Record<Sheet["marks"][number]["kind"], string>> = {
  test: "thumbprint",
  lift: "next lift",
  "bag down": "bag down by",
};
const ROOM_BY = { forecast: "forecast", expected: "as expected", reading: "as read" };

/** As much of some words as there is room for: all of them, those before the comma, or what fits. */
const cut = (words: string, room: number) => {
  const letters = Math.floor((room - 8) / 6.6);
  if (words.length <= letters) return words;
  const first = words.split(",")[0] ?? "";
  if (first.length <= letters) return first;
  return letters < 6 ? "" : `${words.slice(0, letters - 1)}…`;
};

/** The most of a layer's words that stands in its bar uncut: what cannot be read whole is read where it is pressed. */
const whole = (words: string[], room: number) => words.find((each) => each.length * 6.6 + 8 <= room) ?? "";

/** What a layer is called in its bar, the bay first where there are bays, from long to short. */
const inBay = ({ bay, words, short }: Sheet["layers"][number]) =>
  bay > 0 ? [`bay ${bay}: ${short || words}`, `bay ${bay}`, `${bay}`] : [words, short ?? ""];

/** One person's day: mixing on resin, the rest of the work on the sheet. */
function Person({
  tasks,
  called,
  top,
  left,
  narrow,
  px,
  said,
}: {
  tasks: NonNullable<Sheet["tasks"]>;
  called: string;
  top: number;
  left: number;
  narrow: boolean;
  px: (minute: number) => number;
  said: (minute: number) => string;
}) {
  const y = narrow ? top + 16 : top;
  return (
    <g>
      <text
        x={narrow ? left : 0}
        y={narrow ? top + 11 : top + 16}
        fontSize={narrow ? 13 : 14}
        fontWeight={narrow ? 400 : 600}
        fill="var(--color-ink)"
      >
        {narrow ? called : cut(called, left)}
      </text>
      {tasks.map((task) => (
        <g key={`${task.task}${task.from_min}`}>
          <title>{`${called} ${task.words}, ${said(task.from_min)} to ${said(task.to_min)}`}</title>
          <rect
            x={px(task.from_min)}
            y={task.task === "mixes" ? y + 2 : y}
            width={Math.max(1, px(task.to_min) - px(task.from_min))}
            height={task.task === "mixes" ? 18 : 22}
            fill={task.task === "mixes" ? "var(--color-fresh)" : "var(--color-sheet)"}
            stroke="var(--color-ink)"
            strokeWidth={task.task === "mixes" ? 0.6 : 1}
          />
          {task.task === "spreads" && (
            <text x={px(task.from_min) + 5} y={y + 16} fontSize="13" fill="var(--color-ink)">
              {whole([task.words, task.words.split(": ")[0] ?? ""], px(task.to_min) - px(task.from_min))}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

/** Time across: the hands, each pot burning from resin to kick, every lane's layers with the window after them, the room. */
export function RunSheet({
  sheet,
  roomC,
  before,
  view,
  picked,
  onPick,
  onStart,
}: {
  sheet: Sheet;
  /** The reading that it was made from. */
  roomC: number;
  /** The sheet as it stood before a lever was moved. */
  before?: Sheet | null;
  view: View;
  picked?: number;
  onPick: (pot: number) => void;
  onStart?: (ms: number) => void;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const size = usePotSize();
  const { at, words } = useSheetClock(sheet);
  const old = useSheetClock(before ?? sheet);
  const [held, hold] = useState<number | null>(null);
  const narrow = width < 560;
  /** On a phone a lane's name stands over it. */
  const over = narrow ? 20 : 0;
  const LANE = 66 + over;
  const [left, right] = [narrow ? 12 : 136, width - 12];
  const until = view.from + view.span * MINUTE;
  const x = scaleLinear([view.from, until], [left, right]);
  const px = (minute: number) => Math.max(left - 2, Math.min(right + 2, x(at(minute))));
  const seen = (from: number, to: number) => at(to) > view.from && at(from) < until;
  const pots = sheet.pots.filter((pot) => seen(pot.weigh_min, pot.kick_min));
  const rows = rowsOf(pots);
  const lanes = sheet.lanes.filter((lane) =>
    sheet.layers.some((layer) => layer.lane === lane.id && seen(layer.from_min, layer.closes_min)),
  );
  const step = TICKS.find((tick) => view.span / tick <= (narrow ? 4 : 8)) ?? 2880;
  const first = Math.ceil((view.from - at(0)) / MINUTE / step + sheet.start_minute_of_day / step) * step;
  const ticks = Array.from({ length: 14 }, (_, n) => first - sheet.start_minute_of_day + n * step).filter(
    (minute) => at(minute) <= until,
  );
  const people = [...new Map((sheet.tasks ?? []).map((task) => [task.who, task.name])).entries()];
  // On a phone a person's name stands over his row too.
  const PERSON = narrow ? 44 : 30;
  const potsTop = TOP + Math.max(HANDS, people.length * PERSON + 14);
  const lanesTop = potsTop + Math.max(1, rows.length) * POT + 14;
  const roomTop = lanesTop + lanes.length * LANE + 6;
  const height = roomTop + ROOM + 8;
  const startAt = held ?? at(0);
  const name = (y: number, title: string, under: string) =>
    narrow ? null : (
      <g>
        <text x={0} y={y} fontSize="14.5" fontWeight="600" fill="var(--color-ink)">
          {cut(title, left)}
        </text>
        <text x={0} y={y + 16} fontSize="13" fill="var(--color-ink-soft)">
          {cut(under, left)}
        </text>
      </g>
    );
  const moved = (ms: number) => {
    const snapped = Math.round(ms / (SNAP_MIN * MINUTE)) * SNAP_MIN * MINUTE;
    hold(snapped);
    onStart?.(snapped);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with things to press and to drag in it
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${height}`}
      className="w-full"
      role="group"
      aria-label={`Run sheet, the room read at ${units.text("temperature", roomC)}. ${sheet.sentence}`}
    >
      <defs>
        <linearGradient id="burning" x1="0" x2="1" y1="0" y2="0">
          <stop offset="0" stopColor="var(--color-fresh)" />
          <stop offset="1" stopColor="var(--color-mid)" />
        </linearGradient>
        <pattern id="window" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v6" stroke="var(--color-cool)" strokeWidth="2" />
        </pattern>
      </defs>
      {ticks.map((minute) => (
        <g key={minute}>
          <path d={`M${x(at(minute))} ${TOP - 14}V${height}`} stroke="var(--color-rule)" />
          <text
            x={Math.max(left + 16, x(at(minute)))}
            y={16}
            textAnchor="middle"
            fontSize="13.5"
            fontWeight="600"
            fill="var(--color-ink)"
            className="fig"
          >
            {words(at(minute))}
          </text>
        </g>
      ))}
      {people.length === 0 && name(TOP + 15, "Hands", "")}
      {people.map(([who, called], n) => (
        <Person
          key={who}
          tasks={(sheet.tasks ?? []).filter((task) => task.who === who && seen(task.from_min, task.to_min))}
          called={called}
          top={TOP + n * PERSON}
          left={left}
          narrow={narrow}
          px={px}
          said={(minute) => words(at(minute))}
        />
      ))}
      {(people.length ? [] : sheet.busy)
        .filter((busy) => seen(busy.from_min, busy.to_min))
        .map((busy) => (
          <g key={busy.from_min}>
            <title>{`${busy.words}, ${words(at(busy.from_min))} to ${words(at(busy.to_min))}`}</title>
            <rect
              x={px(busy.from_min)}
              y={TOP}
              width={Math.max(1, px(busy.to_min) - px(busy.from_min))}
              height="26"
              fill={busy.waits ? "none" : "var(--color-sheet)"}
              stroke={busy.waits ? "var(--color-rule)" : "var(--color-ink)"}
              strokeDasharray={busy.waits ? "4 3" : undefined}
            />
            <text x={px(busy.from_min) + 6} y={TOP + 18} fontSize="13" fill="var(--color-ink)">
              {cut(busy.words, px(busy.to_min) - px(busy.from_min))}
            </text>
          </g>
        ))}
      {name(potsTop + 22, "Pots", `${sheet.pots.length} in all`)}
      {before &&
        rowsOf(before.pots.filter((pot) => old.at(pot.kick_min) > view.from && old.at(pot.weigh_min) < until)).map(
          (row, n) =>
            row.map((pot) => (
              <path
                key={pot.number}
                d={wedge(
                  x(old.at(pot.touch_min)),
                  x(old.at(pot.on_from_min)),
                  x(old.at(pot.used_min)),
                  potsTop + n * POT,
                )}
                fill="none"
                stroke="var(--color-ink-soft)"
                strokeDasharray="2 3"
              />
            )),
        )}
      {rows.map((row, n) =>
        row.map((pot, place) => {
          const after = row[place + 1];
          const room = (after ? px(after.touch_min) : right) - px(pot.used_min);
          const y = potsTop + n * POT;
          const [from, used, kick] = [px(pot.touch_min), px(pot.used_min), px(pot.kick_min)];
          const said = size.number(pot.mass_g);
          const inside = used - from > 14 * said.length;
          return (
            // biome-ignore lint/a11y/useSemanticElements: a button in a drawing
            <g
              key={pot.number}
              role="button"
              tabIndex={0}
              aria-pressed={picked === pot.number}
              aria-label={`Pot ${pot.number}, ${size.text(pot.mass_g)}, weighed at ${words(at(pot.weigh_min))}`}
              className="cursor-pointer"
              onClick={() => onPick(pot.number)}
              onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && onPick(pot.number)}
            >
              <rect x={from} y={y} width={Math.max(1, kick - from)} height={POT - 4} fill="transparent" />
              <path
                d={`M${used} ${y + 33}H${kick}`}
                stroke="var(--color-kick)"
                strokeDasharray="2 3"
                strokeWidth="1.6"
              />
              {kick < right && <path d={`M${kick} ${y + 26}v11`} stroke="var(--color-kick)" strokeWidth="2.4" />}
              <path
                d={wedge(from, px(pot.on_from_min), used, y)}
                fill="url(#burning)"
                stroke="var(--color-ink)"
                strokeWidth={picked === pot.number ? 3 : 1}
              />
              {(inside || room > 8 * said.length) && (
                <text
                  x={(inside ? from : used) + 3}
                  y={y + (inside ? 29 : 24)}
                  fontSize="13"
                  fontWeight="600"
                  fill={inside ? "var(--color-on-resin)" : "var(--color-ink)"}
                  className="fig"
                >
                  {said}
                </text>
              )}
            </g>
          );
        }),
      )}
      {lanes.map((lane, n) => {
        const y = lanesTop + n * LANE + over;
        const layers = sheet.layers.filter((layer) => layer.lane === lane.id);
        const marks = sheet.marks.filter((mark) => mark.lane === lane.id && seen(mark.at_min, mark.at_min + 1));
        let taken = left;
        return (
          <g key={lane.id}>
            {name(y + 14, lane.name, lane.under)}
            {narrow && (
              <text x={left} y={y - 5} fontSize="13" fill="var(--color-ink)">
                {cut([lane.name, lane.under].filter(Boolean).join(", "), right - left)}
              </text>
            )}
            {layers
              .filter((layer) => seen(layer.from_min, layer.closes_min))
              .map((layer) => {
                const later = layers.slice(layers.indexOf(layer) + 1);
                // The last layer of a bay is met by the first of the next.
                const next =
                  later.find((each) => each.bay === layer.bay) ??
                  (layer.bay > 0 ? later.find((each) => each.bay === layer.bay + 1) : undefined);
                const ends = Math.min(layer.closes_min, next?.from_min ?? layer.closes_min);
                const opens = Math.max(layer.opens_min, layer.to_min);
                const [a, b] = [px(layer.from_min), px(layer.to_min)];
                return (
                  // biome-ignore lint/a11y/useSemanticElements: a button in a drawing
                  <g
                    key={layer.first_pot}
                    role="button"
                    tabIndex={0}
                    aria-label={`${layer.words} of ${lane.name}${layer.bay > 0 ? `, bay ${layer.bay}` : ""}: its first pot`}
                    className="cursor-pointer"
                    onClick={() => onPick(layer.first_pot)}
                    onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && onPick(layer.first_pot)}
                  >
                    <title>
                      {`${layer.words}, ${words(at(layer.from_min))} to ${words(at(layer.to_min))}; next layer bonds ${words(at(layer.opens_min))} to ${words(at(layer.closes_min))}`}
                    </title>
                    {ends > layer.to_min && (
                      <path
                        d={`M${b} ${y + 13}H${px(Math.min(opens, ends))}`}
                        stroke="var(--color-mid)"
                        strokeWidth="2"
                      />
                    )}
                    {ends > opens && (
                      <rect
                        x={px(opens)}
                        y={y + 4}
                        width={px(ends) - px(opens)}
                        height="18"
                        fill="url(#window)"
                        opacity=".75"
                      />
                    )}
                    {ends === layer.closes_min && at(ends) < until && at(ends) > view.from && (
                      <path d={`M${px(ends)} ${y}v27`} stroke="var(--color-cool)" strokeWidth="2.4" />
                    )}
                    <rect x={a} y={y} width={Math.max(2, b - a)} height="27" fill="var(--color-sheet)" />
                    <rect
                      x={a}
                      y={y}
                      width={Math.max(2, b - a)}
                      height="27"
                      fill="var(--color-laminate)"
                      fillOpacity={layer.bay % 2 ? 0.45 : 1}
                      stroke="var(--color-ink)"
                    />
                    <text x={a + 5} y={y + 18} fontSize="13" fill="var(--color-ink)">
                      {whole(inBay(layer), b - a)}
                    </text>
                  </g>
                );
              })}
            {sheet.stops
              .filter((stop) => stop.lane === lane.id && seen(stop.from_min, stop.to_min))
              .map((stop) => (
                <g key={stop.from_min}>
                  <path
                    d={`M${px(stop.from_min)} ${y + 36}H${px(stop.to_min)}`}
                    stroke="var(--color-ink)"
                    strokeWidth="3"
                  />
                  <text x={px(stop.from_min) + 4} y={y + 59} fontSize="13" fill="var(--color-ink)">
                    {cut(`left for the night: ${stop.words}`, right - px(stop.from_min))}
                  </text>
                </g>
              ))}
            {marks.map((mark) => {
              const touched = mark.kind === "test" || mark.kind === "lift";
              const said = `${MARKS[mark.kind] ?? mark.kind} ${words(at(mark.at_min))}`;
              const wide = said.length * 6.7 + 18;
              const from = Math.min(px(mark.at_min), right - wide);
              if (from < taken) return null;
              taken = from + wide;
              return (
                <g key={mark.kind + mark.at_min}>
                  <title>{mark.words}</title>
                  <circle
                    cx={from + 6}
                    cy={y + 40}
                    r="5"
                    fill="var(--color-sheet)"
                    stroke={touched ? "var(--color-cool)" : "var(--color-ink)"}
                    strokeWidth="2.4"
                  />
                  <text
                    x={from + 15}
                    y={y + 45}
                    fontSize="13"
                    fill={touched ? "var(--color-cool)" : "var(--color-ink)"}
                  >
                    {said}
                  </text>
                </g>
              );
            })}
          </g>
        );
      })}
      <RoomLine sheet={sheet} top={roomTop} x={(minute) => x(at(minute))} left={left} right={right} narrow={narrow} />
      {startAt >= view.from && startAt <= until && (
        <Drag
          label="Start, dragged"
          words={words(startAt)}
          value={Math.round((startAt - at(0)) / MINUTE)}
          least={-1440}
          most={1440}
          onDrag={
            onStart &&
            ((event) => {
              const frame = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
              if (frame) moved(x.invert(((event.clientX - frame.left) * width) / frame.width).valueOf());
            })
          }
          onStep={(steps) => moved(at(0) + steps * 30 * MINUTE)}
          onDone={() => hold(null)}
        >
          <path d={`M${x(startAt)} ${TOP - 12}V${height}`} stroke="var(--color-ink)" strokeWidth="1.8" />
          <circle cx={x(startAt)} cy={TOP - 18} r="16" fill="transparent" />
          <circle
            cx={x(startAt)}
            cy={TOP - 18}
            r="8"
            fill="var(--color-sheet)"
            stroke="var(--color-ink)"
            strokeWidth="3"
          />
        </Drag>
      )}
    </svg>
  );
}

/** A pot: full while it is mixed, then less with what is on the work. */
function wedge(from: number, on: number, used: number, y: number): string {
  return `M${from} ${y + 36}V${y}H${on}L${used} ${y + 30}V${y + 36}Z`;
}

function RoomLine({
  sheet,
  top,
  x,
  left,
  right,
  narrow,
}: {
  sheet: Sheet;
  top: number;
  x: (minute: number) => number;
  left: number;
  right: number;
  narrow: boolean;
}) {
  const { units } = useShop();
  const axis = units.axis("temperature");
  const steady = sheet.room_min.length === 1;
  const minutes = steady ? [-1e4, 1e5] : sheet.room_min;
  const room = steady ? [sheet.room_c[0] ?? 20, sheet.room_c[0] ?? 20] : sheet.room_c;
  const points = minutes.map((minute, n) => ({ at: x(minute), c: room[n] ?? 20 }));
  const inside = points.filter((point, n) => {
    const [before, after] = [points[n - 1], points[n + 1]];
    return (after ?? point).at >= left && (before ?? point).at <= right;
  });
  const temperatures = (inside.length ? inside : points).map((point) => axis.shown(point.c));
  const [low, high] = [Math.min(...temperatures) - 1, Math.max(...temperatures) + 1];
  const y = scaleLinear([low, high], [top + ROOM - 12, top + 8]);
  const held = (value: number) => Math.max(left, Math.min(right, value));
  const line = inside.map((point, n) => `${n ? "L" : "M"}${held(point.at)} ${y(axis.shown(point.c))}`).join("");
  return (
    <g>
      {!narrow && (
        <>
          <text x={0} y={top + 22} fontSize="14.5" fontWeight="600" fill="var(--color-ink)">
            Room
          </text>
          <text x={0} y={top + 38} fontSize="13" fill="var(--color-ink-soft)">
            {axis.unit}, {sheet.room_by ? ROOM_BY[sheet.room_by] : ""}
          </text>
        </>
      )}
      {y.ticks(3).map((tick) => (
        <g key={tick}>
          <path d={`M${left} ${y(tick)}H${right}`} stroke="var(--color-rule)" />
          <text
            x={narrow ? left : left - 6}
            y={y(tick) + (narrow ? -3 : 4)}
            textAnchor={narrow ? "start" : "end"}
            fontSize="13"
            fill="var(--color-ink-soft)"
            className="fig"
          >
            {tick}
          </text>
        </g>
      ))}
      <path d={line} fill="none" stroke="var(--color-ink)" strokeWidth="2.4" />
    </g>
  );
}
