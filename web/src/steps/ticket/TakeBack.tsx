import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Run, taken } from "../../api/client";
import { newTap, useJob } from "../../job/context";
import { againOf } from "../../job/useRuns";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";

/** What was written down by mistake is taken back with a reason; both stay readable in the log. */
export function TakeBack({
  runId,
  event,
  words,
}: {
  runId: string;
  words: string;
  event: Run["stories"][number]["events"][number];
}) {
  const { job } = useJob();
  const { clock } = useShop();
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const [tap] = useState(newTap);
  const back = useMutation({
    mutationFn: () =>
      taken(
        client.POST("/api/runs/{run_id}/events/{event_id}/take-back", {
          params: { path: { run_id: runId, event_id: event.id } },
          body: { tap_id: tap, reason },
        }),
      ),
    onSuccess: () => againOf(queries, job.id),
  });
  if (!open)
    return (
      <Button look="text" className="mt-2 mr-4 text-[0.875rem]" onClick={() => setOpen(true)}>
        take “{words} {clock(event.happened_at)}” back
      </Button>
    );
  return (
    <div className="mt-2 flex flex-wrap items-end gap-2">
      <label className="lab min-w-0 flex-1">
        Why “{words}” is wrong
        <input
          value={reason}
          maxLength={300}
          onChange={(change) => setReason(change.target.value)}
          className="field w-full text-[1.0625rem]"
        />
      </label>
      <Button
        edits
        className="min-h-11"
        disabled={reason.trim().length < 3 || back.isPending}
        onClick={() => back.mutate()}
      >
        Take it back
      </Button>
      {back.isError && (
        <p role="alert" className="w-full text-[0.875rem] text-stop">
          {back.error.message}
        </p>
      )}
    </div>
  );
}
