/** The level lines of a chart, each with its number at the left. */
export function Levels({
  ticks,
  y,
  left,
  right,
}: {
  ticks: number[];
  y: (tick: number) => number;
  left: number;
  right: number;
}) {
  return ticks.map((tick) => (
    <g key={tick}>
      <path d={`M${left} ${y(tick)}H${right}`} stroke="var(--color-rule)" />
      <text x={left - 8} y={y(tick) + 5} textAnchor="end" fontSize="14" fill="var(--color-ink-soft)" className="fig">
        {tick}
      </text>
    </g>
  ));
}
