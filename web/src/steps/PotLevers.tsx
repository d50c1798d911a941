import { useQuery } from "@tanstack/react-query";
import { client, type JobSpec, type LeverTried, type PotWishes, taken } from "../api/client";
import { useJob, withQuantity } from "../job/context";
import { usePotSize } from "../job/potSize";
import { withUse } from "../job/resins";
import { useMayWrite } from "../shop";
import { Choice } from "../ui/Choice";
import { QuantityField } from "../ui/QuantityField";
import { useSettled } from "../ui/useSettled";
import { CrewFields } from "./CrewFields";

/** A job with a lever moved. */
function withLever(document: JobSpec, lever: LeverTried): JobSpec {
  const typed = { ...document.pots.typed };
  if ("largest_g" in lever.pots) delete typed.largest_g;
  const pots = { ...document.pots, ...(lever.pots as Partial<PotWishes>), typed };
  if (!lever.hardener_id) return { ...document, pots };
  const { hardener_id } = lever;
  return withUse({ ...document, pots }, lever.use_id, (use) => ({ ...use, hardener_id, blend_id: null }));
}

/** What one step of each lever gives, and is worth: a press moves it. */
export function PotLevers({ onMove }: { onMove: () => void }) {
  const { job, document: inHand, edit, triedRoomC: tried } = useJob();
  const mayWrite = useMayWrite();
  const document = useSettled(inHand);
  const triedRoomC = useSettled(tried);
  const levers = useQuery({
    queryKey: ["levers", job.id, document, triedRoomC],
    queryFn: ({ signal }) =>
      taken(
        client.POST("/api/jobs/{job_id}/levers", {
          params: { path: { job_id: job.id } },
          body: { document, room_c: triedRoomC, leaner: false },
          signal,
        }),
      ),
    placeholderData: (before) => before,
    gcTime: 0,
  });
  // What stands there meanwhile is of the plan before.
  const stale = levers.isFetching || document !== inHand || triedRoomC !== tried;
  return (
    <div aria-busy={stale} className="min-h-[300px]">
      <h2 className="lab">Levers: what one step of each would give{stale ? ", being worked out" : ""}</h2>
      {levers.isError && <p className="text-[0.8125rem] text-stop">{levers.error.message}</p>}
      {levers.data?.map((lever) => (
        <button
          key={lever.name}
          type="button"
          disabled={!mayWrite}
          onClick={() => {
            onMove();
            edit((before) => withLever(before, lever));
          }}
          className="flex min-h-[52px] w-full items-end justify-between gap-3 border-b border-rule py-1.5 text-left hover:bg-rule-faint"
        >
          <span>
            <span className="lab block">{lever.name}</span>
            <span className="fig text-[1.4375rem] leading-tight">{lever.now}</span>
          </span>
          <span className="max-w-[62%] text-right text-[0.875rem] text-balance text-cool">
            {lever.then} → {lever.words}
          </span>
        </button>
      ))}
    </div>
  );
}

/** The same and more, set by hand. */
export function PotWishFields() {
  const { document, edit } = useJob();
  const size = usePotSize();
  const wishes = document.pots;
  const set = (change: Partial<PotWishes>) => edit((before) => ({ ...before, pots: { ...before.pots, ...change } }));
  return (
    <div className="grid items-start gap-4">
      <CrewFields />
      <Choice
        label="Working past closing"
        value={String(wishes.overtime_h ?? 0)}
        options={[
          ["0", "no"],
          ["1", "1 h"],
          ["2", "2 h"],
          ["4", "4 h"],
        ]}
        onChange={(hours) => set({ overtime_h: Number(hours) })}
      />
      <Choice
        label="Spread from"
        value={wishes.vessel ?? "cup"}
        options={[
          ["cup", "the cup"],
          ["tray", "a tray"],
          ["tray on a cool pack", "a tray, cooled"],
        ]}
        onChange={(vessel) => set({ vessel })}
      />
      <Choice
        label="After a window missed overnight"
        value={wishes.stops_with ?? "washing and sanding"}
        options={[
          ["washing and sanding", "wash, sand"],
          ["peel ply", "peel ply"],
        ]}
        onChange={(stops_with) => set({ stops_with })}
      />
      <Choice
        label="In the warm room once it is hard, as its data sheet asks"
        value={String(wishes.post_cure_h ?? 0)}
        options={[
          ["0", "no"],
          ["4", "4 h"],
          ["8", "8 h"],
          ["16", "16 h"],
          ["24", "24 h"],
        ]}
        onChange={(hours) => set({ post_cure_h: Number(hours) })}
      />
      <QuantityField
        label="Largest pot, if you set it"
        path="pots.largest_g"
        fieldKey="pots.largest"
        dimension={size.dimension}
        value={wishes.largest_g == null ? null : size.shown(wishes.largest_g)}
        typed={wishes.typed?.largest_g}
        optional
        placeholder="as the plan"
        onCommit={(value, words) =>
          edit((before) => ({
            ...before,
            pots: withQuantity(before.pots, "largest_g", value == null ? null : size.grams(value), words),
          }))
        }
      />
      <Choice
        label="Share of a pot's life to plan on"
        value={String(wishes.share ?? "")}
        options={[
          ["", "worked out"],
          ["0.5", "50 %"],
          ["0.65", "65 %"],
          ["0.8", "80 %"],
        ]}
        onChange={(share) => set({ share: share ? Number(share) : null })}
      />
    </div>
  );
}
