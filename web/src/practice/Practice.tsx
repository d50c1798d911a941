import { lazy, Suspense } from "react";
import { Link, useParams } from "react-router";
import { PlainHeader } from "../floor/PlainHeader";
import { asRead, plural } from "../format";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { useTitle } from "../ui/useTitle";
import { Waiting } from "../ui/Waiting";
import { FirstHour } from "./FirstHour";
import { PracticeContext, useTraining } from "./usePractice";

const Sums = lazy(() => import("./Sums").then(({ Sums: page }) => ({ default: page })));
const Pours = lazy(() => import("./Pours").then(({ Pours: page }) => ({ default: page })));
const Samples = lazy(() => import("./Samples").then(({ Samples: page }) => ({ default: page })));
const Day = lazy(() => import("./Day").then(({ Day: page }) => ({ default: page })));
const Glossary = lazy(() => import("./Glossary").then(({ Glossary: page }) => ({ default: page })));
const Learners = lazy(() => import("./Learners").then(({ Learners: page }) => ({ default: page })));

/** Where a learner loses pots on the screen instead of in the shop. */
export function PracticePage() {
  useTitle("Practice");
  const { shopId } = useSession();
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <Pieces />
      </ShopProvider>
    </>
  );
}

const pieces = [
  ["hour", "First hour"],
  ["sums", "Sums"],
  ["pour", "Pouring"],
  ["day", "A day on the clock"],
  ["samples", "What went wrong"],
  ["words", "Words of the trade"],
  ["record", "Your record"],
] as const;
type Piece = (typeof pieces)[number][0];
const TASK_OF: Partial<Record<Piece, string[]>> = {
  sums: ["sums"],
  pour: ["weigh", "rescue-pour", "marks", "hot"],
  samples: ["sample"],
  day: ["day"],
};

function Pieces() {
  const { shop } = useShop();
  const { piece = "hour" } = useParams();
  const { practice, error } = useTraining(shop.id);
  if (error && !practice)
    return (
      <main className="mx-auto max-w-[860px] px-4 py-6">
        <h1 className="text-[1.5rem] font-semibold">Practice</h1>
        <p className="mt-3">
          Practice was not opened on this device yet, and the server cannot be reached. Open it once with the server in
          reach: then it works without.
        </p>
      </main>
    );
  if (!practice) return <Waiting words="What there is to practise is being laid out" />;
  const { standing, waits } = practice;
  const state = (of: Piece) => {
    if (of === "hour") return `${standing.lessons.length} of ${practice.training.lessons.length} lessons`;
    if (of === "words") return "what each means";
    if (of === "record")
      return standing.times > 1 ? `pots ${asRead(standing.times)} times a beginner’s` : "a beginner’s pots";
    const tasks = standing.tasks.filter(({ id }) => TASK_OF[of]?.includes(id));
    if (!tasks.length) return "";
    const passed = tasks.filter((task) => task.passed).length;
    if (tasks.length > 1) return `${passed} of ${tasks.length} passed`;
    if (tasks[0]?.of === 1) return tasks[0].passed ? "passed" : "not passed yet";
    return tasks[0]?.passed ? "passed" : `${tasks[0]?.in_a_row} of ${tasks[0]?.of} in a row`;
  };
  return (
    <PracticeContext value={practice}>
      <div className="grid lg:grid-cols-[218px_1fr]">
        <nav
          aria-label="Pieces of practice"
          className="flex overflow-x-auto border-rule bg-floor max-lg:border-b lg:min-h-[calc(100dvh-57px)] lg:flex-col lg:border-r lg:py-3"
        >
          {pieces.map(([id, name]) => (
            <Link
              key={id}
              to={`/practice/${id}`}
              aria-current={piece === id ? "page" : undefined}
              className="min-h-11 shrink-0 border-transparent px-4 py-2 hover:bg-sheet aria-[current]:bg-sheet max-lg:border-b-3 lg:border-l-3 aria-[current]:border-ink"
            >
              <span className="block font-semibold whitespace-nowrap">{name}</span>
              <span className="lab block whitespace-nowrap">{state(id) || " "}</span>
            </Link>
          ))}
          <Link to="/lab" className="min-h-11 shrink-0 px-4 py-2 hover:bg-sheet lg:border-l-3 lg:border-transparent">
            <span className="block font-semibold whitespace-nowrap">Pot lab</span>
            <span className="lab block whitespace-nowrap">any pot, tried first</span>
          </Link>
        </nav>
        <div className="min-w-0">
          {waits > 0 && (
            <p role="status" className="border-b border-rule bg-floor px-4 py-2 text-[0.875rem]">
              {plural(waits, "answer")} {waits === 1 ? "waits" : "wait"} on this device until the server is in reach.
            </p>
          )}
          <Suspense fallback={<Waiting words="One moment" />}>
            <Shown piece={piece as Piece} />
          </Suspense>
        </div>
      </div>
    </PracticeContext>
  );
}

function Shown({ piece }: { piece: Piece }) {
  switch (piece) {
    case "sums":
      return <Sums />;
    case "pour":
      return <Pours />;
    case "day":
      return <Day />;
    case "samples":
      return <Samples />;
    case "words":
      return <Glossary />;
    case "record":
      return <Learners />;
    default:
      return <FirstHour />;
  }
}
