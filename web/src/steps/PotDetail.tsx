import { Link } from "react-router";
import type { PotResult, RunSheet } from "../api/client";
import { minutes, oneIn } from "../format";
import { useJob } from "../job/context";
import { usePotSize } from "../job/potSize";
import { useSheetClock } from "../job/useSheetClock";
import { useShop } from "../shop";
import { Figure } from "../ui/Figure";

/** One pot of the run sheet, with what it was worked out from, and the way to its ticket. */
export function PotDetail({ sheet, kinds, number }: { sheet: RunSheet; kinds: PotResult[]; number: number }) {
  const { job } = useJob();
  const { units } = useShop();
  const size = usePotSize();
  const { say } = useSheetClock(sheet);
  const pot = sheet.pots.find((each) => each.number === number);
  const kind = kinds.find((each) => each.id === pot?.about);
  if (!pot || !kind) return null;
  const lane = sheet.lanes.find((each) => each.id === pot.lane);
  return (
    <section aria-label={`Pot ${number}`} className="mt-3 border-l-4 border-mid bg-sheet px-4 py-3">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <Figure name={`Pot ${number}`} {...size.show(pot.mass_g)} size={34} about={`pot:${kind.id}`} />
        <Figure name="weigh at" number={say(pot.weigh_min)} size={24} />
        <Figure name="parts touch" number={say(pot.touch_min)} size={24} />
        <Figure name="on the work by" number={say(pot.use_by_min)} size={24} about={`use_by:${kind.id}`} />
        <Figure name="kicks" number={say(pot.kick_min)} size={24} tone="text-kick" about={`life:${kind.id}`} />
        <Figure name="past working first" number={oneIn(kind.chance_lost)} size={24} about={`chance:${kind.id}`} />
      </div>
      <p className="mt-2 text-[0.9062rem]">
        {lane?.name}: {kind.labels.join(", then ")}. Sized for {units.text("temperature", pot.room_c)}, spread in{" "}
        {minutes(kind.spread_min)} min; limited by {kind.limited_by}.{" "}
        <Link className="link" to={`/jobs/${job.id}/ticket?pot=${number}`}>
          Open its ticket
        </Link>
        {", "}
        <Link className="link" to={`/jobs/${job.id}/lab?mass=${pot.mass_g}`}>
          try it in the lab
        </Link>
      </p>
    </section>
  );
}
