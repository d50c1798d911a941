import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Joint, taken } from "../api/client";
import { useJob } from "../job/context";
import { useShop } from "../shop";
import { QuantityField } from "../ui/QuantityField";

/** The other way round: what so much mixed resin becomes, by this joint's recipe. */
export function ResinInHand({ joint }: { joint: Joint }) {
  const { job, document } = useJob();
  const { units } = useShop();
  const [resin, setResin] = useState<{ grams: number; typed: string } | null>(null);
  const { data, error } = useQuery({
    queryKey: ["resin in hand", job.id, joint, document.resins, resin?.grams],
    queryFn: () =>
      taken(
        client.POST("/api/jobs/{job_id}/joint", {
          params: { path: { job_id: job.id } },
          body: { document, joint_id: joint.id, resin_g: resin?.grams },
        }),
      ),
    enabled: resin !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const hand = resin && data?.hand;
  return (
    <div className="grid grid-cols-[150px_1fr] items-start gap-3">
      <QuantityField
        label="From mixed resin"
        path="resin_g"
        fieldKey={`${joint.id}.in-hand`}
        dimension="mass"
        value={resin?.grams}
        typed={resin?.typed}
        placeholder={units.example("mass", 100)}
        optional
        onCommit={(grams, typed) => setResin(grams == null ? null : { grams, typed })}
      />
      <p aria-live="polite" className="pt-[22px] text-[0.9062rem]">
        {resin && error ? (
          <span className="text-stop">{error.message}</span>
        ) : hand ? (
          <>
            takes{" "}
            {hand.fillers
              .map((filler) => `${units.text("volume", filler.loose_ml)} of ${filler.name.toLowerCase()}`)
              .join(" and ")}
            , makes {units.text("volume", hand.paste_ml)} of paste
            {hand.bead_m > 0 && (
              <>
                {" "}
                and runs <span className="fig text-[1.0625rem]">{units.text("length", hand.bead_m)}</span>
              </>
            )}
            .
          </>
        ) : (
          <span className="text-ink-soft">Say how much you mix, or have mixed, and see how far it goes.</span>
        )}
      </p>
    </div>
  );
}
