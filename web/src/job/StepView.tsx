import { type ComponentType, useEffect, useState } from "react";
import type { Step } from "../api/client";
import { Waiting } from "../ui/Waiting";

/** A screen of the job: one of its steps, or beside them. */
type Screen = Step | "buy" | "lab";

const parts: Record<Screen, () => Promise<ComponentType>> = {
  measure: async () => (await import("../steps/laminate/Measure")).MeasureStep,
  stack: async () => (await import("../steps/laminate/Stack")).StackStep,
  cut: async () => (await import("../steps/Cut")).CutStep,
  prepare: async () => (await import("../steps/Prepare")).PrepareStep,
  buy: async () => (await import("../steps/Buy")).BuyStep,
  chemistry: async () => (await import("../steps/Chemistry")).ChemistryStep,
  joints: async () => (await import("../steps/joints/Joints")).JointsStep,
  pours: async () => (await import("../steps/pours/Pours")).PoursStep,
  bag: async () => (await import("../steps/vacuum/Vacuum")).VacuumStep,
  finish: async () => (await import("../steps/finish/Finish")).FinishStep,
  lab: async () => (await import("../steps/Lab")).LabStep,
  pots: async () => (await import("../steps/Pots")).PotsStep,
  ticket: async () => (await import("../steps/Ticket")).TicketStep,
  log: async () => (await import("../steps/Log")).LogStep,
};
const here = new Map<string, ComponentType>();
const AGAIN_MS = 3000;

export const isStep = (step: string): step is Screen => Object.hasOwn(parts, step);

async function bring(step: string): Promise<void> {
  if (isStep(step) && !here.has(step)) here.set(step, await parts[step]());
}

/** The others come one by one while nobody waits, so that a network that goes away takes no step with it. */
async function bringTheRest(): Promise<void> {
  for (const step of Object.keys(parts)) {
    await new Promise((idle) => (window.requestIdleCallback ?? setTimeout)(idle));
    await bring(step);
  }
  await import("../floor/Floor");
}

/** One step's screen, fetched when it is first gone to; says so where the network keeps it away. */
export function StepView({ step }: { step: string }) {
  // What has come since the last look is not known to the compiler.
  "use no memo";
  const [, arrived] = useState(0);
  const [away, setAway] = useState(false);
  useEffect(() => {
    let left = false;
    let again = 0;
    const tryIt = async () => {
      try {
        await bring(step);
        if (left) return;
        setAway(false);
        arrived((count) => count + 1);
        bringTheRest().catch(() => undefined);
      } catch {
        if (left) return;
        setAway(true);
        again = window.setTimeout(tryIt, AGAIN_MS);
      }
    };
    void tryIt();
    return () => {
      left = true;
      window.clearTimeout(again);
    };
  }, [step]);
  const Step = here.get(step);
  if (Step) return <Step />;
  if (!away) return <Waiting words="The step is being fetched" />;
  return (
    <main className="mx-auto max-w-[600px] p-8">
      <h1 className="text-[1.375rem] font-semibold">The network is away</h1>
      <p role="alert" className="mt-2">
        This step was not opened before, so it is not on this screen yet. It opens by itself when the network is back;
        what you typed is kept.
      </p>
      <button type="button" className="link mt-4" onClick={() => window.location.reload()}>
        Load the page again
      </button>
    </main>
  );
}
