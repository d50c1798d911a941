import type { QuickLine } from "../api/client";
import { Button } from "./Button";

type Problems = QuickLine["problems"];

/** What of a typed line could not be taken: underlined where it stands, told, with what could be taken in its place. */
export function LineProblems({
  text,
  problems,
  onTake,
}: {
  text: string;
  problems: Problems;
  onTake: (text: string) => void;
}) {
  if (!problems.length) return null;
  return (
    <>
      <Marked text={text} problems={problems} />
      {problems.map((problem) => (
        <p key={problem.start} className="text-stop">
          {problem.message}
          {problem.offers.map((offer) => (
            <Button
              edits
              key={offer}
              className="ml-2 min-h-9 text-ink"
              onClick={() => onTake(text.slice(0, problem.start) + offer + text.slice(problem.end))}
            >
              take {offer}
            </Button>
          ))}
        </p>
      ))}
    </>
  );
}

/** The line again, with what was not understood underlined where it stands. */
function Marked({ text, problems }: { text: string; problems: Problems }) {
  const pieces: React.ReactNode[] = [];
  let at = 0;
  for (const problem of problems) {
    pieces.push(text.slice(at, problem.start));
    pieces.push(
      <span
        key={problem.start}
        className="font-semibold text-stop underline decoration-wavy decoration-1 underline-offset-3"
      >
        {text.slice(problem.start, problem.end)}
      </span>,
    );
    at = problem.end;
  }
  return (
    <p className="text-ink-soft">
      {pieces}
      {text.slice(at)}
    </p>
  );
}
