import { useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useMemo } from "react";
import { client, type Shop, taken } from "./api/client";
import { partThousandsBy } from "./format";
import { useSession } from "./session";
import { Units } from "./units";

interface ShopHold {
  shop: Shop;
  units: Units;
  /** A moment by the shop's own clock. */
  clock: (moment: string | number) => string;
  day: (iso: string) => string;
  weekday: (ms: number) => string;
  money: (amount: number) => string;
}

const Held = createContext<ShopHold | null>(null);

/** The shop in hand, with its clock, its money and the unit set its reader chose. */
export function ShopProvider({ shopId, children }: { shopId: string; children: ReactNode }) {
  const { preferences } = useSession();
  const { data: shop } = useQuery({
    queryKey: ["shop", shopId],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}", { params: { path: { shop_id: shopId } } })),
    enabled: !!shopId,
  });
  const hold = useMemo(() => {
    if (!shop) return null;
    partThousandsBy(shop.facts.thousands_comma ? "," : "\u202f");
    const timeZone = shop.time_zone;
    // A formatter costs far more to make than to use.
    const time = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone });
    const date = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", timeZone });
    const weekday = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", timeZone });
    return {
      shop,
      units: new Units(shop.scales, preferences.units === "US", preferences.units === "as typed"),
      clock: (moment: string | number) => time.format(new Date(moment)),
      day: (iso: string) => date.format(new Date(iso)),
      weekday: (ms: number) => weekday.format(ms),
      money: (amount: number) => amount.toLocaleString("en-GB", { style: "currency", currency: shop.currency }),
    };
  }, [shop, preferences.units]);
  if (!hold) return null;
  return <Held.Provider value={hold}>{children}</Held.Provider>;
}

export function useShop(): ShopHold {
  const held = useContext(Held);
  if (!held) throw new Error("useShop is used outside a shop");
  return held;
}
