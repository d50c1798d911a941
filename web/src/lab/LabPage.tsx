import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type PotTrial, taken } from "../api/client";
import { PlainHeader } from "../floor/PlainHeader";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { Pick as PickField } from "../ui/Pick";
import { useTitle } from "../ui/useTitle";
import { Waiting } from "../ui/Waiting";
import { Trials } from "./Trials";

const BEGUN_WITH_G = 500;

/** The pot lab with no job at hand: any resin of the shelf, in any of its vessels. */
export function LabPage() {
  useTitle("Pot lab");
  const { shopId } = useSession();
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <LabOfShop />
      </ShopProvider>
    </>
  );
}

function LabOfShop() {
  const { shop } = useShop();
  const library = useQuery({
    queryKey: ["library", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/library", { params: { path: { shop_id: shop.id } } })),
  });
  const [chosen, choose] = useState("");
  if (!library.data) return <Waiting words="The shelf is being read" />;
  // What sets by the air alone makes no heat in a pot.
  const resins = library.data.resins.filter((resin) => !resin.one_part);
  const resin = resins.find(({ id }) => id === chosen) ?? resins[0];
  return (
    <main className="px-4 py-4">
      <div className="mb-3 flex flex-wrap items-end gap-x-6 gap-y-2">
        <div className="min-w-0 flex-1">
          <h1 className="text-[1.375rem] font-semibold leading-tight">A pot tried before it is poured</h1>
          <p className="text-[0.875rem] text-ink-soft">
            By the heat model (memory, unproven past its checks). The sheet and your own pots win.
          </p>
        </div>
        <div className="w-[min(340px,100%)]">
          <PickField
            label="Resin"
            path="resin_id"
            value={resin?.id ?? ""}
            options={resins.map(({ id, name }) => [id, name] as const)}
            placeholder="choose a resin"
            onChange={choose}
          />
        </div>
      </div>
      {resin && (
        <Trials
          key={resin.id}
          place={`lab.${shop.id}.${resin.id}`}
          asked={["shop lab", shop.id, resin.id]}
          resin={resin}
          usual={{ mass_g: BEGUN_WITH_G, room_c: shop.facts.conditions.room_c, vessel: "cup" }}
          unsaid="what suits the room"
          ask={(trials) =>
            taken(
              client.POST("/api/shops/{shop_id}/pot-lab", {
                params: { path: { shop_id: shop.id } },
                body: { resin_id: resin.id, trials: trials as PotTrial[] },
              }),
            )
          }
        />
      )}
    </main>
  );
}
