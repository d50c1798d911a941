import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useState } from "react";
import { client, type Session, taken } from "./api/client";

interface SessionHold {
  session: Session | undefined;
  signIn: (person: string, password: string) => Promise<void>;
  signOut: () => Promise<void>;
  /** Takes a session that the server answered with as the one in hand. */
  keep: (next: Session) => void;
  shopId: string;
  chooseShop: (id: string) => void;
}

const Held = createContext<SessionHold | null>(null);

/** Who is signed in, and which of his shops is open. */
export function SessionProvider({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const [chosen, chooseShop] = useState("");
  const { data: session } = useQuery({ queryKey: ["session"], queryFn: () => taken(client.GET("/api/session")) });
  const keep = (next: Session) => {
    queries.setQueryData(["session"], next);
    queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
  };
  const hold: SessionHold = {
    session,
    signIn: async (person, password) => keep(await taken(client.POST("/api/session", { body: { person, password } }))),
    signOut: async () => keep(await taken(client.DELETE("/api/session"))),
    keep,
    shopId: session?.shops.find((shop) => shop.id === chosen)?.id ?? session?.shops[0]?.id ?? "",
    chooseShop,
  };
  return <Held.Provider value={hold}>{children}</Held.Provider>;
}

export function useSession(): SessionHold {
  const held = useContext(Held);
  if (!held) throw new Error("useSession is used outside its provider");
  return held;
}
