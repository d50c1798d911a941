import { scaleLinear } from "d3-scale";
import type { Infusion } from "../api/client";
import { fixed, plural } from "../format";
import { useShop } from "../shop";
import { Drag } from "./Drag";
import { between } from "./heat";
import { Levels } from "./Levels";
import { useWidth } from "./useWidth";

const HEIGHT = 190;
const [LEFT, TOP, BOTTOM, RIGHT] = [56, 20, 150, 16];

/** What the part has drawn by a minute, and the mixes that stand in the bucket for it. The minute shown is dragged. */
export function DrawCurve({
  told,
  minute,
  onMinute,
}: {
  told: Infusion;
  minute: number;
  onMinute: (minute: number) => void;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const axis = units.axis("mass");
  const right = width - RIGHT;
  const last = told.draws.at(-1)?.at_min ?? 1;
  const x = scaleLinear([0, last], [LEFT, right]);
  const y = scaleLinear([0, axis.shown(told.mixed_g)], [BOTTOM, TOP]);
  const grams = (value: number) => y(axis.shown(value));
  const minutes = told.draws.map((each) => each.at_min);
  const drawn = told.draws.map((each) => each.grams);
  const line = told.draws.map((each, at) => `${at ? "L" : "M"}${x(each.at_min)} ${grams(each.grams)}`).join("");
  let sum = 0;
  const mixes = told.feeds_g.map((each) => {
    const begins = sum;
    sum += each;
    return { begins, ends: sum, from: between(drawn, minutes, begins) };
  });
  const now = between(minutes, drawn, minute);
  const step = Math.max(1, Math.round(last / 40));
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with something to drag in it
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="w-full"
      role="group"
      aria-label={`Drawn by the minute: ${units.text("mass", drawn.at(-1) ?? 0)} in ${fixed(last, 0)} minutes, in ${plural(mixes.length, "pot")}`}
    >
      <Levels ticks={y.ticks(4)} y={y} left={LEFT} right={right} />
      <text x={LEFT - 8} y={TOP - 6} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        {axis.unit}
      </text>
      {mixes.map((mix, at) => (
        <g key={mix.begins}>
          <rect
            x={x(at === 0 ? 0 : mix.from)}
            y={grams(mix.ends)}
            width={Math.max(2, x(last) - x(at === 0 ? 0 : mix.from))}
            height={grams(mix.begins) - grams(mix.ends)}
            fill={at % 2 ? "var(--color-fresh)" : "var(--color-wetted)"}
            fillOpacity="0.7"
          />
          {grams(mix.begins) - grams(mix.ends) > 17 && (
            <text
              x={right - 6}
              y={grams(mix.begins) - 5}
              textAnchor="end"
              fontSize="13.5"
              fill="var(--color-on-resin)"
              stroke="var(--color-wetted)"
              strokeWidth="3"
              paintOrder="stroke"
            >
              pot {at + 1}, {units.text("mass", told.feeds_g[at] ?? 0)}
            </text>
          )}
        </g>
      ))}
      <path d={line} fill="none" stroke="var(--color-resin-dark)" strokeWidth="4" strokeLinejoin="round" />
      {x.ticks(7).map((tick) => (
        <text
          key={tick}
          x={x(tick)}
          y={BOTTOM + 19}
          textAnchor="middle"
          fontSize="14"
          fill="var(--color-ink-soft)"
          className="fig"
        >
          {tick}
        </text>
      ))}
      <text x={right} y={BOTTOM + 36} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        minutes from the open valve
      </text>
      <Drag
        label="Minute shown"
        words={`${fixed(minute, 0)} minutes, ${units.text("mass", now)} drawn`}
        value={Math.round(minute)}
        least={0}
        most={Math.round(last)}
        edits={false}
        onDrag={(event) => {
          const at = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
          if (at) onMinute(Math.min(last, Math.max(0, x.invert(((event.clientX - at.left) * width) / at.width))));
        }}
        onStep={(steps) => onMinute(Math.min(last, Math.max(0, minute + steps * step)))}
        onEnds={(end) => onMinute(end === "least" ? 0 : last)}
      >
        <rect x={x(minute) - 22} y={TOP - 10} width="44" height={BOTTOM - TOP + 10} fill="transparent" />
        <path d={`M${x(minute)} ${TOP - 10}V${BOTTOM}`} stroke="var(--color-cool)" strokeWidth="2" />
        <circle
          cx={x(minute)}
          cy={grams(now)}
          r="9"
          fill="var(--color-sheet)"
          stroke="var(--color-ink)"
          strokeWidth="3"
        />
      </Drag>
    </svg>
  );
}
