import { useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useMemo } from "react";
import { client, type Shop, taken } from "./api/client";
import { writeAsIn } from "./format";
import { useSession } from "./session";
import { Units } from "./units";

export type Paper = "A4" | "Letter";

interface ShopHold {
  shop: Shop;
  units: Units;
  /** Whether the reader may change things of this shop; else he looks. */
  mayWrite: boolean;
  /** A moment by the shop's own clock. */
  clock: (moment: string | number) => string;
  day: (iso: string) => string;
  /** A day of the calendar, with its year. */
  date: (iso: string) => string;
  weekday: (ms: number) => string;
  /** A day and an hour of it, with its year where it is another. */
  moment: (ms: number) => string;
  /** The number of a moment's hour where it is a whole one, else nothing. */
  wholeHour: (moment: string) => string;
  /** An hour of the day, 24 its end. */
  hour: (hours: number) => string;
  /** The same as an axis is marked. */
  hourMark: (hours: number) => string;
  money: (amount: number) => string;
  /** The sizes of paper, the shop's own first. */
  papers: Paper[];
}

const Held = createContext<ShopHold | null>(null);

/** The shop in hand, with its clock, its money and the unit set its reader chose. */
export function ShopProvider({
  shopId,
  bench = false,
  children,
}: {
  shopId: string;
  /** At the bench, a tablet that is let in may write; elsewhere one only looks from it. */
  bench?: boolean;
  children: ReactNode;
}) {
  const { preferences, session } = useSession();
  const role = session?.shops.find((known) => known.id === shopId)?.role;
  const mayWrite = role !== "viewer" && (bench || !session?.at_tablet);
  const { data: shop } = useQuery({
    queryKey: ["shop", shopId],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}", { params: { path: { shop_id: shopId } } })),
    enabled: !!shopId,
  });
  const hold = useMemo(() => {
    if (!shop) return null;
    const { locale } = shop.facts;
    writeAsIn(locale);
    const english = locale || "en-GB";
    const timeZone = shop.time_zone;
    // A formatter costs far more to make than to use.
    const time = new Intl.DateTimeFormat(english, { timeStyle: "short", timeZone });
    const date = new Intl.DateTimeFormat(english, { day: "numeric", month: "short", timeZone });
    const calendar = new Intl.DateTimeFormat(english, {
      day: "numeric",
      month: "short",
      year: "numeric",
      timeZone: "UTC",
    });
    const weekday = new Intl.DateTimeFormat(english, { weekday: "short", day: "numeric", month: "short", timeZone });
    const dated = new Intl.DateTimeFormat(english, {
      weekday: "short",
      day: "numeric",
      month: "short",
      year: "numeric",
      timeZone,
    });
    const inYear = new Intl.DateTimeFormat("en", { year: "numeric", timeZone });
    // English leaves an amount of money in English marks whatever the country: its own language does not.
    const own = new Intl.Locale(`und-${english.slice(3)}`).maximize().language;
    const money = new Intl.NumberFormat(`${own}-${english.slice(3)}-u-nu-latn`, {
      style: "currency",
      currency: shop.currency,
    });
    const hourMark = new Intl.DateTimeFormat(english, { hour: "numeric", timeZone: "UTC" });
    const hour = new Intl.DateTimeFormat(english, { timeStyle: "short", timeZone: "UTC" });
    return {
      shop,
      mayWrite,
      units: new Units(shop.scales, preferences.units === "US", preferences.units === "as typed"),
      clock: (moment: string | number) => time.format(new Date(moment)),
      day: (iso: string) => date.format(new Date(iso)),
      date: (iso: string) => calendar.format(new Date(iso)),
      weekday: (ms: number) => weekday.format(ms),
      moment: (ms: number) => {
        const ofThisYear = inYear.format(ms) === inYear.format(Date.now());
        return `${(ofThisYear ? weekday : dated).format(ms)} ${time.format(ms)}`;
      },
      wholeHour: (moment: string) => {
        const parts = new Map(time.formatToParts(new Date(moment)).map(({ type, value }) => [type, value]));
        return parts.get("minute") === "00" ? (parts.get("hour") ?? "") : "";
      },
      hourMark: (hours: number) => hourMark.format(hours * 3_600_000),
      hour: (hours: number) => hour.format(hours * 3_600_000),
      // Letter goes with ounces.
      papers: (preferences.units === "US" ? ["Letter", "A4"] : ["A4", "Letter"]) as Paper[],
      money: (amount: number) => money.format(amount),
    };
  }, [shop, preferences.units, mayWrite]);
  if (!hold) return null;
  return <Held.Provider value={hold}>{children}</Held.Provider>;
}

/** Whether what stands here may be changed by who reads it. */
export const useMayWrite = () => useContext(Held)?.mayWrite ?? true;

export function useShop(): ShopHold {
  const held = useContext(Held);
  if (!held) throw new Error("useShop is used outside a shop");
  return held;
}
