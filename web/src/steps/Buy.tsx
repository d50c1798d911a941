import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, type ShoppingList, taken } from "../api/client";
import { plural } from "../format";
import { useJob } from "../job/context";
import { StepCautions } from "../job/JobCautions";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Download } from "../ui/Download";
import { Prints } from "../ui/Prints";
import { Waiting } from "../ui/Waiting";
import { BuyLines } from "./BuyLines";

type Line = ShoppingList["lines"][number];

/** What stands in the shop for a job, and how long each thing took to come. */
const useFree = (job_id: string) =>
  useQuery({
    queryKey: ["free", job_id],
    queryFn: () => taken(client.GET("/api/jobs/{job_id}/free", { params: { path: { job_id } } })),
    refetchOnMount: "always",
  });

/** What stands in the shop for the job, and whether it is kept from other jobs. */
function Aside({ lines }: { lines: readonly Line[] }) {
  const { job } = useJob();
  const queries = useQueryClient();
  const key = ["free", job.id];
  const path = { params: { path: { job_id: job.id } } };
  const { data } = useFree(job.id);
  const put = useMutation({
    mutationFn: (aside: boolean) => taken(client.PUT("/api/jobs/{job_id}/aside", { ...path, body: { aside } })),
    onSuccess: (now) => {
      queries.setQueryData(key, now);
      void queries.invalidateQueries({ queryKey: ["stock"] });
    },
  });
  const there = lines.filter((line) => line.free > 0).length;
  if (!data || !there) return null;
  const aside = Object.keys(data.aside).length;
  return (
    <p className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-ink py-1 pl-4">
      <span>
        {aside
          ? `${plural(aside, "thing")} put aside for this job: no other job counts on ${aside === 1 ? "it" : "them"}.`
          : `Of ${plural(there, "line")} there is some in the stock. Another job may count on it too.`}
      </span>
      {aside > 0 && (
        <Button edits className="min-h-11" disabled={put.isPending} onClick={() => put.mutate(false)}>
          Let it go
        </Button>
      )}
      <Button edits className="min-h-11" disabled={put.isPending} onClick={() => put.mutate(true)}>
        {aside ? "Put aside anew" : "Put it aside"}
      </Button>
    </p>
  );
}

/** The shopping list of a job: what is needed, in the sizes it is sold in, with the variant named. */
export function BuyStep() {
  const { job, saving, plan } = useJob();
  const { units, money } = useShop();
  const free = useFree(job.id);
  const { data } = useQuery({
    queryKey: ["buy", job.id, job.revision, job.saved_at],
    queryFn: () => taken(client.GET("/api/jobs/{job_id}/buy", { params: { path: { job_id: job.id } } })),
    placeholderData: keepPreviousData,
    refetchOnMount: "always",
  });
  if (!data) return <Waiting words="The list is being made" />;
  const { unit, value } = units.axis("area");
  const perArea = (perM2: number) => `${money(perM2 * value(1))} a ${unit}`;
  const at = `/api/jobs/${job.id}`;
  return (
    <main className="mx-auto max-w-[1180px] bg-sheet px-4 py-4 sm:px-6">
      <div className="flex flex-wrap items-start justify-between gap-x-8 gap-y-3">
        <div>
          <h1 className="text-[1.625rem] font-semibold">To buy for this job</h1>
          <p className="lab">
            What the cut plan takes off the rolls, and the resin with its reserve, in the sizes that are sold.{" "}
            {plan.problems?.[0] && `Not whole yet: ${plan.problems[0].message}.`}
          </p>
        </div>
        {data.total != null && (
          <div className="text-right">
            <p className="fig text-[2.375rem] leading-none">{money(data.total)}</p>
            <p className="lab">
              {data.per_m2 != null && `${perArea(data.per_m2)}; ${units.text("area", data.area_m2)} in all; `}
              {data.unpriced.length > 0
                ? `without ${plural(data.unpriced.length, "line")} that ${data.unpriced.length > 1 ? "have" : "has"} no price`
                : "all of it priced"}
            </p>
          </div>
        )}
      </div>
      <StepCautions step="prepare" />
      <Aside lines={data.lines} />
      {data.lines.length === 0 && <p className="mt-4">Nothing to buy before there is a stack.</p>}
      <BuyLines lines={data.lines} leads={free.data?.lead} />
      <p className="mt-5 flex flex-wrap gap-x-4 text-[0.875rem]">
        <span className="lab self-center">Take it along: </span>
        {saving === "saved" && (
          <>
            <Prints job={job} file="buy">
              list
            </Prints>
            <Download href={`${at}/buy.csv`} name="to-buy.csv">
              CSV
            </Download>
          </>
        )}
        <Link to="/shelf" className="link inline-flex min-h-7 items-center self-center">
          sizes and prices are on the shelf
        </Link>
      </p>
    </main>
  );
}
