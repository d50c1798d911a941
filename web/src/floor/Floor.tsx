import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, type JobSpec, type JobStrip, Refused, taken } from "../api/client";
import { MiniSection } from "../drawing/Section";
import { area, clock, day, plural } from "../format";
import { useSession } from "../session";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Sign } from "../ui/Sign";

export function Floor() {
  const { session, shopId, chooseShop, signOut } = useSession();
  const shop = session?.shops.find((other) => other.id === shopId);
  const jobs = useQuery({
    queryKey: ["jobs", shopId],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/jobs", { params: { path: { shop_id: shopId } } })),
    enabled: !!shopId,
    refetchOnMount: "always",
  });
  return (
    <>
      <header className="flex min-h-14 flex-wrap items-center gap-x-6 gap-y-2 border-b border-rule bg-sheet px-4 py-2">
        <div className="flex items-center gap-3">
          <Sign />
          <div>
            <div className="font-semibold leading-tight">Inch Cradle</div>
            <div className="lab leading-tight">{shop?.name ?? "no shop"}</div>
          </div>
        </div>
        <div className="ml-auto flex items-center gap-4">
          {session && session.shops.length > 1 && (
            <Choice
              label="Shop"
              hideLabel
              value={shopId}
              options={session.shops.map((other) => [other.id, other.name] as const)}
              onChange={chooseShop}
            />
          )}
          <Link to="/people" className="link text-[14px]">
            People
          </Link>
          <span className="lab">{session?.person}</span>
          <Button look="text" onClick={() => void signOut()}>
            Sign out
          </Button>
        </div>
      </header>
      <main className="mx-auto max-w-[1180px] px-4 py-7">
        <div className="mb-5 flex flex-wrap items-end justify-between gap-4">
          <h1 className="text-[26px] font-semibold">On the floor</h1>
          {shopId && (
            <div className="flex flex-wrap items-start gap-4">
              <NewJob shopId={shopId} />
              <FromFile shopId={shopId} />
            </div>
          )}
        </div>
        {jobs.isError && <p className="text-stop">{jobs.error.message}</p>}
        {jobs.data?.length === 0 && (
          <p className="max-w-[60ch]">
            No job yet. Name one above, say what surface it is and write its stack, such as <b>2x 450 csm, 600 biax</b>.
          </p>
        )}
        <ul className="border-t border-rule">
          {jobs.data?.map((job) => (
            <Strip key={job.id} job={job} />
          ))}
        </ul>
      </main>
    </>
  );
}

function Strip({ job }: { job: JobStrip }) {
  const to = `/jobs/${job.id}/${job.next_step.step}`;
  return (
    <li className="border-b border-rule">
      <Link
        to={to}
        className="grid items-center gap-x-6 gap-y-2 px-1 py-4 hover:bg-sheet sm:grid-cols-[120px_1fr_1.1fr]"
      >
        <MiniSection plies={job.plies} substrate={job.substrate} id={job.id} />
        <div>
          <div className="text-[19px] font-semibold">{job.name}</div>
          <div className="lab">
            {job.part_count ? `${plural(job.part_count, "part")} · ${area(job.total_area_m2)} m²` : "not measured"}
            {job.resin_name && ` · ${job.resin_name}`}
          </div>
        </div>
        <div>
          <div className="lab">Next</div>
          <div className="text-[17px] font-medium">{job.next_step.words}</div>
          <div className="lab">
            saved {day(job.saved_at)} {clock(job.saved_at)} by {job.saved_by}
          </div>
        </div>
      </Link>
    </li>
  );
}

function FromFile({ shopId }: { shopId: string }) {
  const go = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const load = useMutation({
    mutationFn: async (file: File) =>
      taken(
        client.POST("/api/shops/{shop_id}/jobs/from-file", {
          params: { path: { shop_id: shopId } },
          body: (await file.arrayBuffer()) as never,
          bodySerializer: (bytes: unknown) => bytes as ArrayBuffer,
          headers: { "Content-Type": "application/json" },
        }),
      ),
    onSuccess: (job) => go(`/jobs/${job.id}/measure`),
  });
  return (
    <div className="pt-[23px]">
      <input
        ref={picker}
        type="file"
        accept=".json,application/json"
        aria-label="A job file"
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) load.mutate(file);
          event.target.value = "";
        }}
      />
      <Button className="min-h-11" onClick={() => picker.current?.click()}>
        From a file
      </Button>
      {load.error instanceof Refused && (
        <div role="alert" className="mt-1 max-w-[340px] text-[13px] text-stop">
          {load.error.faults.slice(0, 4).map((fault) => (
            <p key={fault.path + fault.message}>
              {fault.path || "the file"} {fault.message}
            </p>
          ))}
          {load.error.faults.length > 4 && <p>and {load.error.faults.length - 4} more faults</p>}
        </div>
      )}
    </div>
  );
}

function NewJob({ shopId }: { shopId: string }) {
  const [name, setName] = useState("");
  const go = useNavigate();
  const start = useMutation({
    mutationFn: (title: string) =>
      taken(
        client.POST("/api/shops/{shop_id}/jobs", {
          params: { path: { shop_id: shopId } },
          body: { name: title } as JobSpec,
        }),
      ),
    onSuccess: (job) => go(`/jobs/${job.id}/measure`),
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    start.mutate(name.trim());
  }
  return (
    <form onSubmit={submit}>
      <div className="flex items-end gap-2">
        <div>
          <label htmlFor="new-job" className="lab mb-1 block">
            New job
          </label>
          <input
            id="new-job"
            value={name}
            maxLength={120}
            placeholder="its name"
            onChange={(event) => setName(event.target.value)}
            className="min-h-11 w-[min(320px,60vw)] rounded-(--radius) border border-rule bg-sheet px-3 hover:border-ink"
          />
        </div>
        <Button look="main" type="submit">
          Start
        </Button>
      </div>
      {start.isError && (
        <p role="alert" className="mt-1 text-[13px] text-stop">
          the name {start.error.message}
        </p>
      )}
    </form>
  );
}
