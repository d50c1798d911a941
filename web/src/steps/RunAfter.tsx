import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, type Part, type Run, taken } from "../api/client";
import { fixed, minutes, plural, tenPower } from "../format";
import { useJob, withPart } from "../job/context";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Wide } from "../ui/Wide";

type Touch = Run["touches"][number];
const tests: Record<Touch["test"], string> = { thumb: "thumb", brush: "dry brush", lift: "hand" };
const shown: Record<Touch["shows"], string> = { wet: "wet", tacky: "tacky", closed: "no mark, closed" };

/** What the touch of the layers said of the clocks they were planned by. */
export function Touches({ run }: { run: Run }) {
  if (!run.touches.length) return null;
  return (
    <Wide label="What touch showed" className="mt-3">
      <table className="w-full min-w-[820px]">
        <caption className="py-1 text-left text-[1rem] font-semibold">What touch showed</caption>
        <thead className="lab text-left">
          <tr className="border-b border-rule">
            <th className="py-1.5 font-normal">Layer</th>
            <th className="font-normal">Resin</th>
            <th className="font-normal">Touched</th>
            <th className="font-normal">It was</th>
            <th className="font-normal">Told to be tacky</th>
            <th className="font-normal">So its clock</th>
          </tr>
        </thead>
        <tbody>
          {run.touches.map((touch) => (
            <tr key={touch.layer_id + touch.at_min} className="border-b border-rule-faint">
              <td className="py-1.5 pr-3">
                {touch.lane_name}, {touch.words}
              </td>
              <td className="pr-3">{touch.resin_name}</td>
              <td className="pr-3 whitespace-nowrap">
                {tests[touch.test]}, <span className="fig">{minutes(touch.age_min)}</span> min after it was laid
              </td>
              <td className="pr-3">{shown[touch.shows]}</td>
              <td className="pr-3 whitespace-nowrap">
                <span className="fig">{minutes(touch.opens_after_min)}</span> to{" "}
                <span className="fig">{minutes(touch.closes_after_min)}</span> min
              </td>
              <td>{sayPace(touch)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

/** What the fronts of its infusions said of the beds they were planned by; the next shot may be planned by it. */
export function Fronts({ run }: { run: Run }) {
  const { document, edit } = useJob();
  const { units } = useShop();
  if (!run.fronts.length) return null;
  const take = (partId: string, permeability_m2: number) =>
    edit((before) =>
      withPart(before, partId, (old) => ({ ...old, infusion: { ...old.infusion, permeability_m2 } }) as Part),
    );
  return (
    <section aria-label="What the front showed" className="mt-3 border-t border-rule pt-2">
      <h3 className="text-[1rem] font-semibold">What the front showed</h3>
      <ul className="mt-1 space-y-2">
        {run.fronts.map((front) => {
          const part = document.parts.find((each) => each.id === front.part_id);
          const taken = part?.infusion?.permeability_m2 === front.permeability_m2;
          return (
            <li key={front.lane_name} className="max-w-[80ch]">
              <b className="font-semibold">{front.lane_name}</b>: by {plural(front.marks, "mark")} its bed lets through{" "}
              <span className="fig">{tenPower(front.permeability_m2)} m²</span>
              {front.marks > 1 && (
                <>
                  {" "}
                  (<span className="fig">{tenPower(front.least_m2)}</span> to{" "}
                  <span className="fig">{tenPower(front.most_m2)}</span>)
                </>
              )}
              , {fixed(front.permeability_m2 / front.planned_m2, 2)} times what was planned.
              {front.drawn_g != null &&
                ` It drew ${units.text("mass", front.drawn_g)} of ${units.text("mass", front.planned_g)}.`}
              {front.trap_g != null && ` In the trap: ${units.text("mass", front.trap_g)}.`}{" "}
              {!front.believed && "So far from the plan: was it the right mark, and the right moment? "}
              {part &&
                front.believed &&
                (taken ? (
                  <span className="text-ink-soft">The part is planned by it now.</span>
                ) : (
                  <Button edits look="text" onClick={() => take(front.part_id, front.permeability_m2)}>
                    Plan this part by it
                  </Button>
                ))}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

const LEAST_PACE = 0.2;

/** Between what bounds a clock went against the one that was told. */
function sayPace({ least, most }: Touch): string {
  const [slow, quick] = [least ?? 0, most ?? Number.POSITIVE_INFINITY];
  if (slow <= 1 && quick >= 1) return "was right, as far as touch tells";
  if (slow > 1) return `took at least ${fixed(slow, 1)} times as long`;
  // Nothing sets in no time: another layer was touched, or the wrong button.
  if (quick < LEAST_PACE) return "far quicker than told: was it this layer?";
  return `took at most ${fixed(quick, 2)} of the time`;
}

/** A run begun again as a job of its own: as it was planned, or as it was done. */
export function Repeat({ run }: { run: Run }) {
  const { document } = useJob();
  const { units } = useShop();
  const go = useNavigate();
  const repeat = useMutation({
    mutationFn: (as_done: boolean) =>
      taken(
        client.POST("/api/runs/{run_id}/repeat", {
          params: { path: { run_id: run.id } },
          body: { as_done, name: `${document.name}, again`.slice(0, 120) },
        }),
      ),
    onSuccess: (job) => go(`/jobs/${job.id}/pots`),
  });
  const { hands, room_c, largest_g } = run.differs;
  const otherwise = [
    hands != null && `${plural(hands, "person", "people")} at it`,
    room_c != null && `the room at ${units.text("temperature", room_c)}`,
    largest_g != null && `pots of ${units.text("mass", largest_g)} at most`,
  ].filter(Boolean);
  return (
    <div className="mt-3 print:hidden">
      <div className="flex flex-wrap items-center gap-3">
        <Button edits onClick={() => repeat.mutate(false)}>
          Repeat as planned
        </Button>
        {otherwise.length > 0 && (
          <>
            <Button edits onClick={() => repeat.mutate(true)}>
              Repeat as done
            </Button>
            <span className="lab">as done: {otherwise.join(", ")}</span>
          </>
        )}
      </div>
      {repeat.error && <p className="mt-1 text-stop">{repeat.error.message}</p>}
    </div>
  );
}
