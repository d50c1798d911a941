import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Happened, taken } from "../api/client";
import { Snapshot } from "../bench/Snapshot";
import { sayEvent } from "../bench/words";
import { useShop } from "../shop";
import { Button } from "../ui/Button";

/** Everything of a run in the order it happened; what was taken back is struck through, with who did and why. */
export function RunEvents({ runId }: { runId: string }) {
  const [open, setOpen] = useState(false);
  const path = { params: { path: { run_id: runId } } };
  const events = useQuery({
    queryKey: ["events", runId],
    queryFn: () => taken(client.GET("/api/runs/{run_id}/events", path)),
    enabled: open,
  });
  const backs = new Map(events.data?.filter((event) => event.takes_back).map((event) => [event.takes_back, event]));
  return (
    <div className="mt-3">
      <Button look="text" aria-expanded={open} className="print:hidden" onClick={() => setOpen(!open)}>
        {open ? "Put the single presses away" : "Everything in its order"}
      </Button>
      {events.isError && <p className="text-stop">{events.error.message}</p>}
      {open && (
        <ol className="mt-1 max-w-[860px]">
          {events.data
            ?.filter((event) => !event.takes_back && event.kind !== "answered")
            .map((event) => (
              <Row key={event.id} event={event} back={backs.get(event.tap_id)} />
            ))}
        </ol>
      )}
    </div>
  );
}

function Row({ event, back }: { event: Happened; back: Happened | undefined }) {
  const { clock, day, units } = useShop();
  const words = sayEvent(event, units);
  return (
    <li className="grid grid-cols-[4.5rem_3.75rem_1fr_auto] gap-3 border-b border-rule-faint py-1">
      <span className="lab">{day(event.happened_at)}</span>
      <span className="fig">{clock(event.happened_at)}</span>
      <span>
        {back ? <s className="text-ink-soft">{words}</s> : words}
        {event.kind === "photo" && !back && <Snapshot runId={event.run_id} eventId={event.id} />}
        {back && (
          <span className="text-ink-soft">
            {" "}
            taken back by {back.by}: “{String(back.data?.words ?? "")}”
          </span>
        )}
      </span>
      <span className="lab">{event.by}</span>
    </li>
  );
}
