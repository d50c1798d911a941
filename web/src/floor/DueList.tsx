import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, type Due, taken } from "../api/client";
import { useShop } from "../shop";

const REFRESH_MS = 20_000;
const steps = { begin: "pots", kicks: "ticket", window: "ticket", cure: "log" } as const;
const tones = { begin: "text-cool", kicks: "text-kick", window: "text-cool", cure: "text-ink" } as const;

/** What is live and what comes due: pots on their clocks, windows, cures. */
export function DueList() {
  const { shop } = useShop();
  const due = useQuery({
    queryKey: ["due", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/due", { params: { path: { shop_id: shop.id } } })),
    refetchInterval: REFRESH_MS,
  });
  return (
    <section aria-labelledby="due" className="min-w-0">
      <h2 id="due" className="border-b border-rule pb-1.5 text-[1.1875rem] font-semibold">
        Due
      </h2>
      {due.isError && <p className="text-stop">{due.error.message}</p>}
      {due.data?.length === 0 && (
        <p className="pt-3 text-[0.9062rem] text-ink-soft">
          Nothing is due. Take a job to the bench and write down its pots: here you see when each kicks, from when the
          next ply may follow, when its window closes and when it can be trimmed, sanded and loaded.
        </p>
      )}
      <ul>
        {due.data?.map((one) => (
          <Row key={one.job_id + one.owner_name + one.words} due={one} />
        ))}
      </ul>
    </section>
  );
}

function Row({ due }: { due: Due }) {
  const { clock, day } = useShop();
  const today = day(due.at) === day(new Date().toISOString());
  return (
    <li className="border-b border-rule-faint">
      <Link
        to={`/jobs/${due.job_id}/${steps[due.kind]}`}
        className="grid grid-cols-[84px_1fr] items-baseline gap-3 py-2.5 hover:bg-sheet"
      >
        <span
          className={`fig text-[1.5625rem] leading-none whitespace-nowrap ${due.passed ? "text-stop" : tones[due.kind]}`}
        >
          {clock(due.at)}
          {!today && <span className="lab block pt-1">{day(due.at)}</span>}
        </span>
        <span>
          <span className="block text-[1rem] font-medium first-letter:uppercase">{due.words}</span>
          <span className="lab">
            {due.job_name}, {due.owner_name}
          </span>
          <span className="lab block">{due.why}</span>
        </span>
      </Link>
    </li>
  );
}
