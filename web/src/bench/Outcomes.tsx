import { BigButton } from "./BigButton";
import { useBench } from "./useBench";

const outcomes = [
  ["good", "Good"],
  ["to be watched", "To be watched"],
  ["lost", "Lost"],
] as const;

/** How a run came out: that closes it. */
export function Outcomes() {
  const { tap } = useBench();
  return (
    <div className="mt-4 flex flex-wrap gap-4">
      {outcomes.map(([outcome, words]) => (
        <BigButton
          key={outcome}
          main={outcome === "good"}
          onClick={() => tap({ about: "run", subject: "", kind: "closed", data: { outcome } })}
        >
          {words}
        </BigButton>
      ))}
    </div>
  );
}
