import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { useReach } from "./api/reach";

const clock = (moment: number) =>
  new Date(moment).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", hour12: false });

/** Says that the server is out of reach, since when, and of when what is shown is; once it is back all is read anew. */
export function OutOfReach() {
  const { reached, since, shown_of } = useReach();
  const queries = useQueryClient();
  const was = useRef(reached);
  useEffect(() => {
    if (reached && !was.current)
      void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== "bench" });
    was.current = reached;
  }, [reached, queries]);
  if (reached) return null;
  return (
    <p role="status" className="border-b border-rule bg-resin-pale px-4 py-2 text-[1.0625rem] text-resin-ink">
      <b>The server is out of reach since {clock(since)}.</b>{" "}
      {shown_of > 0 && `What you see is as it was at ${clock(shown_of)}. `}
      What you type stays on this device and goes by itself when the server is back.
    </p>
  );
}
