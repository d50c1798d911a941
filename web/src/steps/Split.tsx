import type { ReactNode } from "react";
import { Worked } from "../ui/Worked";

/** A step's two sides: the picture on the floor, and the sheet one writes on. */
export function Split({
  picture,
  sheet,
  path,
  wide = false,
  asks = false,
}: {
  picture: ReactNode;
  sheet: ReactNode;
  path?: string;
  /** The picture is wider than tall: it takes nearly all there is. */
  wide?: boolean;
  /** The sheet asks, and the picture answers: on a phone it comes first. */
  asks?: boolean;
}) {
  return (
    <main
      className={`grid min-h-[calc(100dvh-114px)] ${wide ? "lg:grid-cols-[1fr_336px]" : "lg:grid-cols-[1.36fr_1fr]"}`}
    >
      <section aria-label="Picture" data-path={path} className="min-w-0 px-4 py-4">
        {picture}
      </section>
      <section
        aria-label="Sheet"
        className={`min-w-0 space-y-5 border-rule bg-sheet px-4 py-4 lg:border-l ${asks ? "max-lg:order-first max-lg:border-b" : "max-lg:border-t"}`}
      >
        {sheet}
      </section>
    </main>
  );
}

export function Title({ words, under, about }: { words: string; under?: ReactNode; about?: string }) {
  return (
    <div className="mb-3">
      <h1 className="text-[1.375rem] font-semibold leading-tight">
        <Worked about={about}>{words}</Worked>
      </h1>
      {under && <div className="mt-0.5 text-[0.875rem] text-ink-soft">{under}</div>}
    </div>
  );
}
