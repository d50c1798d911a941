import { useQuery } from "@tanstack/react-query";
import { type Article, client, type Lot, taken } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import type { Units } from "../units";

/** The shop's stock, and what it may be kept of. */
export function useStock() {
  const { shop } = useShop();
  return useQuery({
    queryKey: ["stock", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/stock", { params: { path: { shop_id: shop.id } } })),
    refetchOnMount: "always",
  });
}

/** What an article is counted in, by its key. */
export const unitOf = (key: string): Article["unit"] =>
  key.startsWith("fabric ") ? "m" : /^(vessel|consumable) /.test(key) ? "" : "g";

export function amountText(units: Units, unit: Article["unit"], amount: number): string {
  if (unit === "g") return units.words("mass", amount);
  return unit === "m" ? units.words("roll_run", amount) : fixed(amount, 0);
}

/** A price of a kilo, a metre or a piece, as one of the reader's units costs. */
export function priceText(
  units: Units,
  unit: Article["unit"],
  price: number,
  money: (amount: number) => string,
): string {
  if (unit === "") return `${money(price)} a piece`;
  const of = unit === "g" ? units.one("mass", 10_000) : units.one("roll_run", 10);
  return `${money((price * of.is) / (unit === "g" ? 1000 : 1))} a ${of.unit}`;
}

/** How a lot stands by its date, in words. */
export function dateWords(lot: Lot, date: (iso: string) => string): string {
  switch (lot.keeping) {
    case "no date":
      return lot.trial_on ? `no date, tried ${date(lot.trial_on)}` : "no date";
    case "past":
      return lot.until ? `past ${date(lot.until)}` : "";
    case "keeps":
      return "";
    default:
      return lot.until ? `until ${date(lot.until)}` : "";
  }
}

export const called = (article: Pick<Article, "name" | "part_of">) =>
  article.part_of ? `${article.part_of}: ${article.name}` : article.name;
