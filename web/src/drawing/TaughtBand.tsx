import type { Taught } from "../api/client";
import { useWidth } from "./useWidth";

const TALL = 104;
const AXIS = 62;

/** A figure as it was told and as it is now, with its band, on one line; what was seen as marks on it. */
export function TaughtBand({
  taught: { told, now, least, most },
  seen,
  print,
}: {
  taught: Taught["taught"];
  /** What was seen, where it was of the same as the figure. */
  seen: { seen: number; out: boolean }[];
  print: (value: number) => string;
}) {
  const [box, width] = useWidth<SVGSVGElement>();
  const all = [told, now, least, most, ...seen.map((each) => each.seen)];
  const [low, high] = [Math.min(...all) * 0.92, Math.max(...all) * 1.06];
  const x = (value: number) => 12 + ((value - low) / (high - low || 1)) * (width - 24);
  const near = Math.abs(x(told) - x(now)) < 90;
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${width} ${TALL}`}
      className="w-full"
      role="img"
      aria-label={`told ${print(told)}, now ${print(now)}, nine in ten from ${print(least)} to ${print(most)}`}
    >
      <path d={`M8 ${AXIS}H${width - 8}`} stroke="var(--color-rule)" />
      <rect x={x(least)} y={AXIS - 15} width={Math.max(2, x(most) - x(least))} height="30" fill="var(--color-wetted)" />
      <path d={`M${x(told)} ${AXIS - 24}v48`} stroke="var(--color-ink-soft)" strokeDasharray="4 3" strokeWidth="1.6" />
      <path d={`M${x(now)} ${AXIS - 20}v40`} stroke="var(--color-ink)" strokeWidth="3.2" />
      {seen.map((each, n) => (
        <circle
          // biome-ignore lint/suspicious/noArrayIndexKey: what was seen has no other name here
          key={n}
          cx={x(each.seen)}
          cy={AXIS}
          r="5"
          fill={each.out ? "none" : "var(--color-cool)"}
          stroke="var(--color-cool)"
          strokeWidth="1.6"
        />
      ))}
      <text x={x(now)} y="18" textAnchor={anchor(x(now), width)} fontSize="15" className="fig" fill="var(--color-ink)">
        here {print(now)}
      </text>
      {!near && (
        <text
          x={x(told)}
          y="34"
          textAnchor={anchor(x(told), width)}
          fontSize="13.5"
          className="fig"
          fill="var(--color-ink-soft)"
        >
          told {print(told)}
        </text>
      )}
      <text x={x(least)} y={TALL - 4} textAnchor="start" fontSize="13" className="fig" fill="var(--color-ink-soft)">
        {print(least)}
      </text>
      <text x={x(most)} y={TALL - 4} textAnchor="end" fontSize="13" className="fig" fill="var(--color-ink-soft)">
        {print(most)}
      </text>
    </svg>
  );
}

const anchor = (x: number, width: number) => (x < 70 ? "start" : x > width - 70 ? "end" : "middle");
