import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Plan, taken } from "../api/client";
import { oneIn } from "../format";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { useJob } from "./context";

/** The present plan beside another: one that was pinned, or the same job a step leaner. */
export function Beside({ partId }: { partId?: string }) {
  const { plan, document, job, triedRoomC } = useJob();
  const [pinned, pin] = useState<Plan | null>(null);
  const [asked, ask] = useState(false);
  const lean = useQuery({
    queryKey: ["leaner", job.id, document, triedRoomC],
    queryFn: () =>
      taken(
        client.POST("/api/jobs/{job_id}/what-if", {
          params: { path: { job_id: job.id } },
          body: { document, room_c: triedRoomC, leaner: true },
        }),
      ),
    enabled: asked,
    placeholderData: (before) => before,
    gcTime: 0,
  });
  const leanest = document.practice.resin_content === "lean";
  if (!plan.resins.some((told) => told.use)) return null;
  return (
    <div>
      <div className="flex flex-wrap gap-2">
        <Button aria-pressed={!!pinned} onClick={() => pin(pinned ? null : plan)}>
          {pinned ? "Unpin" : "Pin these figures"}
        </Button>
        <Button aria-pressed={asked} disabled={leanest} onClick={() => ask(!asked)}>
          {leanest ? "As lean as it goes" : "What if leaner"}
        </Button>
      </div>
      {(pinned || (asked && lean.data)) && (
        <table className="mt-2 w-full text-right">
          <caption className="sr-only">The present figures beside others</caption>
          <thead className="lab">
            <tr className="border-b border-rule">
              <th className="py-1 text-left font-normal" />
              {pinned && <th className="font-normal">pinned</th>}
              <th className="font-normal">now</th>
              {asked && lean.data && <th className="font-normal">a step leaner</th>}
            </tr>
          </thead>
          <Rows
            plans={[...(pinned ? [pinned] : []), plan, ...(asked && lean.data ? [lean.data] : [])]}
            partId={partId}
          />
        </table>
      )}
    </div>
  );
}

function Rows({ plans, partId }: { plans: Plan[]; partId?: string }) {
  const { units, money } = useShop();
  const part = (plan: Plan) => plan.parts?.find((other) => other.id === partId) ?? plan.parts?.[0];
  const worst = (plan: Plan) => Math.max(...(plan.pots ?? []).map((pot) => pot.chance_lost));
  const rows: [string, (plan: Plan) => string][] = [
    [
      "To mix",
      (plan) =>
        units.text(
          "mass",
          plan.resins.reduce((sum, told) => sum + (told.use?.mixed_g ?? 0), 0),
        ),
    ],
    ["Materials", (plan) => (plan.cost?.total == null ? "–" : money(plan.cost.total))],
    ["Thickness", (plan) => units.text("thickness", part(plan)?.thickness_mm ?? 0)],
    ["Pots", (plan) => String(plan.pot_count)],
    ["Tightest pot lost", (plan) => (plan.pots?.length ? oneIn(worst(plan)) : "–")],
  ];
  return (
    <tbody>
      {rows.map(([name, print]) => (
        <tr key={name} className="border-b border-rule-faint">
          <td className="py-1 text-left text-[0.875rem]">{name}</td>
          {plans.map((plan, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two or three columns in a fixed order
            <td key={at} className="fig text-[1rem]">
              {print(plan)}
            </td>
          ))}
        </tr>
      ))}
    </tbody>
  );
}
