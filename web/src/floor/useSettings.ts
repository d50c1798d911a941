import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Settings, type Shop, taken } from "../api/client";
import { useShop } from "../shop";
import { useLocalForm } from "../ui/useLocalForm";
import { type Change, useMerged } from "../ui/useMerged";

const settingsOf = ({ facts, name, time_zone, currency }: Shop) =>
  ({ ...facts, name, time_zone, currency }) as Settings;

/** What a shop says of itself, and what keeps a change of it. */
export function useSettings() {
  const { shop } = useShop();
  const queries = useQueryClient();
  const { form, attempt, faults } = useLocalForm(`${shop.id}.settings`);
  const [keeping, setKeeping] = useState(0);
  const kept = () => settingsOf(queries.getQueryData<Shop>(["shop", shop.id]) ?? shop);
  const set = useMerged(kept, (body) =>
    attempt(async () => {
      const path = { params: { path: { shop_id: shop.id } } };
      queries.setQueryData(
        ["shop", shop.id],
        await taken(client.PUT("/api/shops/{shop_id}/settings", { ...path, body, keepalive: true })),
      );
      if (body.name !== shop.name) await queries.invalidateQueries({ queryKey: ["session"] });
    }),
  );
  const keep = async (change: Change<Settings>) => {
    setKeeping((count) => count + 1);
    await set(change);
    setKeeping((count) => count - 1);
  };
  return { now: settingsOf(shop), set: keep, form, faults, keeping: keeping > 0 };
}
