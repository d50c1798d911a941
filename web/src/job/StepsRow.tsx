import { useEffect, useRef } from "react";
import { Link } from "react-router";
import type { Plan, Step } from "../api/client";
import { area, fixed, massText, minutes, plural } from "../format";
import { useJob } from "./context";

const names: Record<Step, string> = {
  measure: "Measure",
  stack: "Stack",
  chemistry: "Chemistry",
  joints: "Joints",
  pots: "Pots",
  ticket: "Ticket",
  log: "Log",
};

/** Each step's own headline, so that the row reads as the plan in one line. */
function headline(step: Step, plan: Plan): string {
  const parts = plan.parts ?? [];
  switch (step) {
    case "measure": {
      const count = parts.reduce((sum, part) => sum + part.count, 0);
      const total = parts.reduce((sum, part) => sum + part.total_area_m2, 0);
      return count ? `${plural(count, "part")} · ${area(total)} m²` : "no part yet";
    }
    case "stack": {
      const most = Math.max(0, ...parts.map((part) => part.plies.length));
      const thick = Math.max(0, ...parts.map((part) => part.thickness_mm));
      return most ? `${plural(most, "ply", "plies")} · ${fixed(thick, 1)} mm` : "no ply yet";
    }
    case "chemistry": {
      const chemistry = plan.chemistry;
      if (!chemistry) return "no resin yet";
      if (chemistry.dose) return `${fixed(chemistry.dose.catalyst_pct, 2)} % · ${minutes(chemistry.dose.gel_min)} min`;
      const chosen = chemistry.hardeners.find((hardener) => hardener.chosen);
      return chosen
        ? `${chosen.name} · ${minutes(chemistry.life_min ?? chosen.pot_life_min ?? 0)} min`
        : "none for this cold";
    }
    case "joints": {
      const joints = plan.joints ?? [];
      const paste = joints.reduce((sum, joint) => sum + joint.paste_ml, 0);
      return joints.length ? `${fixed(paste, 0)} ml paste` : "not measured";
    }
    case "pots":
      if (plan.stuck?.length) return "no pot fits";
      return plan.pot_count ? `${plural(plan.pot_count, "pot")} · ${massText(plan.resin?.mixed_g ?? 0)}` : "none yet";
    case "ticket":
      return plan.pots?.[0] ? `first ${massText(plan.pots[0].mass_g)}` : "none yet";
    default:
      return "what was done";
  }
}

export function StepsRow({ step: current }: { step: string }) {
  const row = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the current step moves, and the row follows
  useEffect(() => {
    window.scrollTo(0, 0);
    row.current?.querySelector("[aria-current]")?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [current]);
  const { plan, document, job } = useJob();
  const steps = (Object.keys(names) as Step[]).filter(
    (step) => step !== "joints" || document.joints.length > 0 || current === "joints",
  );
  const waiting = (step: Step) => plan.problems?.some((problem) => problem.step === step);
  const stopped = (step: Step) =>
    plan.cautions?.some((caution) => caution.step === step && caution.severity === "stop");
  return (
    <nav ref={row} aria-label="Steps" className="flex overflow-x-auto border-b border-rule">
      {steps.map((step) => (
        <Link
          key={step}
          to={`/jobs/${job.id}/${step}`}
          aria-current={step === current ? "step" : undefined}
          className="relative min-w-[128px] flex-1 border-r border-rule px-3.5 py-2 last:border-r-0 hover:bg-sheet aria-[current]:bg-sheet aria-[current]:shadow-[inset_0_-3px_0_var(--color-ink)]"
        >
          <span className="flex items-center justify-between gap-2">
            <span className="lab">{names[step]}</span>
            {stopped(step) ? (
              <span className="text-[12.5px] font-semibold text-stop">stop</span>
            ) : waiting(step) ? (
              <span className="text-[12.5px] text-resin-ink">to do</span>
            ) : null}
          </span>
          <span className="fig block truncate text-[16px]">{headline(step, plan)}</span>
        </Link>
      ))}
    </nav>
  );
}
