import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect, useRef, useState } from "react";
import { client, type Preferences, Refused, type Session, taken } from "./api/client";
import { dropKept } from "./api/reach";
import { wearLook } from "./look";

interface SessionHold {
  session: Session | undefined;
  /** Nobody answers, and it is not kept who was signed in. */
  nobodyKnown: boolean;
  signIn: (person: string, password: string) => Promise<void>;
  signOut: () => Promise<void>;
  /** Takes a session that the server answered with as the one in hand. */
  keep: (next: Session) => void;
  shopId: string;
  chooseShop: (id: string) => void;
  preferences: Preferences;
  prefer: (change: Partial<Preferences>) => void;
}

const Held = createContext<SessionHold | null>(null);
const TRIED_EACH_MS = 4000;
const UNSAID: Preferences = { units: "as typed", look: "as the device", single_keys: true, hints_closed: [] };

/** Who is signed in, how he wants his screens, and which of his shops is open. */
export function SessionProvider({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const [chosen, chooseShop] = useState("");
  const { data: session, isError } = useQuery({
    queryKey: ["session"],
    queryFn: () => taken(client.GET("/api/session")),
    // Until somebody answers.
    refetchInterval: ({ state }) => (state.data ? false : TRIED_EACH_MS),
  });
  const keep = (next: Session) => {
    queries.setQueryData(["session"], next);
    queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
    // Read once more, so that the device keeps who is signed in now.
    void queries.invalidateQueries({ queryKey: ["session"] });
  };
  const preferences = session?.preferences ?? UNSAID;
  const { look } = preferences;
  const known = session?.signed_in ?? false;
  useEffect(() => (known ? wearLook(look) : undefined), [look, known]);
  const wanted = useRef<Preferences | null>(null);
  const line = useRef(Promise.resolve());
  const prefer = (change: Partial<Preferences>) => {
    const now = queries.getQueryData<Session>(["session"]);
    if (!now) return;
    const next = { ...(wanted.current ?? now.preferences), ...change };
    wanted.current = next;
    // Shown at once, but for the units: a plan asked for before the server knows them would come in the old ones.
    queries.setQueryData(["session"], { ...now, preferences: { ...next, units: now.preferences.units } });
    // One after the other, so that what was pressed last is what stays.
    line.current = line.current.then(() => send(next));
  };
  async function send(next: Preferences) {
    // A later press holds this one too.
    if (wanted.current !== next) return;
    try {
      // It arrives also where the page is left at once.
      const answer = await taken(client.PUT("/api/session/preferences", { body: next, keepalive: true }));
      if (wanted.current !== next) return;
      wanted.current = null;
      const before = queries.getQueryData<Session>(["session"])?.preferences.units;
      queries.setQueryData(["session"], answer);
      // The words of a plan come in the units asked for.
      if (answer.preferences.units !== before)
        void queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
    } catch {
      wanted.current = null;
      void queries.invalidateQueries({ queryKey: ["session"] });
    }
  }
  const hold: SessionHold = {
    session,
    nobodyKnown: !session && isError,
    signIn: async (person, password) => {
      const next = await taken(client.POST("/api/session", { body: { person, password } }));
      await dropKept();
      keep(next);
    },
    signOut: async () => {
      // Out of reach nobody is signed out; the page says that it is.
      const next = await taken(client.DELETE("/api/session")).catch((error) => {
        if (!(error instanceof Refused) || error.status) throw error;
      });
      if (!next) return;
      await dropKept();
      keep(next);
    },
    keep,
    shopId: session?.shops.find((shop) => shop.id === chosen)?.id ?? session?.shops[0]?.id ?? "",
    chooseShop,
    preferences,
    prefer,
  };
  return <Held.Provider value={hold}>{children}</Held.Provider>;
}

export function useSession(): SessionHold {
  const held = useContext(Held);
  if (!held) throw new Error("useSession is used outside its provider");
  return held;
}
