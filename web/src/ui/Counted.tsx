import { type ReactNode, useState } from "react";
import { fixed } from "../format";

/** A group of a long list: what it is, how many of it are done, and its lines, which are drawn while it is open. */
export function Counted({
  title,
  done,
  of,
  word,
  open,
  className = "",
  children,
}: {
  title: string;
  done: number;
  of: number;
  /** What is done with them: "cut", "done". */
  word: string;
  open: boolean;
  className?: string;
  children: ReactNode;
}) {
  const [opened, setOpened] = useState(open);
  return (
    <details className={`group ${className}`} open={opened} onToggle={(event) => setOpened(event.currentTarget.open)}>
      <summary className="flex min-h-11 cursor-pointer items-baseline justify-between gap-3 border-b border-rule py-2.5">
        <span className="font-semibold">
          <span aria-hidden className="mr-1.5 inline-block text-ink-soft group-open:rotate-90">
            ▸
          </span>
          {title}
        </span>
        <span className={done === of ? "text-cool" : "text-ink-soft"}>
          <b className="fig text-[1.0625rem]">{fixed(done, 0)}</b> of {fixed(of, 0)} {word}
        </span>
      </summary>
      {opened && children}
    </details>
  );
}
