import { scaleLinear, scaleLog } from "d3-scale";
import type { LabLevel, MassPoint } from "../api/client";
import { minutes } from "../format";
import { useShop } from "../shop";
import { Levels } from "./Levels";
import { useWidth } from "./useWidth";

const HEIGHT = 330;
const [LEFT, TOP, MIDDLE, BOTTOM] = [44, 30, 150, 286];

/** What mass does to a pot left in its cup: its life above, its peak beneath. */
export function MassCurve({
  points,
  level,
  massG,
  roomC,
}: {
  points: MassPoint[];
  /** The temperature marked on the peaks. */
  level: LabLevel | undefined;
  massG: number;
  roomC: number;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return <p className="lab">The heat model has no data for a pot so stated.</p>;
  const right = width - 12;
  const x = scaleLog([first.mass_g, last.mass_g], [LEFT, right]).clamp(true);
  const most = Math.max(...points.map((point) => point.life_min));
  const life = scaleLinear([0, most * 1.1], [MIDDLE, TOP]);
  const axis = units.axis("temperature");
  const peak = scaleLinear([axis.shown(roomC), axis.shown(205)], [BOTTOM, MIDDLE + 26]);
  const line = (of: (point: MassPoint) => number) =>
    points.map((point, place) => `${place ? "L" : "M"}${x(point.mass_g).toFixed(1)} ${of(point).toFixed(1)}`).join("");
  const marks = points.filter((_, place) => place % 2 === 0);
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="w-full"
      role="img"
      aria-label={`Life by mass: ${points.map((point) => `${units.text("mass", point.mass_g)} ${minutes(point.life_min)} min`).join(", ")}`}
    >
      <text x={LEFT} y={TOP - 12} fontSize="13.5" fill="var(--color-ink)">
        Pot A by its mass, in the cup: life, min
      </text>
      <Levels ticks={life.ticks(3)} y={life} left={LEFT} right={right} />
      <path d={line((point) => life(point.life_min))} fill="none" stroke="var(--color-mid)" strokeWidth="2.4" />
      <text x={LEFT} y={MIDDLE + 20} fontSize="13.5" fill="var(--color-ink)">
        its peak if forgotten, {axis.unit}
      </text>
      {(level ? [axis.shown(level.celsius)] : []).map((tick) => (
        <g key={tick}>
          <path d={`M${LEFT} ${peak(tick)}H${right}`} stroke="var(--color-kick)" strokeDasharray="3 4" opacity=".7" />
          <text x={LEFT - 7} y={peak(tick) + 5} textAnchor="end" fontSize="14" fill="var(--color-kick)" className="fig">
            {Math.round(tick)}
          </text>
        </g>
      ))}
      <path
        d={line((point) => peak(axis.shown(point.peak_c)))}
        fill="none"
        stroke="var(--color-kick)"
        strokeWidth="2.4"
      />
      <path d={`M${LEFT} ${BOTTOM}H${right}`} stroke="var(--color-rule)" />
      {marks.map((point) => (
        <text
          key={point.mass_g}
          x={x(point.mass_g)}
          y={BOTTOM + 22}
          textAnchor={point === first ? "start" : "middle"}
          fontSize="13.5"
          fill="var(--color-ink-soft)"
          className="fig"
        >
          {units.text("mass", point.mass_g)}
        </text>
      ))}
      <path d={`M${x(massG)} ${TOP}V${BOTTOM}`} stroke="var(--color-ink)" strokeDasharray="2 3" />
    </svg>
  );
}
