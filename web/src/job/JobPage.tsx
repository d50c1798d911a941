import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import { client, type Job, type Library, type Step, taken } from "../api/client";
import { type KeyAction, useKeys } from "../keys";
import { PersonMenu, unitSets } from "../PersonMenu";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { Choice } from "../ui/Choice";
import { type Form, FormContext, Words } from "../ui/form";
import { Sign } from "../ui/Sign";
import { useTitle } from "../ui/useTitle";
import { Waiting } from "../ui/Waiting";
import { Explained } from "../ui/Worked";
import { COLDEST_C, ConditionsStrip, WARMEST_C } from "./ConditionsStrip";
import { ConflictDialog } from "./ConflictDialog";
import { JobContext, useJob } from "./context";
import { withOlderDraft } from "./draft/olderDraft";
import { type Draft, useDraft } from "./draft/useDraft";
import { Hints } from "./Hints";
import { CautionTally } from "./JobCautions";
import { SavingState, UndoRedo, Unwritten } from "./SavingState";
import { StepsRow, useSteps } from "./StepsRow";
import { isStep, StepView } from "./StepView";
import { names } from "./stepNames";
import { usePointing } from "./usePointing";

export function JobPage() {
  const { jobId = "", step } = useParams();
  const job = useQuery({
    queryKey: ["job", jobId],
    queryFn: async () =>
      withOlderDraft(await taken(client.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId } } }))),
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const shopId = job.data?.shop_id ?? "";
  const library = useQuery({
    queryKey: ["library", shopId],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/library", { params: { path: { shop_id: shopId } } })),
    enabled: !!shopId,
  });
  if (job.isError) return <Lost message={job.error.message} />;
  if (!job.data || !library.data) return <Waiting words="The job is being worked out" />;
  if (!step || !isStep(step)) return <Navigate to={`/jobs/${jobId}/measure`} replace />;
  return (
    <ShopProvider shopId={job.data.shop_id}>
      <Desk key={jobId} job={job.data} library={library.data} step={step} />
    </ShopProvider>
  );
}

function Lost({ message }: { message: string }) {
  return (
    <main className="p-8">
      <h1 className="text-[1.375rem] font-semibold">This job cannot be opened</h1>
      <p className="mt-2">It is not one of your shop's, or it is gone ({message}).</p>
      <Link to="/" className="link mt-4 inline-block">
        Back to the floor
      </Link>
    </main>
  );
}

/** What was said about each field of the job: by the last save, or by the plan that waits for it. */
function useJobForm({ faults, plan, job }: Draft): Form {
  const [pending] = useState(() => new Words(`inch-cradle.words.${job.id}`));
  return useMemo(
    () => ({
      pending,
      fault: (path) => {
        const refused = faults.find((fault) => fault.path === path);
        if (refused) return { message: refused.message, refused: true };
        const missing = plan.problems?.find((problem) => problem.path === path);
        return missing ? { message: missing.message, refused: missing.wrong ?? false } : null;
      },
    }),
    [faults, plan.problems, pending],
  );
}

function Desk({ job, library, step }: { job: Job; library: Library; step: string }) {
  const draft = useDraft(job);
  const form = useJobForm(draft);
  const hold = useMemo(() => ({ ...draft, library }), [draft, library]);
  const { preferences } = useSession();
  const planned = useRef(preferences.units);
  const { replan, document, triedRoomC } = draft;
  useEffect(() => {
    if (planned.current === preferences.units) return;
    planned.current = preferences.units;
    void replan();
  }, [preferences.units, replan]);
  const explain = useMemo(
    () => (about: string) =>
      taken(
        client.POST("/api/jobs/{job_id}/working", {
          params: { path: { job_id: job.id } },
          body: { about, document, room_c: triedRoomC, leaner: false },
        }),
      ),
    [job.id, document, triedRoomC],
  );
  return (
    <JobContext.Provider value={hold}>
      <FormContext.Provider value={form}>
        <Explained explain={explain}>
          <Screen step={step} />
        </Explained>
      </FormContext.Provider>
    </JobContext.Provider>
  );
}

