import { useState } from "react";
import { Link } from "react-router";
import { useJob } from "../../job/context";
import { usePointedPath } from "../../job/usePointing";
import { Button } from "../../ui/Button";
import { Bag } from "./Bag";
import { Flow } from "./Flow";

/** What is laid under a bag: the bag in section and its hours; of what is infused the flow besides. */
export function VacuumStep() {
  const { document, job } = useJob();
  const pointed = usePointedPath();
  const parts = document.parts.filter((part) => part.process !== "open mould");
  const [, at = ""] = pointed.match(/^parts\.(\d+)/) ?? [];
  const [chosen, choose] = useState(document.parts[Number(at || -1)]?.id ?? "");
  const [view, see] = useState<"flow" | "bag">(/\.bag/.test(pointed) ? "bag" : "flow");
  const part = parts.find((each) => each.id === chosen) ?? parts[0];
  if (!part)
    return (
      <main className="p-6">
        <p>
          Nothing of this job lies under a bag.{" "}
          <Link to={`/jobs/${job.id}/measure`} className="link">
            Say under Measure that a part is laid by bag or infusion
          </Link>
          .
        </p>
      </main>
    );
  const index = document.parts.indexOf(part);
  const infused = part.process === "infusion";
  const shown = infused ? view : "bag";
  const more = (
    <>
      {parts.length > 1 &&
        parts.map((each) => (
          <Button key={each.id} aria-pressed={each.id === part.id} onClick={() => choose(each.id)}>
            {each.name || "Part"}
          </Button>
        ))}
      {infused && (
        <Button onClick={() => see(shown === "flow" ? "bag" : "flow")}>
          To the {shown === "flow" ? "bag" : "flow"}
        </Button>
      )}
    </>
  );
  return shown === "flow" ? (
    <Flow key={part.id} part={part} index={index} more={more} />
  ) : (
    <Bag key={part.id} part={part} index={index} more={more} />
  );
}
