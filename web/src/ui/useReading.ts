import { useRef, useState } from "react";
import { client, type Dimension, Refused, taken } from "../api/client";
import { useShop } from "../shop";

/**
 * Reads typed words as a quantity, with what was understood of them or why they could not be taken. It answers in `unit`,
 * and takes a bare number to be in it too, or in the unit that `bare` says.
 */
export function useReading(dimension: Dimension, unit?: string, bare = unit) {
  const { shop, units } = useShop();
  const [understood, setUnderstood] = useState("");
  const [error, setError] = useState("");
  const asked = useRef(0);

  /** The value, null for no words, undefined for words that cannot be taken or were overtaken by others. */
  async function read(words: string): Promise<number | null | undefined> {
    const mine = ++asked.current;
    if (!words.trim()) {
      setUnderstood("");
      setError("");
      return null;
    }
    try {
      const reading = await taken(
        client.POST("/api/shops/{shop_id}/quantities", {
          params: { path: { shop_id: shop.id } },
          body: { text: words, dimension, default_unit: bare ?? units.fieldUnit(dimension), unit: unit ?? null },
        }),
      );
      if (mine !== asked.current) return undefined;
      // What is said already need not be said again; of a bare number the unit it was taken in.
      setUnderstood(reading.understood === words.trim() ? "" : reading.understood);
      setError("");
      return reading.value;
    } catch (refused) {
      if (mine !== asked.current) return undefined;
      setUnderstood("");
      if (refused instanceof Refused) setError(refused.faults[0]?.message ?? "");
      return undefined;
    }
  }
  return { read, error, clear: () => setError(""), understood };
}
