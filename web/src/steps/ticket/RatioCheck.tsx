import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, taken } from "../../api/client";
import { minutes } from "../../format";
import { useShop } from "../../shop";

/** How far off a pot is as it was poured, and what to put in now to mend it. */
export function RatioCheck({
  runId,
  pot,
  first_g,
  second,
}: {
  runId: string;
  pot: number;
  first_g: number;
  /** B in grams, or a catalyst drawn in ml. */
  second: { part_b_g: number } | { part_b_ml: number };
}) {
  const { units } = useShop();
  const { data, error } = useQuery({
    queryKey: ["check", runId, pot, first_g, second],
    queryFn: () =>
      taken(
        client.POST("/api/runs/{run_id}/check", {
          params: { path: { run_id: runId } },
          body: { pot, part_a_g: first_g, part_b_g: null, part_b_ml: null, surface_c: null, ...second },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (error) return <p className="text-[0.875rem] text-stop">{error.message}</p>;
  if (!data) return null;
  const fine = data.grade === "within tolerance";
  return (
    <div
      role="status"
      aria-label="Ratio check"
      className={`col-span-full border-l-4 px-3 py-2 ${fine ? "border-cool bg-cool-pale" : "border-stop bg-sheet"}`}
    >
      <p className="text-[0.9688rem]">
        {fine ? "" : data.grade === "gone" ? "Gone. " : "Off. "}
        {data.words}
      </p>
      {data.add && (
        <>
          <p className="lab mt-1">put in now, and mix again as new</p>
          <p className="fig text-[2.5rem] leading-none">
            {units.text("mass", data.add_g)}{" "}
            <span className="text-[1.25rem] font-normal text-ink-soft">
              {data.add === "A" || data.add === "B" ? `of ${data.add}` : data.add}
            </span>
          </p>
          <p className="text-[0.875rem]">
            {units.text("mass", data.pot_g)} in all
            {data.life_min != null && `, alive for ${minutes(data.life_min)} min`}
          </p>
        </>
      )}
      {data.refused && <p className="mt-1 text-[0.9375rem]">Not to be mended: {data.refused}.</p>}
    </div>
  );
}
