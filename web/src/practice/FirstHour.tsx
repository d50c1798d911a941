import { useRef, useState } from "react";
import { Link } from "react-router";
import type { LessonOut, Marked, PourTask, Schemas } from "../api/client";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { FormContext } from "../ui/form";
import { NumberField } from "../ui/NumberField";
import { QuantityField } from "../ui/QuantityField";
import { Told } from "../ui/Told";
import { useLocalForm } from "../ui/useLocalForm";
import { WorkingSheet } from "../ui/Worked";
import { usePractice } from "./usePractice";

type Asked = Schemas["Asked"];

/** Eight short lessons with a kit and a sheet of glass; each ends with a figure of the shop's own. */
export function FirstHour() {
  const { training, standing } = usePractice();
  const first = training.lessons.find(({ lesson }) => !standing.lessons.includes(lesson.id))?.lesson.id;
  const [open, setOpen] = useState(first ?? "");
  return (
    <main className="px-4 py-5 lg:px-8">
      <h1 className="text-[1.375rem] font-semibold">A first hour with a kit</h1>
      <p className="lab max-w-[78ch]">
        You need a kit of resin and hardener, a scale, ten small cups, some fabric, and a sheet of glass with wax on it.
        {training.lessons.length} short lessons; the last one is on the next day. Each ends with a figure of your own.
      </p>
      <ol className="mt-4">
        {training.lessons.map((each, at) => (
          <li key={each.lesson.id} className="border-t border-rule last:border-b">
            <h2>
              <button
                type="button"
                aria-expanded={open === each.lesson.id}
                onClick={() => setOpen(open === each.lesson.id ? "" : each.lesson.id)}
                className="grid min-h-14 w-full grid-cols-[44px_1fr] items-baseline gap-x-2 py-2.5 text-left hover:bg-floor md:grid-cols-[44px_300px_1fr]"
              >
                <span className="fig text-right text-[1.5rem] leading-none text-ink-soft">{at + 1}</span>
                <span className="text-[1.125rem] font-semibold">{each.lesson.title}</span>
                <span className="max-md:col-start-2">
                  {each.written ? (
                    <span className="text-cool">{each.written}</span>
                  ) : (
                    <span className="lab">{each.lesson.minutes} min</span>
                  )}
                </span>
              </button>
            </h2>
            {open === each.lesson.id && <OneLesson key={each.lesson.id} told={each} />}
          </li>
        ))}
      </ol>
    </main>
  );
}

function OneLesson({ told: { lesson, asks } }: { told: LessonOut }) {
  return (
    <div className="grid gap-x-10 gap-y-5 pt-1 pb-6 md:pl-[52px] xl:grid-cols-[1.15fr_1fr]">
      <div className="max-w-[66ch]">
        {lesson.reads.map((words) => (
          <p key={words} className="mb-2.5 text-[1.0625rem] leading-relaxed">
            <Told>{words}</Told>
          </p>
        ))}
        <h3 className="mt-4 mb-1 text-[1.0625rem] font-semibold">Now do it</h3>
        <ol className="list-decimal space-y-1.5 pl-5 text-[1.0625rem] leading-relaxed">
          {lesson.does.map((words) => (
            <li key={words}>
              <Told>{words}</Told>
            </li>
          ))}
        </ol>
        <p className="lab mt-3">Source: {lesson.source}. The data sheet of your own product wins.</p>
      </div>
      <div>
        <FigureOf lessonId={lesson.id} asks={asks} />
        <Practised of={lesson.practise} />
      </div>
    </div>
  );
}

const placeOf = (kind: string, pours: PourTask[]) =>
  kind === "sample" ? "samples" : pours.some((task) => task.kind === kind) ? "pour" : "sums";

/** What belongs to a lesson and is practised on the screen. */
function Practised({ of }: { of: Record<string, number> }) {
  const { training } = usePractice();
  const named = (kind: string) =>
    kind === "sample"
      ? "What went wrong"
      : ([...training.sums, ...training.pours].find((each) => each.kind === kind)?.title ?? kind);
  return (
    <section aria-label="To practise on the screen" className="mt-5">
      <h3 className="text-[1.0625rem] font-semibold">And on the screen</h3>
      <ul>
        {Object.entries(of).map(([kind, count]) => (
          <li key={kind}>
            <Link to={`/practice/${placeOf(kind, training.pours)}`} className="link inline-block min-h-9 py-1.5">
              {named(kind)}
            </Link>
            <span className="lab ml-2">{count === 1 ? "once right" : `${count} right in a row`}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What was read at the bench, and the figure it comes to. */
function FigureOf({ lessonId, asks }: { lessonId: string; asks: Asked[] }) {
  const { answer, more } = usePractice();
  const { shop } = useShop();
  const { form, attempt, settled } = useLocalForm(`lesson.${shop.id}.${lessonId}`);
  const [read, setRead] = useState<Record<string, number>>({});
  const [marked, setMarked] = useState<Marked | null>(null);
  const [late, setLate] = useState(false);
  // What is read while somebody waits for it is in hand before the next drawing.
  const latest = useRef(read);
  const set = (name: string, value: number | null) => {
    const { [name]: _, ...others } = latest.current;
    latest.current = value === null ? others : { ...others, [name]: value };
    setRead(latest.current);
  };
  async function work() {
    await settled();
    await attempt(async () => {
      const told = await answer({ thing: lessonId, read: latest.current });
      setMarked(told);
      setLate(told === null);
      if (told) await more();
    });
  }
  return (
    <FormContext.Provider value={form}>
      <section aria-label="A figure of your own" className="border border-rule bg-sheet p-4">
        <h3 className="text-[1.0625rem] font-semibold">What you read</h3>
        <div className="mt-2 grid items-start gap-3 sm:grid-cols-2">
          {asks.map((asked) =>
            asked.dimension === "count" ? (
              <NumberField
                key={asked.name}
                label={asked.label}
                path={asked.name}
                value={read[asked.name]}
                step={0.1}
                onCommit={(value) => set(asked.name, value)}
              />
            ) : (
              <QuantityField
                key={asked.name}
                label={asked.label}
                path={asked.name}
                fieldKey={asked.name}
                dimension={asked.dimension}
                value={read[asked.name]}
                optional
                onCommit={(value) => set(asked.name, value)}
              />
            ),
          )}
        </div>
        <Button look="main" className="mt-3" onClick={() => void work()}>
          Work it out
        </Button>
        {late && <p className="mt-3">It is worked out when the server is in reach again.</p>}
        {marked?.figure && (
          <div role="status" className="mt-4">
            <p className="mb-3 text-[1.25rem] leading-snug font-semibold">{marked.figure.words}.</p>
            <WorkingSheet working={marked.figure.working} />
          </div>
        )}
      </section>
    </FormContext.Provider>
  );
}
