import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { Fragment, type ReactNode, useMemo } from "react";
import { Link } from "react-router";
import { client, type GlossaryWord, type Schemas, taken } from "../api/client";

export interface Words {
  words: GlossaryWord[];
  /** Why a step of a run sheet stands there, by its kind. */
  run_sheet: Schemas["GlossaryOut"]["run_sheet"];
  of: Map<string, GlossaryWord>;
  any: RegExp;
}

/** The words of the trade; they change with the program only. */
export function useGlossary(): Words | null {
  const { data } = useQuery({
    queryKey: ["glossary"],
    queryFn: () => taken(client.GET("/api/glossary")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return data ? readIn(data) : null;
}

// Many sentences of a page read the same glossary: it is made ready once.
const ready = new WeakMap<Schemas["GlossaryOut"], Words>();

function readIn(told: Schemas["GlossaryOut"]): Words {
  const known = ready.get(told);
  if (known) return known;
  const { words, run_sheet } = told;
  const of = new Map(
    words.flatMap((word) => [word.term, ...(word.forms ?? [])].map((form) => [form.toLowerCase(), word])),
  );
  // The longest first, so that "gel coat" is not read as "gel".
  const forms = [...of.keys()]
    .sort((one, other) => other.length - one.length)
    .map((form) => form.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"));
  const made = {
    words,
    run_sheet,
    of,
    any: new RegExp(`(?<![\\p{L}\\d-])(?:${forms.join("|")})(?![\\p{L}\\d-])`, "giu"),
  };
  ready.set(told, made);
  return made;
}

/** A sentence in which each word of the trade opens what it means, the first time it stands there. */
export function Told({ children }: { children: string }) {
  const glossary = useGlossary();
  const pieces = useMemo(() => (glossary ? parted(children, glossary) : [children]), [children, glossary]);
  // biome-ignore lint/suspicious/noArrayIndexKey: a sentence's pieces keep their places
  return pieces.map((piece, at) => <Fragment key={at}>{piece}</Fragment>);
}

function parted(text: string, { of, any }: Words): ReactNode[] {
  const pieces: ReactNode[] = [];
  const seen = new Set<GlossaryWord>();
  let from = 0;
  for (const found of text.matchAll(any)) {
    const word = of.get(found[0].toLowerCase());
    if (!word || seen.has(word)) continue;
    seen.add(word);
    pieces.push(text.slice(from, found.index), <Meaning word={word}>{found[0]}</Meaning>);
    from = found.index + found[0].length;
  }
  return [...pieces, text.slice(from)];
}

/** A word that opens its meaning. */
export function Meaning({ word, children }: { word: GlossaryWord; children: string }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        title={`What is ${word.term}?`}
        className="cursor-help underline decoration-ink-soft/50 decoration-dotted decoration-1 underline-offset-3 hover:decoration-ink"
      >
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={`What ${word.term} means`}
          align="start"
          sideOffset={6}
          collisionPadding={10}
          className="z-60 w-[min(380px,92vw)] rounded-(--radius) border border-ink bg-sheet p-4 text-[0.9375rem] font-normal text-ink"
        >
          <p className="font-semibold">{word.term}</p>
          <p className="mt-1">{word.means}</p>
          <p className="lab mt-2">
            Source: {word.source}
            {(word.see ?? []).length > 0 && <> · see also {(word.see ?? []).join(", ")}</>}
          </p>
          <Link
            to={`/practice/words?word=${encodeURIComponent(word.term)}`}
            className="link mt-1 inline-block text-[0.8125rem]"
          >
            All words
          </Link>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
