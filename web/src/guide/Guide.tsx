import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, NavLink, useParams } from "react-router";
import { client, type Schemas, taken } from "../api/client";
import { PlainHeader } from "../floor/PlainHeader";
import { plural } from "../format";
import { SearchField } from "../ui/SearchField";
import { Told } from "../ui/Told";
import { useTitle } from "../ui/useTitle";
import { About } from "./About";
import { Changes } from "./Changes";

type Page = Schemas["GuidePage"];

/** The guide: by the order of the work, or by what somebody asks. */
export function GuidePage() {
  const { page = "" } = useParams();
  useTitle("Guide");
  const guide = useQuery({
    queryKey: ["guide"],
    queryFn: () => taken(client.GET("/api/guide")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [sought, seek] = useState("");
  const pages = guide.data?.pages ?? [];
  const shown = pages.find(({ id }) => id === page);
  const words = sought.trim();
  const hits = words.length > 1 ? pages.filter((each) => says(each, words)) : null;
  return (
    <>
      <PlainHeader />
      <div className="mx-auto grid max-w-[1180px] gap-x-10 px-4 py-5 sm:px-6 md:grid-cols-[250px_1fr]">
        <nav aria-label="Guide" className="print:hidden max-md:order-2">
          <SearchField label="Search the guide" value={sought} onChange={seek} />
          <ol className="mt-3 border-t border-rule">
            {pages.map((each, at) => (
              <li key={each.id} className="border-b border-rule-faint">
                <NavLink
                  to={`/guide/${each.id}`}
                  className="flex min-h-10 gap-2 py-2 leading-tight hover:underline aria-[current]:font-semibold"
                  onClick={() => seek("")}
                >
                  <span className="fig w-5 shrink-0 text-ink-soft">{at + 1}</span>
                  {each.title}
                </NavLink>
              </li>
            ))}
          </ol>
          <p className="mt-3 flex flex-wrap gap-x-4">
            <a href="/api/guide.pdf" target="_blank" rel="noreferrer" className="link py-1">
              All of it as one PDF
            </a>
            <NavLink to="/guide/changes" className="link py-1 aria-[current]:font-semibold">
              What changed
            </NavLink>
            <NavLink to="/guide/about" className="link py-1 aria-[current]:font-semibold">
              About
            </NavLink>
          </p>
        </nav>
        <main className="min-w-0 max-md:order-1 max-md:mb-8">
          {hits ? (
            <Found pages={hits} words={words} onGone={() => seek("")} />
          ) : shown ? (
            <Shown page={shown} next={pages[pages.indexOf(shown) + 1]} />
          ) : page === "about" ? (
            <About />
          ) : page === "changes" ? (
            <Changes versions={guide.data?.versions ?? []} />
          ) : (
            guide.data && <Asked pages={pages} />
          )}
        </main>
      </div>
    </>
  );
}

const all = ({ title, asks, blocks }: Page) => [
  title,
  ...asks,
  ...blocks.flatMap(({ words = "", steps = [], careful = "" }) => [words, ...steps, careful]),
];

/** Whether every word that is sought stands somewhere in a page. */
function says(page: Page, words: string): boolean {
  const text = all(page).join(" ").toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

function Found({ pages, words, onGone }: { pages: Page[]; words: string; onGone: () => void }) {
  const first = words.toLowerCase().split(/\s+/)[0] ?? "";
  return (
    <>
      <h1 className="text-[1.625rem] font-semibold">
        {pages.length ? `“${words}” on ${plural(pages.length, "page")}` : `“${words}” is on no page`}
      </h1>
      {!pages.length && <p className="mt-2">Try a shorter word, or the word on the tin.</p>}
      <ul aria-label="Found" className="mt-3">
        {pages.map((page) => (
          <li key={page.id} className="border-b border-rule py-2.5">
            <Link to={`/guide/${page.id}`} className="link text-[1.125rem] font-semibold" onClick={onGone}>
              {page.title}
            </Link>
            <p className="max-w-[70ch]">{all(page).find((text) => text.toLowerCase().includes(first))}</p>
          </li>
        ))}
      </ul>
    </>
  );
}

/** Where the guide begins: what somebody comes to ask. */
function Asked({ pages }: { pages: Page[] }) {
  return (
    <>
      <h1 className="text-[1.625rem] font-semibold">What do you want to know?</h1>
      <div className="mt-4 grid gap-x-10 gap-y-5 lg:grid-cols-2">
        {pages.map((page) => (
          <section key={page.id} aria-labelledby={page.id}>
            <h2 id={page.id} className="lab">
              {page.title}
            </h2>
            <ul>
              {page.asks.map((ask) => (
                <li key={ask}>
                  <Link to={`/guide/${page.id}`} className="link inline-block py-1 text-[1.0625rem]">
                    {ask}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </>
  );
}

function Shown({ page, next }: { page: Page; next: Page | undefined }) {
  return (
    <article>
      <h1 className="text-[1.75rem] font-semibold">{page.title}</h1>
      {page.blocks.map(({ words, steps = [], picture, careful }) => (
        <div key={words || picture || careful || steps[0]} className="mt-3">
          {words && (
            <p className="max-w-[68ch] text-[1.0625rem]">
              <Told>{words}</Told>
            </p>
          )}
          {steps.length > 0 && (
            <ol className="max-w-[68ch] list-decimal space-y-1.5 pl-6 text-[1.0625rem]">
              {steps.map((step) => (
                <li key={step}>
                  <Told>{step}</Told>
                </li>
              ))}
            </ol>
          )}
          {careful && (
            <p className="max-w-[68ch] border-l-4 border-stop pl-3 text-[1.0625rem] font-medium">
              <Told>{careful}</Told>
            </p>
          )}
          {picture && (
            <img
              src={`/static/guide/${picture}.png`}
              alt={`The screen of ${page.title}`}
              className="w-full max-w-[860px] border border-rule"
            />
          )}
        </div>
      ))}
      {next && (
        <p className="mt-6 border-t border-rule pt-3 print:hidden">
          Next:{" "}
          <Link to={`/guide/${next.id}`} className="link text-[1.0625rem]">
            {next.title}
          </Link>
        </p>
      )}
    </article>
  );
}
