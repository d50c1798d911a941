/** A number as the hero: big, with its unit small beside it and its name above. */
export function Figure({
  name,
  number,
  unit,
  size = 34,
  tone = "text-ink",
}: {
  name?: string;
  number: string;
  unit?: string;
  size?: number;
  tone?: string;
}) {
  return (
    <div className="min-w-0">
      {name && <div className="lab">{name}</div>}
      <div className={`fig whitespace-nowrap leading-[1.08] ${tone}`} style={{ fontSize: size }}>
        {number}
        {unit && (
          <span className="ml-[0.12em] font-normal text-ink-soft" style={{ fontSize: Math.max(14, size * 0.52) }}>
            {unit}
          </span>
        )}
      </div>
    </div>
  );
}
