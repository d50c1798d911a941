import { scaleLinear } from "d3-scale";
import type { Casting, PourHours } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import { Drag } from "./Drag";
import { heatTint } from "./heat";
import { Levels } from "./Levels";
import { useWidth } from "./useWidth";

const HEIGHT = 216;
const [LEFT, TOP, BOTTOM, NAMES] = [44, 22, 166, 26];

/** The hottest of a casting over its hours, with its lifts and the stretch in which each takes the next. A moment is dragged. */
export function PourCurve({
  told,
  hours,
  moment,
  onMoment,
}: {
  told: Casting;
  hours: PourHours;
  moment: number;
  onMoment: (at: number) => void;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const axis = units.axis("temperature");
  const right = width - NAMES;
  const last = hours.hours.at(-1) ?? 1;
  const most = Math.max(told.most_peak_c + 6, ...hours.hottest_c);
  const x = scaleLinear([0, last], [LEFT, right]);
  const y = scaleLinear([axis.shown(Math.min(hours.room_c - 3, ...hours.hottest_c)), axis.shown(most)], [BOTTOM, TOP]);
  const at = (celsius: number) => y(axis.shown(celsius));
  const line = hours.hours
    .map((hour, place) => `${place ? "L" : "M"}${x(hour).toFixed(1)} ${at(hours.hottest_c[place] ?? 0).toFixed(1)}`)
    .join("");
  const stops = Math.max(1, Math.floor(hours.hours.length / 15));
  const now = hours.hours[moment] ?? 0;
  const nowC = hours.hottest_c[moment] ?? 0;
  const step = (steps: number) => onMoment(Math.min(hours.hours.length - 1, Math.max(0, moment + steps)));
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with something to drag in it
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="w-full"
      role="group"
      aria-label={`Its hottest over the hours: it peaks at ${units.text("temperature", Math.max(...hours.hottest_c))}`}
    >
      <defs>
        <linearGradient id="pour-heat" x1={LEFT} x2={right} y1="0" y2="0" gradientUnits="userSpaceOnUse">
          {hours.hours.map((hour, place) =>
            place % stops ? null : (
              <stop
                key={hour}
                offset={hour / last}
                stopColor={heatTint(hours.hottest_c[place] ?? 0, hours.room_c, told.most_peak_c)}
              />
            ),
          )}
        </linearGradient>
      </defs>
      {told.lifts.slice(0, -1).map((lift, place) => {
        const begun = hours.poured_h[place] ?? 0;
        const opens = lift.opens_h ?? last;
        const closes = begun + (lift.bonds_until_h ?? last);
        if (closes <= begun + opens) return null;
        return (
          <rect
            key={begun}
            x={x(begun + opens)}
            width={Math.max(0, x(Math.min(last, closes)) - x(begun + opens))}
            y={TOP}
            height={BOTTOM - TOP}
            fill="var(--color-cool-pale)"
          />
        );
      })}
      <Levels ticks={y.ticks(4)} y={y} left={LEFT} right={right} />
      <text x={LEFT - 8} y={TOP - 8} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        {axis.unit}
      </text>
      <path
        d={`M${LEFT} ${at(told.most_peak_c)}H${right}`}
        stroke="var(--color-kick)"
        strokeDasharray="3 4"
        strokeWidth="1.2"
      />
      <text x={right} y={at(told.most_peak_c) - 5} textAnchor="end" fontSize="12.5" fill="var(--color-kick)">
        stay under {units.text("temperature", told.most_peak_c)}
      </text>
      <path d={line} fill="none" stroke="url(#pour-heat)" strokeWidth="4" strokeLinejoin="round" />
      {hours.poured_h.map((hour, place) => (
        <g key={hour}>
          <path d={`M${x(hour)} ${TOP}V${BOTTOM}`} stroke="var(--color-ink)" strokeWidth="1" />
          <text x={x(hour) - 2} y={TOP - 7} fontSize="13" fontWeight="600" fill="var(--color-ink)">
            {told.lifts.length > 1 ? `lift ${place + 1}` : "poured"}
          </text>
        </g>
      ))}
      {x.ticks(8).map((tick) => (
        <g key={tick}>
          <path d={`M${x(tick)} ${BOTTOM}v5`} stroke="var(--color-ink-soft)" />
          <text
            x={x(tick)}
            y={BOTTOM + 21}
            textAnchor="middle"
            fontSize="14"
            fill="var(--color-ink-soft)"
            className="fig"
          >
            {tick}
          </text>
        </g>
      ))}
      <text x={right} y={BOTTOM + 40} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        hours from the first pour{told.lifts.length > 1 ? "; blue: the next lift bonds" : ""}
      </text>
      <Drag
        label="Moment shown"
        words={`${fixed(now, 1)} hours after the pour, ${units.text("temperature", nowC)} at its hottest`}
        value={moment}
        least={0}
        most={hours.hours.length - 1}
        edits={false}
        onDrag={(event) => {
          const drawn = box.current?.getBoundingClientRect();
          if (!drawn) return;
          const hour = x.invert(((event.clientX - drawn.left) * width) / drawn.width);
          const nearest = hours.hours.findIndex((each) => each >= hour);
          onMoment(nearest < 0 ? hours.hours.length - 1 : nearest);
        }}
        onStep={step}
        onEnds={(end) => onMoment(end === "least" ? 0 : hours.hours.length - 1)}
      >
        <rect x={x(now) - 16} y={TOP} width="32" height={BOTTOM - TOP} fill="transparent" />
        <path d={`M${x(now)} ${TOP}V${BOTTOM}`} stroke="var(--color-ink)" strokeWidth="2" />
        <circle cx={x(now)} cy={at(nowC)} r="6.5" fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="3" />
      </Drag>
    </svg>
  );
}
