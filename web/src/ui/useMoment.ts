import { useState } from "react";
import { client, Refused, taken } from "../api/client";
import { useShop } from "../shop";

/** Reads typed words as a day and an hour of the shop's clock, with what was understood or why they could not be taken. */
export function useMoment(past: boolean) {
  const { shop } = useShop();
  const [understood, setUnderstood] = useState("");
  const [error, setError] = useState("");
  /** The moment, null for no words, undefined for words that cannot be taken. */
  async function read(words: string): Promise<number | null | undefined> {
    setUnderstood("");
    setError("");
    const text = words.trim();
    if (!text) return null;
    try {
      const path = { params: { path: { shop_id: shop.id } } };
      const said = await taken(client.POST("/api/shops/{shop_id}/moments", { ...path, body: { text, past } }));
      setUnderstood(said.understood);
      return Date.parse(said.at);
    } catch (refused) {
      if (!(refused instanceof Refused)) throw refused;
      setError(refused.faults[0]?.message ?? refused.message);
      return undefined;
    }
  }
  return { read, error, understood };
}
