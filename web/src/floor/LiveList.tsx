import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { client, type Live, taken } from "../api/client";
import { countdown } from "../bench/time";
import { useShop } from "../shop";

const REFRESH_MS = 30_000;

/** What is live now: every open run of the shop with who is at it, its pots and its windows, second by second. */
export function LiveList() {
  const { shop } = useShop();
  const queries = useQueryClient();
  const live = useQuery({
    queryKey: ["live", shop.id],
    queryFn: async () => {
      const runs = await taken(client.GET("/api/shops/{shop_id}/live", { params: { path: { shop_id: shop.id } } }));
      return { runs, came_at: Date.now() };
    },
    refetchInterval: REFRESH_MS,
  });
  const [now, setNow] = useState(Date.now);
  const any = (live.data?.runs.length ?? 0) > 0;
  useEffect(() => {
    if (!any) return;
    const beat = window.setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(beat);
  }, [any]);
  useEffect(() => {
    const stream = new EventSource(`/api/shops/${shop.id}/stream`);
    stream.onmessage = () => {
      void queries.invalidateQueries({ queryKey: ["live", shop.id] });
      void queries.invalidateQueries({ queryKey: ["due", shop.id] });
    };
    return () => stream.close();
  }, [shop.id, queries]);
  if (!live.data || !any) return null;
  return (
    <section aria-labelledby="live" className="mb-6 min-w-0">
      <h2 id="live" className="border-b border-rule pb-1.5 text-[1.1875rem] font-semibold">
        At the bench
      </h2>
      <ul>
        {live.data.runs.map((run) => (
          <li key={run.run_id} className="border-b border-rule-faint">
            <Link to={`/bench/${run.run_id}`} className="block py-2.5 hover:bg-sheet">
              <span className="flex items-baseline justify-between gap-3">
                <span className="text-[1rem] font-medium">{run.job_name}</span>
                <span className="lab">{run.people.join(", ")}</span>
              </span>
              <Clocks run={run} now_ms={new Date(run.server_now).getTime() + (now - live.data.came_at)} />
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Clocks({ run, now_ms }: { run: Live; now_ms: number }) {
  const min = (moment: string) => (new Date(moment).getTime() - now_ms) / 60_000;
  const open = run.layers.filter((layer) => min(layer.closes_at) > 0).slice(0, 3);
  return (
    <span className="mt-1 block">
      {run.pots.map((pot) => {
        const left = min(pot.use_by_at);
        const gels = min(pot.gels_at);
        return (
          <span key={pot.number} className="grid grid-cols-[84px_1fr] items-baseline gap-3">
            <span
              className={`fig text-[1.5625rem] leading-none ${left <= 0 || pot.hot ? "text-kick" : "text-resin-ink"}`}
            >
              {gels <= 0 ? "gelled?" : left <= 0 ? `+${countdown(-left)}` : countdown(left)}
            </span>
            <span className="lab">
              pot {pot.number}, {pot.where}
              {pot.hot
                ? ": too hot"
                : pot.lost
                  ? ": must not be used"
                  : left > 0
                    ? ": to use it up"
                    : ": over its time"}
            </span>
          </span>
        );
      })}
      {open.map((layer) => {
        const opens = min(layer.opens_at);
        return (
          <span key={layer.where + layer.words} className="grid grid-cols-[84px_1fr] items-baseline gap-3">
            <span className="fig text-[1.25rem] leading-none text-cool">
              {countdown(opens > 0 ? opens : min(layer.closes_at))}
            </span>
            <span className="lab">
              {layer.where}, {layer.words}: {opens > 0 ? "opens for the next" : "until it closes"}
            </span>
          </span>
        );
      })}
      {run.pots.length === 0 && open.length === 0 && <span className="lab">no pot is open</span>}
    </span>
  );
}
