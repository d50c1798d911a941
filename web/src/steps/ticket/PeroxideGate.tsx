import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, type Plan, type Run, taken } from "../../api/client";
import { useJob } from "../../job/context";
import { againOf, tapOf } from "../../job/useRuns";
import { useSession } from "../../session";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";

/** Before the first peroxide ticket of a run, and for each new person at the bench: a screen of its own. */
export function PeroxideGate({ plan, live, children }: { plan: Plan; live: Run | undefined; children: ReactNode }) {
  const { session } = useSession();
  const { job } = useJob();
  const { day } = useShop();
  const queries = useQueryClient();
  const key = `inch-cradle.goggles.${job.id}.${live?.id ?? "plan"}.${session?.person}`;
  const [said, setSaid] = useState(() => sessionStorage.getItem(key) === "yes");
  const peroxide = plan.cautions?.find((caution) => caution.id === "people.peroxide_and_eyes");
  const written = !!session?.person && live?.goggled.includes(session.person);
  if (!peroxide || said || written) return children;
  return (
    <main className="mx-auto max-w-[860px] px-5 py-10">
      <p className="text-[0.9375rem] font-semibold text-stop">Peroxide catalyst</p>
      <h1 className="mt-1 text-[2.75rem] font-semibold leading-[1.05]">Goggles on, before the bottle is opened</h1>
      <p className="mt-5 text-[1.25rem]">{peroxide.reason}</p>
      <ul className="mt-4 space-y-2 text-[1.125rem]">
        {(peroxide.points.length ? peroxide.points : [peroxide.do]).map((point) => (
          <li key={point} className="border-l border-ink pl-3">
            {point}
          </li>
        ))}
      </ul>
      <Button
        edits
        look="main"
        className="mt-8 min-h-16 px-8 text-[1.25rem]"
        onClick={() => {
          sessionStorage.setItem(key, "yes");
          setSaid(true);
          if (live) void tapGoggles(live).then(() => againOf(queries, job.id));
        }}
      >
        Goggles are on
      </Button>
      {live && <p className="lab mt-2">Written down for the run of {day(live.started_at)}.</p>}
    </main>
  );
}

function tapGoggles(run: Run) {
  return taken(
    client.POST("/api/runs/{run_id}/events", {
      params: { path: { run_id: run.id } },
      body: tapOf("run", "", "goggles on", {}),
    }),
  );
}
