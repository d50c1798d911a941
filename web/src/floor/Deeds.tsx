import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, taken } from "../api/client";
import { useShop } from "../shop";
import { Button } from "../ui/Button";

/** Who did what in the shop, the last first: for its owners. */
export function Deeds({ shopId }: { shopId: string }) {
  const { clock, day } = useShop();
  const [open, setOpen] = useState(false);
  const deeds = useInfiniteQuery({
    queryKey: ["deeds", shopId],
    queryFn: ({ pageParam }) =>
      taken(
        client.GET("/api/shops/{shop_id}/deeds", {
          params: { path: { shop_id: shopId }, query: { after: pageParam } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: ({ older }) => older ?? undefined,
    enabled: open,
    refetchOnMount: "always",
  });
  return (
    <section className="mt-8">
      <h2 className="text-[1.25rem] font-semibold">Who did what</h2>
      <p className="lab">For owners. What was pressed at a bench stands in the log of its run.</p>
      <Button className="mt-2" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Close the list" : "Open the list"}
      </Button>
      {deeds.isError && <p className="text-stop">{deeds.error.message}</p>}
      {open && (
        <ol aria-label="Who did what" className="mt-2 border-t border-rule">
          {deeds.data?.pages
            .flatMap((page) => page.deeds)
            .map((deed) => (
              <li key={deed.id} className="flex flex-wrap gap-x-4 border-b border-rule-faint py-1.5">
                <span className="fig w-32">
                  {day(deed.last_at)} {clock(deed.last_at)}
                </span>
                <span className="min-w-0 flex-1">
                  <b className="font-semibold">{deed.by}</b> {deed.words}
                  {deed.thing && `: ${deed.thing}`}
                </span>
                {deed.times > 1 && <span className="lab">{deed.times} times</span>}
              </li>
            ))}
        </ol>
      )}
      {open && deeds.data?.pages[0]?.deeds.length === 0 && <p className="mt-2">Nothing yet.</p>}
      {open && deeds.hasNextPage && (
        <Button className="mt-2" onClick={() => void deeds.fetchNextPage()}>
          Earlier
        </Button>
      )}
    </section>
  );
}