/** Names the place in the tab, and leads keys and readers into a step that was gone to. */
function useArrival(step: string, job: string): string {
  const place = names[step as Step] ?? (step === "buy" ? "To buy" : "Pot lab");
  useTitle(place, job);
  const at = useRef(step);
  useEffect(() => {
    if (at.current === step) return;
    at.current = step;
    const into = window.document.getElementById("step");
    // Only from where the step was chosen: a field that it put the cursor in, or a hand gone elsewhere, keeps it.
    const on = window.document.activeElement;
    if (on === window.document.body || on?.closest("nav")) into?.focus({ preventScroll: true });
  }, [step]);
  return place;
}

function Screen({ step }: { step: string }) {
  const { conflicts, plan, document: named } = useJob();
  const { list, panel } = useKeys(useJobKeys());
  usePointing(plan);
  const place = useArrival(step, named.name);
  return (
    <>
      <a href="#step" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-3">
        To the step
      </a>
      <div aria-live="polite" className="sr-only">
        {place}
      </div>
      <TopBar onKeys={list} />
      <StepsRow step={step} />
      <Unwritten />
      <Hints />
      <div id="step" tabIndex={-1} className="outline-none">
        <StepView step={step} />
      </div>
      {panel}
      {conflicts && <ConflictDialog conflicts={conflicts} />}
    </>
  );
}

function useJobKeys(): KeyAction[] {
  const { job, plan, triedRoomC, tryRoom } = useJob();
  const { units } = useShop();
  const go = useNavigate();
  const degree = units.unit("temperature") === "°C" ? 1 : 5 / 9;
  const scrub = (by: number) =>
    tryRoom(Math.min(WARMEST_C, Math.max(COLDEST_C, (triedRoomC ?? plan.conditions.room_c) + by)));
  return [
    ...useSteps().map(({ step }, at) => ({
      keys: `g ${at + 1}`,
      words: step,
      act: () => void go(`/jobs/${job.id}/${step}`),
    })),
    { keys: "g 0", words: "the floor", act: () => void go("/") },
    {
      keys: "q",
      words: "the quick line",
      act: () => void go(`/jobs/${job.id}/stack`, { state: { at: "quick-line" } }),
    },
    { keys: "[", words: "one degree cooler", act: () => scrub(-degree) },
    { keys: "]", words: "one degree warmer", act: () => scrub(degree) },
    { keys: "Escape", words: "let the temperature spring back", act: () => tryRoom(null) },
    { keys: "p", words: "print", act: () => window.print() },
  ];
}

function TopBar({ onKeys }: { onKeys: () => void }) {
  const { document } = useJob();
  const { preferences, prefer } = useSession();
  return (
    <header className="flex flex-wrap items-stretch border-b border-rule bg-sheet">
      <div className="flex min-w-0 items-center gap-1 border-rule py-1.5 pr-3 pl-4 max-xl:flex-1 xl:border-r">
        <Link to="/" className="shrink-0 pr-2 hover:opacity-70" aria-label="Inch Cradle, back to the floor">
          <Sign />
        </Link>
        <div className="min-w-0 flex-1">
          <p className="max-w-[172px] truncate font-semibold leading-tight max-xl:max-w-[300px] max-md:max-w-[130px]">
            {document.name}
          </p>
          <SavingState />
        </div>
        <UndoRedo />
      </div>
      <ConditionsStrip />
      <div className="order-2 flex items-center gap-3 border-rule py-1.5 pr-4 pl-3 xl:order-3 xl:border-l">
        <CautionTally />
        <div className="max-md:hidden">
          <Choice
            looks
            label="Units"
            hideLabel
            value={preferences.units}
            options={unitSets}
            onChange={(units) => prefer({ units })}
            small
          />
        </div>
        <PersonMenu onKeys={onKeys} />
      </div>
    </header>
  );
}
