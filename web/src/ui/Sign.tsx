/** The product's sign: a cradle with inch ticks. */
export function Sign({ size = 30 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true" className="shrink-0">
      <g fill="none" stroke="currentColor" strokeWidth="2" strokeLinecap="round">
        <path d="M3 8h26" />
        <path d="M6 8c0 11 4 16 10 16s10-5 10-16" />
        <path d="M8 23l-3 6M24 23l3 6" />
        <path d="M11 8v4M16 8v6M21 8v4" />
      </g>
    </svg>
  );
}
