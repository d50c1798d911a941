import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, Navigate, useParams } from "react-router";
import { client, type Job, type Library, type Shop, taken } from "../api/client";
import { ChemistryStep } from "../steps/Chemistry";
import { JointsStep } from "../steps/Joints";
import { LogStep } from "../steps/Log";
import { MeasureStep } from "../steps/Measure";
import { PotsStep } from "../steps/Pots";
import { StackStep } from "../steps/Stack";
import { TicketStep } from "../steps/Ticket";
import { CautionTally } from "../ui/Cautions";
import { Sign } from "../ui/Sign";
import { ConditionsStrip } from "./ConditionsStrip";
import { ConflictDialog } from "./ConflictDialog";
import { JobContext, useJob, Words } from "./context";
import { useDraft } from "./draft";
import { SavingState } from "./SavingState";
import { StepsRow } from "./StepsRow";

const screens: Record<string, () => React.JSX.Element> = {
  measure: MeasureStep,
  stack: StackStep,
  chemistry: ChemistryStep,
  joints: JointsStep,
  pots: PotsStep,
  ticket: TicketStep,
  log: LogStep,
};

export function JobPage() {
  const { jobId = "", step } = useParams();
  const job = useQuery({
    queryKey: ["job", jobId],
    queryFn: () => taken(client.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId } } })),
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const library = useQuery({
    queryKey: ["library"],
    queryFn: () => taken(client.GET("/api/library")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const shopId = job.data?.shop_id;
  const shop = useQuery({
    queryKey: ["shop", shopId],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}", { params: { path: { shop_id: shopId ?? "" } } })),
    enabled: !!shopId,
  });
  if (job.isError) return <Lost message={job.error.message} />;
  if (!job.data || !library.data || !shop.data) return null;
  if (!step || !screens[step]) return <Navigate to={`/jobs/${jobId}/measure`} replace />;
  return <Desk key={jobId} job={job.data} library={library.data} shop={shop.data} step={step} />;
}

function Lost({ message }: { message: string }) {
  return (
    <main className="p-8">
      <h1 className="text-[22px] font-semibold">This job cannot be opened</h1>
      <p className="mt-2">It is not one of your shop's, or it is gone ({message}).</p>
      <Link to="/" className="link mt-4 inline-block">
        Back to the floor
      </Link>
    </main>
  );
}

function Desk({ job, library, shop, step }: { job: Job; library: Library; shop: Shop; step: string }) {
  const draft = useDraft(job);
  const [pending] = useState(() => new Words(`inch-cradle.words.${job.id}`));
  const hold = useMemo(() => ({ ...draft, library, shop, pending }), [draft, library, shop, pending]);
  const Screen = screens[step] ?? MeasureStep;
  return (
    <JobContext.Provider value={hold}>
      <TopBar />
      <StepsRow step={step} />
      <Screen />
      {draft.conflicts && <ConflictDialog conflicts={draft.conflicts} />}
    </JobContext.Provider>
  );
}

function TopBar() {
  const { document, plan, job } = useJob();
  return (
    <header className="flex flex-wrap items-stretch border-b border-rule bg-sheet">
      <Link
        to="/"
        className="flex min-w-[200px] items-center gap-3 border-rule px-4 py-2 hover:bg-rule-faint max-md:flex-1 md:border-r"
        title="Back to the floor"
      >
        <Sign />
        <span className="min-w-0">
          <span className="block font-semibold leading-tight">Inch Cradle</span>
          <span className="lab block max-w-[170px] truncate leading-tight">{document.name}</span>
        </span>
      </Link>
      <ConditionsStrip />
      <div className="flex items-center gap-3 border-rule px-4 py-2 max-md:order-2 md:order-3 md:ml-auto md:border-l">
        <SavingState />
        <CautionTally cautions={plan.cautions ?? []} jobId={job.id} />
      </div>
    </header>
  );
}
