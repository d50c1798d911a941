import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { client, type Found, taken } from "../api/client";
import { PlainHeader } from "../floor/PlainHeader";
import { useSession } from "../session";
import { SearchField } from "../ui/SearchField";
import { useSettled } from "../ui/useSettled";
import { useTitle } from "../ui/useTitle";

const SETTLES_MS = 150;
const groups: [Found["kind"], string][] = [
  ["job", "Jobs"],
  ["part", "Parts"],
  ["joint", "Joints"],
  ["pour", "Castings"],
  ["product", "Products"],
  ["lot", "Lots in stock"],
  ["note", "Notes at the bench"],
];

/** Everything of the shop, by any of its words. */
export function SearchPage() {
  useTitle("Search");
  const { shopId } = useSession();
  const [search, setSearch] = useSearchParams();
  // The address follows what is typed, and is not what is typed: it comes too late for quick hands.
  const [words, type] = useState(search.get("q") ?? "");
  const asked = useSettled(words.trim(), SETTLES_MS);
  useEffect(() => setSearch(asked ? { q: asked } : {}, { replace: true }), [asked, setSearch]);
  const { data, isError, error } = useQuery({
    queryKey: ["search", shopId, asked],
    queryFn: () =>
      taken(client.GET("/api/shops/{shop_id}/search", { params: { path: { shop_id: shopId }, query: { q: asked } } })),
    enabled: !!shopId && asked !== "",
    placeholderData: keepPreviousData,
  });
  const found = asked ? (data?.found ?? []) : [];
  return (
    <>
      <PlainHeader />
      <main className="mx-auto max-w-[860px] px-4 py-6">
        <h1 className="sr-only">Search</h1>
        <SearchField
          label="Search jobs, parts, joints, products, lots and notes"
          value={words}
          autoFocus
          onChange={type}
        />
        {isError && <p className="mt-3 text-stop">{error.message}</p>}
        <div aria-live="polite">
          {asked !== "" && data && !found.length && (
            <p className="mt-4">Nothing of this shop holds “{asked}”. Try one word of it, or its beginning.</p>
          )}
        </div>
        {groups.map(([kind, title]) => {
          const mine = found.filter((each) => each.kind === kind);
          return (
            mine.length > 0 && (
              <section key={kind} className="mt-5">
                <h2 className="text-[1.125rem] font-semibold">{title}</h2>
                <ul aria-label={title} className="border-t border-rule">
                  {mine.map((each) => (
                    <Row key={`${each.id} ${each.of} ${each.name}`} found={each} />
                  ))}
                </ul>
              </section>
            )
          );
        })}
        {data?.more && found.length > 0 && (
          <p className="lab mt-3">There is more: one word more makes the list shorter.</p>
        )}
      </main>
    </>
  );
}

function Row({ found }: { found: Found }) {
  const at = found.kind === "part" || found.kind === "joint" || found.kind === "pour";
  return (
    <li className="flex flex-wrap items-center gap-x-5 border-b border-rule-faint">
      <Link to={placeOf(found)} className="flex min-h-12 flex-1 flex-wrap items-baseline gap-x-3 py-2 hover:bg-sheet">
        <span className="font-medium">{found.name || "Without a name"}</span>
        <span className="lab">
          {found.of}
          {found.put_away && " · put away"}
        </span>
      </Link>
      {at && found.run_id && (
        <Link to={`/built/${found.run_id}?find=${encodeURIComponent(found.name)}`} className="link text-[0.9375rem]">
          What lies there
        </Link>
      )}
    </li>
  );
}

function placeOf(found: Found): string {
  switch (found.kind) {
    case "job":
      return `/jobs/${found.id}`;
    case "part":
      return `/jobs/${found.job_id}/stack?part=${found.id}`;
    case "joint":
      return `/jobs/${found.job_id}/joints`;
    case "pour":
      return `/jobs/${found.job_id}/pours`;
    case "product":
      return `/shelf/${found.id}`;
    case "lot":
      return `/shelf/lot/${found.id}`;
    default:
      return `/built/${found.run_id}`;
  }
}
