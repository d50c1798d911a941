import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { type Conditions, client, type Shop, taken } from "../api/client";
import { useShop } from "../shop";
import { useLocalForm } from "../ui/useLocalForm";
import { useMerged } from "../ui/useMerged";

/** Readings of the shop's room: what is set becomes the shop's day. */
export function useConditions(then?: () => Promise<unknown>) {
  const { shop } = useShop();
  const queries = useQueryClient();
  const { form, attempt, faults } = useLocalForm(`${shop.id}.reading`);
  const kept = () => queries.getQueryData<Shop>(["shop", shop.id]) ?? shop;
  const set = useMerged<Conditions>(
    () => (kept().facts.room_read ? (kept().facts.conditions ?? {}) : {}) as Conditions,
    (body) =>
      attempt(async () => {
        const path = { params: { path: { shop_id: shop.id } } };
        queries.setQueryData<Shop>(
          ["shop", shop.id],
          await taken(client.PUT("/api/shops/{shop_id}/conditions", { ...path, body })),
        );
        await queries.invalidateQueries({ queryKey: ["jobs", shop.id] });
        await then?.();
      }),
  );
  // Before the room is read there is nothing to lay the surface or the humidity over: they wait for it.
  const roomSaid = useRef(false);
  const [waits, setWaits] = useState<Partial<Conditions>>({});
  const read = shop.facts.room_read ? (shop.facts.conditions ?? {}) : waits;
  const say = async (change: Partial<Conditions>) => {
    const next = { ...waits, ...change };
    // What is on its way is known as well.
    roomSaid.current ||= next.room_c != null;
    const known = kept().facts.room_read || roomSaid.current;
    setWaits(known ? {} : next);
    if (known) await set(next);
  };
  return { set: say, read, form, failed: faults[0]?.message };
}
