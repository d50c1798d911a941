import { scaleLinear } from "d3-scale";
import { Slider } from "radix-ui";

/** A quantity to scrub: a ruler with its ticks, a good stretch marked on it, a ring to drag. Values in the core's unit. */
export function Ruler({
  label,
  value,
  low,
  high,
  step,
  good,
  axis,
  words,
  className = "w-[280px] max-md:w-full",
  onScrub,
}: {
  label: string;
  value: number;
  low: number;
  high: number;
  step: number;
  good?: readonly [number, number] | null;
  /** The unit it is read in, and the way there and back. */
  axis: { shown: (value: number) => number; value: (shown: number) => number };
  words: string;
  className?: string;
  onScrub: (value: number) => void;
}) {
  const inside = (at: number) => Math.min(high, Math.max(low, at));
  const x = scaleLinear([axis.shown(low), axis.shown(high)], [0, 100]);
  const fine = x.ticks(30);
  const [first = 0, second = 1] = x.ticks(6);
  const coarse = x.ticks(6);
  const at = (core: number) => x(axis.shown(inside(core)));
  const now = inside(value);
  return (
    <Slider.Root
      min={low}
      max={high}
      step={step}
      value={[now]}
      onValueChange={([next]) => {
        if (next !== undefined) onScrub(next);
      }}
      className={`relative block h-11 touch-none select-none ${className}`}
    >
      <Slider.Track className="absolute inset-y-0 right-2 left-2">
        <svg
          viewBox="0 0 100 44"
          preserveAspectRatio="none"
          className="absolute inset-0 h-full w-full overflow-visible"
          aria-hidden="true"
        >
          {good && (
            <rect
              x={at(good[0])}
              width={Math.max(0, at(good[1]) - at(good[0]))}
              y="8"
              height="14"
              fill="var(--color-cool-pale)"
            />
          )}
          {fine.map((mark) => (
            <path
              key={mark}
              d={`M${x(mark)} 22V${Math.abs((mark - first) % (second - first)) < 1e-6 ? 8 : 15}`}
              stroke="var(--color-ink)"
              vectorEffect="non-scaling-stroke"
              strokeWidth="1"
            />
          ))}
          <path d="M0 22H100" stroke="var(--color-ink)" vectorEffect="non-scaling-stroke" strokeWidth="1" />
          <path d={`M${at(now)} 2V22`} stroke="var(--color-ink)" vectorEffect="non-scaling-stroke" strokeWidth="2" />
        </svg>
        {coarse.map((mark) => (
          <span
            key={mark}
            className="fig absolute top-[1.875rem] -translate-x-1/2 text-[0.7812rem] leading-none text-ink-soft"
            style={{ left: `${x(mark)}%` }}
          >
            {mark}
          </span>
        ))}
      </Slider.Track>
      <Slider.Thumb
        aria-label={label}
        aria-valuetext={words}
        className="relative top-[14px] block h-4 w-4 cursor-grab rounded-full border-[3px] border-ink bg-sheet after:absolute after:-inset-3.5 active:cursor-grabbing"
      />
    </Slider.Root>
  );
}
