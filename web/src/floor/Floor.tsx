import { useIsFetching, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { Link } from "react-router";
import { client, taken } from "../api/client";
import { plural } from "../format";
import { useNewVersionHere } from "../newVersion";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { Button } from "../ui/Button";
import { useTitle } from "../ui/useTitle";
import { DueList } from "./DueList";
import { JobList } from "./JobList";
import { LiveList } from "./LiveList";
import { NewJob } from "./NewJob";
import { PlainHeader } from "./PlainHeader";
import { Today } from "./Today";

/** Home: the room today, what is due, and the jobs with the next step of each. */
export function Floor() {
  useNewVersionHere();
  useTitle("Floor");
  const { shopId } = useSession();
  return (
    <>
      <PlainHeader />
      {shopId ? (
        <ShopProvider key={shopId} shopId={shopId}>
          <OnTheFloor />
        </ShopProvider>
      ) : (
        <main className="p-8">
          <h1 className="text-[1.375rem] font-semibold">No shop yet</h1>
          <p className="mt-2">Ask an owner for a link that lets you in.</p>
        </main>
      )}
    </>
  );
}

const BEHIND_MS = 1500;

function OnTheFloor() {
  const { shop } = useShop();
  const { preferences, session } = useSession();
  const jobs = useQuery({
    queryKey: ["jobs", shop.id, preferences.units],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/jobs", { params: { path: { shop_id: shop.id } } })),
    refetchOnMount: "always",
    // Jobs that are still being planned come in by and by.
    refetchInterval: ({ state }) => (state.data?.some(({ behind }) => behind) ? BEHIND_MS : false),
  });
  // At first the jobs wait for what stands above them, or they would move away under the finger.
  const shown = useRef(false);
  const arriving = useIsFetching({
    predicate: ({ queryKey, state }) =>
      ["day", "due", "live"].includes(String(queryKey[0])) && state.data === undefined,
  });
  if (jobs.data && arriving === 0) shown.current = true;
  const resins = [...new Set(jobs.data?.map((job) => job.resin_id).filter(Boolean))].join(" ");
  return (
    <main className="mx-auto max-w-[1320px] px-4 py-4 sm:px-6">
      <h1 className="sr-only">On the floor</h1>
      {/* On a phone what is live comes first; on a desk it stands beside the room. */}
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[1.75fr_1fr] lg:grid-rows-[auto_1fr]">
        <div className="min-w-0 lg:col-start-2 lg:row-start-1">
          <LiveList />
          <DueList />
        </div>
        <div className="min-w-0 lg:col-start-1 lg:row-span-2 lg:row-start-1">
          <Today resins={resins} />
        </div>
        <div className="min-w-0 space-y-7 lg:col-start-2 lg:row-start-2">
          {!shop.facts.room_read && (
            <p>
              Nobody has read the room yet.{" "}
              <Link to="/first" className="link">
                Before the first pot
              </Link>{" "}
              asks for the few things that every number goes by.
            </p>
          )}
          {shown.current && jobs.data && !session?.at_tablet && <NewJob shopId={shop.id} jobs={jobs.data} />}
        </div>
      </div>
      <h2 className="mt-5 text-[1.1875rem] font-semibold">Jobs</h2>
      {jobs.isError && <p className="text-stop">{jobs.error.message}</p>}
      {jobs.data?.length === 0 && (
        <p className="mt-3 max-w-[60ch]">
          No job yet. Name one above, say what surface it is and write its stack, such as <b>2x 450 csm, 600 biax</b>.
        </p>
      )}
      {shown.current && jobs.data && <JobList jobs={jobs.data} />}
      {shown.current && <PutAway />}
      {shown.current && <Deleted />}
    </main>
  );
}

/** The jobs that were taken off the floor; nothing of them is lost. */
function PutAway() {
  const { shop, day } = useShop();
  const away = useQuery({
    queryKey: ["put away", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/put-away", { params: { path: { shop_id: shop.id } } })),
    refetchOnMount: "always",
  });
  if (!away.data?.length) return null;
  return (
    <details className="mt-4">
      <summary className="min-h-8 cursor-pointer">{plural(away.data.length, "job")} put away</summary>
      <ul aria-label="Put away">
        {away.data.map((job) => (
          <li key={job.id} className="border-b border-rule-faint py-1.5">
            <Link to={`/jobs/${job.id}/log`} className="font-medium underline">
              {job.name || "Without a name"}
            </Link>{" "}
            <span className="lab">put away on {day(job.put_away_at)}; open it to take it out again, under Log</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** The jobs that were deleted, until they are gone for good. */
function Deleted() {
  const { shop, day, mayWrite } = useShop();
  const queries = useQueryClient();
  const deleted = useQuery({
    queryKey: ["deleted", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/deleted", { params: { path: { shop_id: shop.id } } })),
    refetchOnMount: "always",
  });
  const back = useMutation({
    mutationFn: (job_id: string) =>
      taken(client.POST("/api/jobs/{job_id}/bring-back", { params: { path: { job_id } } })),
    onSuccess: (left) => {
      queries.setQueryData(["deleted", shop.id], left);
      return queries.invalidateQueries({ queryKey: ["jobs"] });
    },
  });
  if (!deleted.data?.length) return null;
  return (
    <details className="mt-2">
      <summary className="min-h-8 cursor-pointer">{plural(deleted.data.length, "job")} deleted</summary>
      <ul aria-label="Deleted">
        {deleted.data.map((job) => (
          <li key={job.id} className="flex flex-wrap items-center gap-x-4 border-b border-rule-faint py-1.5">
            <span className="font-medium">{job.name || "Without a name"}</span>
            <span className="lab flex-1">
              deleted on {day(job.deleted_at)} by {job.deleted_by}, gone for good on {day(job.gone_at)}
            </span>
            {mayWrite && (
              <Button
                edits
                disabled={back.isPending}
                aria-label={`Bring back ${job.name}`}
                onClick={() => back.mutate(job.id)}
              >
                Bring it back
              </Button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
