import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext, useEffect, useState } from "react";
import { type AttemptIn, client, type Marked, type Standing, type Training, taken } from "../api/client";
import { useReach } from "../api/reach";
import { newTap } from "../job/context";
import { useSession } from "../session";
import { sendWaiting, waiting, write } from "./keptAttempts";

export type Answer = Pick<AttemptIn, "thing"> & Partial<AttemptIn>;

export interface Practice {
  training: Training;
  standing: Standing;
  /** Answers that wait on this device for the server. */
  waits: number;
  /** Has an answer marked; nothing where the server is out of reach, and it is marked later. */
  answer: (answer: Answer) => Promise<Marked | null>;
  /** More of what there is to try, after what was tried. */
  more: () => Promise<unknown>;
}

const Held = createContext<Practice | null>(null);
export const PracticeContext = Held.Provider;

export function usePractice(): Practice {
  const held = useContext(Held);
  if (!held) throw new Error("usePractice is used outside the practice page");
  return held;
}

/** What a person practises in a shop, with the answers that wait while there is no network. */
export function useTraining(shop_id: string) {
  const queries = useQueryClient();
  const { session } = useSession();
  const me = session?.person ?? "";
  const { reached } = useReach();
  const key = ["training", shop_id, me];
  const told = useQuery({
    queryKey: key,
    queryFn: async () => {
      // Out of reach, what waits goes on waiting.
      await sendWaiting(shop_id, me).catch(() => 0);
      return taken(client.GET("/api/shops/{shop_id}/training", { params: { path: { shop_id } } }));
    },
    staleTime: Number.POSITIVE_INFINITY,
    refetchOnMount: "always",
  });
  const [waits, setWaits] = useState(0);
  const count = () => void waiting(shop_id, me).then(setWaits);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once back in reach, what waits goes
  useEffect(() => {
    if (!reached) return count();
    void sendWaiting(shop_id, me)
      .then((sent) => (sent ? queries.invalidateQueries({ queryKey: key }) : undefined))
      .catch(() => 0)
      .finally(count);
  }, [reached, shop_id, me]);
  const practice: Practice | null = told.data
    ? {
        training: told.data,
        standing: told.data.standing,
        waits,
        answer: async (answer) => {
          const attempt = { choice: "", read: {}, ...answer, tap_id: newTap(), at: new Date().toISOString() };
          const marked = await write(shop_id, me, attempt);
          count();
          if (!marked) return null;
          queries.setQueryData<Training>(key, (before) => before && { ...before, standing: marked.standing });
          return marked.marked;
        },
        more: () => queries.invalidateQueries({ queryKey: key }),
      }
    : null;
  return { practice, error: told.error };
}
