import { Link } from "react-router";
import type { Caution } from "../api/client";
import { BigButton } from "./BigButton";
import { useBench } from "./useBench";

/** Before the first peroxide of a run, and for each new person at the bench: a screen of its own. */
export function Goggles({ peroxide }: { peroxide: Caution }) {
  const { tap, bench } = useBench();
  return (
    <main className="min-h-dvh bg-floor px-5 py-8 text-[1.375rem] text-ink">
      <div className="mx-auto max-w-[900px]">
        <p className="font-semibold text-stop">Peroxide catalyst</p>
        <h1 className="mt-1 text-[clamp(2.25rem,6vw,3.5rem)] leading-[1.05] font-semibold">
          Goggles on, before the bottle is opened
        </h1>
        <p className="mt-5">{peroxide.reason}</p>
        <ul className="mt-4 space-y-2">
          {(peroxide.points.length ? peroxide.points : [peroxide.do]).map((point) => (
            <li key={point} className="border-l-2 border-ink pl-3">
              {point}
            </li>
          ))}
        </ul>
        <div className="mt-8 flex flex-wrap gap-4">
          <BigButton main onClick={() => tap({ about: "run", subject: "", kind: "goggles on" })}>
            My goggles are on
          </BigButton>
          <Link to={`/jobs/${bench.job_id}/ticket`} className="link flex min-h-16 items-center px-3">
            Leave the bench
          </Link>
        </div>
      </div>
    </main>
  );
}
