import { Worked } from "./Worked";

/** A number as the hero: big, with its unit small beside it and its name above. `about` opens its working. */
export function Figure({
  name,
  number,
  unit,
  size = 34,
  tone = "text-ink",
  about,
}: {
  name?: string;
  number: string;
  unit?: string;
  size?: number;
  tone?: string;
  about?: string;
}) {
  return (
    <div className="min-w-0">
      {name && <div className="lab whitespace-nowrap">{name}</div>}
      <div
        className={`fig whitespace-nowrap leading-[1.08] ${tone}`}
        style={{ fontSize: `min(${size / 16}rem, 13vw)` }}
      >
        <Worked about={about}>
          {number}
          {unit && (
            <span
              className="ml-[0.12em] font-normal text-ink-soft"
              style={{ fontSize: `${Math.max(14, size * 0.52) / 16}rem` }}
            >
              {unit}
            </span>
          )}
        </Worked>
      </div>
    </div>
  );
}
