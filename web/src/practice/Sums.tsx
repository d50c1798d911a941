import { type FormEvent, useId, useRef, useState } from "react";
import type { Sum } from "../api/client";
import { asRead, readNumber } from "../format";
import { Button } from "../ui/Button";
import { Told } from "../ui/Told";
import { WorkingSheet } from "../ui/Worked";
import { usePractice } from "./usePractice";

/** Sums of the bench, one after the other; each is worked out beside it once it was answered. */
export function Sums() {
  const { training, answer, more } = usePractice();
  const kinds = [...new Map(training.sums.map((sum) => [sum.kind, sum.title]))];
  const [kind, setKind] = useState("");
  const [done, setDone] = useState<string[]>([]);
  const left = training.sums.filter((sum) => !done.includes(sum.id) && (!kind || sum.kind === kind));
  const sum = left[0];
  const next = (asked: Sum) => {
    setDone([...done, asked.id]);
    // The last of its kind is asked anew, with other numbers.
    if (left.length === 1) void more();
  };
  return (
    <main className="px-4 py-5 lg:px-8">
      <h1 className="text-[1.375rem] font-semibold">Sums of the bench</h1>
      <p className="lab max-w-[72ch]">
        Work each out as you would at the bench, with a pencil or in your head. A sum counts by your first answer.
      </p>
      <div className="mt-4 grid items-start gap-x-10 gap-y-6 xl:grid-cols-[1fr_252px]">
        {sum ? (
          <OneSum
            key={sum.id}
            sum={sum}
            answer={(number) => answer({ thing: sum.id, number })}
            next={() => next(sum)}
          />
        ) : (
          <p>The next ones are being made. Out of the server’s reach there are no more of these.</p>
        )}
        <fieldset>
          <legend className="lab mb-1">Which sums</legend>
          <div className="flex flex-wrap gap-1.5 xl:grid xl:gap-0">
            {[["", "all of them"] as const, ...kinds].map(([id, title]) => (
              <button
                key={id}
                type="button"
                aria-pressed={kind === id}
                onClick={() => setKind(id)}
                className="min-h-9 rounded-(--radius) border border-rule bg-sheet px-2.5 text-left text-[0.8125rem] hover:border-ink aria-pressed:bg-ink aria-pressed:text-sheet xl:border-transparent xl:bg-transparent"
              >
                {title}
              </button>
            ))}
          </div>
        </fieldset>
      </div>
    </main>
  );
}

function OneSum({ sum, answer, next }: { sum: Sum; answer: (number: number) => Promise<unknown>; next: () => void }) {
  const id = useId();
  const [text, setText] = useState("");
  const [fault, setFault] = useState("");
  const [given, setGiven] = useState<number | null>(null);
  const on = useRef<HTMLButtonElement>(null);
  const right = given !== null && Math.abs(given - sum.answer) <= sum.near + 1e-9;
  async function check(event: FormEvent) {
    event.preventDefault();
    const value = readNumber(text);
    if (typeof value !== "number") return setFault("type a number, such as 12.5");
    setGiven(value);
    requestAnimationFrame(() => on.current?.focus());
    await answer(value);
  }
  return (
    <div>
      <form onSubmit={check} noValidate>
        <p className="text-[1.375rem] leading-snug">
          <Told>{sum.question}</Told>
        </p>
        <label htmlFor={id} className="mt-4 block text-[1.375rem] leading-snug font-semibold">
          {sum.asks}
        </label>
        <p className="lab mt-1">Near enough is {sum.near_words}.</p>
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <input
            id={id}
            value={text}
            inputMode="decimal"
            autoComplete="off"
            readOnly={given !== null}
            aria-invalid={fault ? true : undefined}
            onChange={(event) => {
              setText(event.target.value);
              setFault("");
            }}
            className={`fig h-16 w-44 rounded-(--radius) border bg-sheet px-3 text-[2.25rem] read-only:bg-floor ${fault ? "border-stop" : "border-rule hover:border-ink"}`}
          />
          <span className="text-[1.375rem] text-ink-soft">{sum.unit}</span>
          {given === null && (
            <Button type="submit" look="main" className="min-h-16 px-7 text-[1.125rem]">
              Check
            </Button>
          )}
        </div>
        {fault && (
          <p role="alert" className="mt-1 text-stop">
            {fault}
          </p>
        )}
        {given !== null && (
          <div role="status" className="mt-4">
            <p className="text-[1.375rem] font-semibold">
              {right ? "That is right." : `That is not it: it is ${exact(sum.answer)} ${sum.unit}.`}
            </p>
            <button
              type="button"
              ref={on}
              onClick={next}
              className="mt-3 min-h-14 rounded-(--radius) bg-ink px-7 text-[1.0625rem] font-semibold text-sheet hover:opacity-90"
            >
              The next one
            </button>
          </div>
        )}
      </form>
      {given !== null && (
        <section aria-label="How it is worked out" className="mt-6 max-w-[640px] border border-rule bg-sheet p-5">
          <WorkingSheet working={sum.working} />
        </section>
      )}
    </div>
  );
}

/** An answer to as many figures as a bench reads. */
const exact = (value: number) => asRead(Number(value.toPrecision(4)));
