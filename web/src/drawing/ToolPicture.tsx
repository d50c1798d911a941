/** What a tool is, and what there is to say of it: a scale reads to `reads`; what holds something has `marks` up its side. */
export type DrawnTool =
  | { kind: "scale"; reads: string }
  | { kind: "syringe" | "dropper" | "pump" }
  | { kind: "cup"; holds_ml: number; marks: number; columns?: boolean };

const [WIDE, HIGH] = [120, 104];
const INK = { fill: "none", stroke: "var(--color-ink)", strokeWidth: 2 } as const;
const FILLED = { fill: "var(--color-fresh)" } as const;

/** A tool as it stands on the bench. Cups grow with what they hold. */
export function ToolPicture({ tool }: { tool: DrawnTool }) {
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="block h-[104px] w-[120px]" aria-hidden="true">
      {tool.kind === "scale" && <Scale reads={tool.reads} />}
      {tool.kind === "cup" && <MarkedCup {...tool} />}
      {tool.kind === "syringe" && <Syringe />}
      {tool.kind === "dropper" && <Dropper />}
      {tool.kind === "pump" && <Pump />}
    </svg>
  );
}

const Scale = ({ reads }: { reads: string }) => (
  <>
    <path d="M14 50H106L98 58H22Z" fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="2" />
    <path d="M52 58H68V64H52Z" fill="var(--color-ink)" />
    <path d="M12 64H108L114 103H6Z" fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="2" />
    <text x="60" y="91" textAnchor="middle" fontSize="20" className="fig" fill="var(--color-ink)">
      {reads}
    </text>
  </>
);

function MarkedCup({ holds_ml, marks, columns = false }: { holds_ml: number; marks: number; columns?: boolean }) {
  const high = Math.min(96, Math.max(36, 8 * Math.cbrt(holds_ml)));
  const top = 103 - high;
  const [rim, foot] = [high * 0.46, high * 0.36];
  const half = (y: number) => foot + ((103 - y) / high) * (rim - foot);
  const level = 103 - high * 0.4;
  const ticks = Math.min(marks, 12);
  return (
    <>
      <path
        d={`M${60 - half(level)} ${level}L${60 - foot} 103H${60 + foot}L${60 + half(level)} ${level}Z`}
        {...FILLED}
      />
      {Array.from({ length: ticks }, (_, at) => {
        const y = 103 - (high * 0.9 * (at + 1)) / ticks;
        const long = at % 2 ? 12 : 7;
        return (
          <g key={y} stroke="var(--color-ink)" strokeWidth="1.2">
            <path d={`M${60 + half(y)} ${y}h${-long}`} />
            {columns && <path d={`M${60 - half(y)} ${y}h${long}`} />}
          </g>
        );
      })}
      <path d={`M${60 - rim} ${top}L${60 - foot} 103H${60 + foot}L${60 + rim} ${top}`} {...INK} />
    </>
  );
}

const Syringe = () => (
  <g transform="rotate(-16 60 60)">
    <rect x="44" y="22" width="24" height="58" fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="2" />
    <rect x="46" y="50" width="20" height="29" {...FILLED} />
    <path d="M56 22V4M46 4h20M38 22h36M56 80v16" {...INK} />
    {[30, 38, 46, 54, 62, 70].map((y) => (
      <path key={y} d={`M68 ${y}h-8`} stroke="var(--color-ink)" strokeWidth="1.2" />
    ))}
  </g>
);

const Dropper = () => (
  <>
    <path d="M48 12q12-14 24 0v16h-24z" fill="var(--color-ink)" />
    <path d="M52 28h16v40l-6 14h-4l-6-14z" fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="2" />
    <path d="M60 88q8 10 0 14q-8-4 0-14z" {...FILLED} stroke="var(--color-ink)" />
  </>
);

const Pump = () => (
  <>
    <rect x="34" y="52" width="44" height="51" fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="2" />
    <rect x="36" y="68" width="40" height="34" {...FILLED} />
    <path d="M56 52V20M36 20h40M36 20q-10 0-12 12" {...INK} strokeWidth="4" />
    <path d="M46 44h20v8h-20z" fill="var(--color-ink)" />
  </>
);
