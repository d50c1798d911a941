import { scaleLinear } from "d3-scale";
import type { Infusion } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import { Drag } from "./Drag";
import { inRoom } from "./flow";
import { Levels } from "./Levels";
import { useWidth } from "./useWidth";

const HEIGHT = 190;
const [LEFT, TOP, BOTTOM, RIGHT] = [46, 20, 150, 16];

/** How long the fill takes and how long the resin has, by the room: the room shown is dragged. */
export function FlowByRoom({
  told,
  roomC,
  onRoom,
  onDone,
}: {
  told: Infusion;
  roomC: number;
  onRoom: (celsius: number) => void;
  onDone?: () => void;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const axis = units.axis("temperature");
  const rooms = told.by_room;
  const [first, last] = [rooms[0]?.room_c ?? 10, rooms.at(-1)?.room_c ?? 40];
  const right = width - RIGHT;
  const x = scaleLinear([first, last], [LEFT, right]);
  const now = inRoom(told, roomC);
  const most = Math.min(Math.max(...rooms.map((each) => each.sets_min)), 4 * Math.max(now.full_min ?? 0, 30) + 60);
  const y = scaleLinear([0, Math.max(most, now.sets_min * 1.1)], [BOTTOM, TOP]);
  const line = (of: (room: (typeof rooms)[number]) => number | null | undefined) =>
    rooms
      .map((room) => [room.room_c, of(room)] as const)
      .filter(([, value]) => value != null)
      .map(([c, value], at) => `${at ? "L" : "M"}${x(c).toFixed(1)} ${Math.max(TOP - 14, y(value ?? 0)).toFixed(1)}`)
      .join("");
  const held = (celsius: number) => Math.min(last, Math.max(first, celsius));
  const step = axis.unit === "°C" ? 1 : 5 / 9;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with something to drag in it
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="w-full"
      role="group"
      aria-label={`By the room: in ${units.text("temperature", roomC)} ${now.full_min == null ? "it does not fill" : `full after ${fixed(now.full_min, 0)} minutes`}, the resin sets after ${fixed(now.sets_min, 0)}`}
    >
      <Levels ticks={y.ticks(4)} y={y} left={LEFT} right={right} />
      <text x={LEFT - 8} y={TOP - 6} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        min
      </text>
      <clipPath id="flow-rooms">
        <rect x={LEFT} y={TOP - 12} width={Math.max(0, right - LEFT)} height={BOTTOM - TOP + 12} />
      </clipPath>
      <g clipPath="url(#flow-rooms)">
        <path d={line((room) => room.sets_min)} fill="none" stroke="var(--color-kick)" strokeWidth="2.5" />
        <path d={line((room) => room.full_min)} fill="none" stroke="var(--color-mid)" strokeWidth="4" />
      </g>
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
          {fixed(axis.shown(tick), 0)}
        </text>
      ))}
      <text x={right} y={BOTTOM + 36} textAnchor="end" fontSize="12.5" fill="var(--color-ink-soft)">
        room, {axis.unit}; amber: full, red: the resin sets
      </text>
      <Drag
        label="Room tried"
        words={units.text("temperature", roomC)}
        value={Math.round(axis.shown(roomC))}
        least={Math.round(axis.shown(first))}
        most={Math.round(axis.shown(last))}
        edits={false}
        onDrag={(event) => {
          const at = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
          if (at) onRoom(held(x.invert(((event.clientX - at.left) * width) / at.width)));
        }}
        onStep={(steps) => onRoom(held(roomC + steps * step))}
        onEnds={(end) => onRoom(end === "least" ? first : last)}
        onDone={onDone}
      >
        <path d={`M${x(held(roomC))} ${TOP - 10}V${BOTTOM}`} stroke="var(--color-ink)" strokeWidth="1.6" />
        <rect x={x(held(roomC)) - 22} y={TOP - 10} width="44" height={BOTTOM - TOP + 10} fill="transparent" />
        <circle
          cx={x(held(roomC))}
          cy={y(Math.min(now.full_min ?? now.sets_min, y.domain()[1] ?? 0))}
          r="9"
          fill="var(--color-sheet)"
          stroke="var(--color-ink)"
          strokeWidth="3"
        />
      </Drag>
    </svg>
  );
}
