import { useQuery } from "@tanstack/react-query";
import { client, type Schemas, taken } from "../api/client";
import { plural } from "../format";
import { inFull } from "./Changes";

type Shipped = Schemas["Shipped"];

/** Whose this program is made of: everything that ships with it, with its licence. */
export function About() {
  const about = useQuery({
    queryKey: ["about"],
    queryFn: () => taken(client.GET("/api/about")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (!about.data) return null;
  const { version, on, licence, shipped } = about.data;
  const of = (runs: string) => shipped.filter((each) => each.runs === runs);
  return (
    <>
      <h1 className="text-[1.625rem] font-semibold">Inch Cradle {version}</h1>
      <p className="lab">
        of {inFull(on)} · licence {licence}
      </p>
      <p className="mt-3 max-w-[68ch]">
        It plans and runs fibreglass and carbon layups. It does not size structure. The product in your hand wins: where
        its data sheet and this program differ, follow the sheet, and local rules. Everything it needs ships with it,
        and nothing is fetched from outside while it runs.
      </p>
      <Made title="In the server" shipped={of("server")} />
      <Made title="On the page" shipped={of("page")} />
    </>
  );
}

function Made({ title, shipped }: { title: string; shipped: Shipped[] }) {
  return (
    <section className="mt-5">
      <h2 className="text-[1.1875rem] font-semibold">
        {title}: {plural(shipped.length, "library", "libraries")} of others
      </h2>
      <ul className="mt-1 grid gap-x-8 sm:grid-cols-2">
        {shipped.map(({ name, version, licence, words }) => (
          <li key={name} className="border-b border-rule-faint py-1">
            {words ? (
              <details>
                <summary className="cursor-pointer">
                  {name} {version} <span className="lab">{licence}</span>
                </summary>
                <pre className="my-2 overflow-auto bg-sheet p-3 text-[0.75rem] whitespace-pre-wrap">{words}</pre>
              </details>
            ) : (
              <span>
                {name} {version} <span className="lab">{licence}</span>
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
