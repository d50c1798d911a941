import { useState } from "react";
import { useSearchParams } from "react-router";
import type { GlossaryWord } from "../api/client";
import { SearchField } from "../ui/SearchField";
import { useGlossary } from "../ui/Told";
import { Waiting } from "../ui/Waiting";

/** Every word of the trade that this program uses, in plain English. */
export function Glossary() {
  const glossary = useGlossary();
  const [asked] = useSearchParams();
  const [words, type] = useState(asked.get("word") ?? "");
  if (!glossary) return <Waiting words="The words are being read" />;
  const looked = words.trim().toLowerCase();
  const shown = glossary.words.filter((word) =>
    [word.term, ...(word.forms ?? [])].some((form) => form.toLowerCase().includes(looked)),
  );
  // What is looked for by its own name stands first.
  shown.sort((one, other) => Number(other.term === looked) - Number(one.term === looked));
  return (
    <main className="px-4 py-5 lg:px-8">
      <h1 className="text-[1.375rem] font-semibold">Words of the trade</h1>
      <p className="lab mb-3 max-w-[72ch]">
        As this program uses them. Where such a word stands on a screen with dots under it, press it.
      </p>
      <div className="max-w-[520px]">
        <SearchField label="Look for a word" value={words} onChange={type} />
      </div>
      {!shown.length && <p className="mt-4">No word here begins or goes on so.</p>}
      <dl className="mt-4 gap-x-10 md:columns-2 2xl:columns-3">
        {shown.map((word) => (
          <Entry key={word.term} word={word} open={type} />
        ))}
      </dl>
    </main>
  );
}

function Entry({ word, open }: { word: GlossaryWord; open: (term: string) => void }) {
  return (
    <div className="mb-3 break-inside-avoid border-t border-rule pt-2">
      <dt className="text-[1.0625rem] font-semibold">
        {word.term}
        {(word.forms ?? []).length > 0 && <span className="lab ml-2">{(word.forms ?? []).join(", ")}</span>}
      </dt>
      <dd>
        {word.means}
        <span className="lab block">
          {word.source}
          {(word.see ?? []).map((term) => (
            <button key={term} type="button" onClick={() => open(term)} className="link ml-3 min-h-7">
              {term}
            </button>
          ))}
        </span>
      </dd>
    </div>
  );
}
