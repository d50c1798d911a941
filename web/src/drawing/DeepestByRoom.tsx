import { scaleLinear } from "d3-scale";
import type { Casting, PourHours } from "../api/client";
import { useShop } from "../shop";
import { Levels } from "./Levels";
import { useWidth } from "./useWidth";

const HEIGHT = 208;
const [LEFT, TOP, BOTTOM, RIGHT] = [44, 22, 160, 26];

/** How deep one pour may be in rooms of other temperatures, with today's room, this depth, and what the sheet states. */
export function DeepestByRoom({ told, hours, depthMm }: { told: Casting; hours: PourHours; depthMm: number }) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const [size, warmth] = [units.axis("size"), units.axis("temperature")];
  const right = width - RIGHT;
  const points = hours.by_room.filter((point) => point.depth_mm > 0);
  const rooms = hours.by_room.map((point) => point.room_c);
  const deepest = Math.max(depthMm, told.stated_mm ?? 0, ...points.map((point) => point.depth_mm)) * 1.08;
  const x = scaleLinear([warmth.shown(Math.min(...rooms)), warmth.shown(Math.max(...rooms))], [LEFT, right]);
  const y = scaleLinear([0, size.shown(deepest)], [BOTTOM, TOP]);
  const at = (roomC: number, mm: number) => `${x(warmth.shown(roomC)).toFixed(1)} ${y(size.shown(mm)).toFixed(1)}`;
  const line = points.map((point, place) => `${place ? "L" : "M"}${at(point.room_c, point.depth_mm)}`).join("");
  const first = points[0];
  const last = points.at(-1);
  const under =
    first && last
      ? `${line}L${x(warmth.shown(last.room_c))} ${BOTTOM}L${x(warmth.shown(first.room_c))} ${BOTTOM}Z`
      : "";
  const room = Math.min(Math.max(hours.room_c, Math.min(...rooms)), Math.max(...rooms));
  const single = Math.max(...told.lifts.map((lift) => lift.depth_mm));
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="w-full"
      role="img"
      aria-label={`The deepest single pour by the room: ${points.map((point) => `${units.words("size", point.depth_mm)} at ${units.text("temperature", point.room_c)}`).join(", ")}`}
    >
      <path d={under} fill="var(--color-cool-pale)" />
      <Levels ticks={y.ticks(4)} y={y} left={LEFT} right={right} />
      <text x={LEFT - 8} y={TOP - 8} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        {size.unit}
      </text>
      <path d={line} fill="none" stroke="var(--color-cool)" strokeWidth="2.4" />
      {told.stated_mm != null && (
        <>
          <path
            d={`M${LEFT} ${y(size.shown(told.stated_mm))}H${right}`}
            stroke="var(--color-ink)"
            strokeDasharray="6 4"
          />
          <text
            x={LEFT + 6}
            y={y(size.shown(told.stated_mm)) - 6}
            fontSize="12.5"
            fill="var(--color-ink)"
            stroke="var(--color-cool-pale)"
            strokeWidth="3"
            paintOrder="stroke"
          >
            the sheet says {units.words("size", told.stated_mm)}
          </text>
        </>
      )}
      <path d={`M${x(warmth.shown(room))} ${TOP}V${BOTTOM}`} stroke="var(--color-ink)" strokeWidth="1" />
      <circle
        cx={x(warmth.shown(room))}
        cy={y(size.shown(single))}
        r="6"
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
        strokeWidth="3"
      />
      <text
        x={x(warmth.shown(room)) + (x(warmth.shown(room)) > right - 130 ? -11 : 11)}
        y={y(size.shown(single)) + 17}
        textAnchor={x(warmth.shown(room)) > right - 130 ? "end" : "start"}
        fontSize="13"
        fontWeight="600"
        fill="var(--color-ink)"
      >
        {told.lifts.length > 1 ? "each lift" : "this pour"}, {units.words("size", single)}
      </text>
      {x.ticks(6).map((tick) => (
        <text
          key={tick}
          x={x(tick)}
          y={BOTTOM + 20}
          textAnchor="middle"
          fontSize="14"
          fill="var(--color-ink-soft)"
          className="fig"
        >
          {tick}
        </text>
      ))}
      <text x={right} y={BOTTOM + 40} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        room, {warmth.unit}
      </text>
    </svg>
  );
}
