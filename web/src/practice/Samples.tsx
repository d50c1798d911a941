import { useState } from "react";
import type { Sample } from "../api/client";
import { BigButton } from "../bench/BigButton";
import { Told } from "../ui/Told";
import { usePractice } from "./usePractice";

/** Samples by their signs: what went wrong with each, or nothing. */
export function Samples() {
  const { training, answer, more } = usePractice();
  const [done, setDone] = useState<string[]>([]);
  const left = training.samples.filter((sample) => !done.includes(sample.id));
  const sample = left[0];
  return (
    <main className="px-4 py-5 lg:px-8">
      <h1 className="text-[1.375rem] font-semibold">What went wrong here?</h1>
      <p className="lab max-w-[72ch]">
        A sample lies on the bench, and this is what it shows. One cause fits all of it better than the others; one
        sample in six is good.
      </p>
      {sample ? (
        <OneSample
          key={sample.id}
          sample={sample}
          answer={(choice) => answer({ thing: sample.id, choice })}
          next={() => {
            setDone([...done, sample.id]);
            if (left.length === 1) void more();
          }}
        />
      ) : (
        <p className="mt-6">The next ones are being made. Out of the server’s reach there are no more.</p>
      )}
    </main>
  );
}

function OneSample({
  sample,
  answer,
  next,
}: {
  sample: Sample;
  answer: (choice: string) => Promise<unknown>;
  next: () => void;
}) {
  const [chosen, choose] = useState("");
  const named = (id: string) => sample.choices.find((choice) => choice.id === id)?.name;
  return (
    <div className="mt-5 grid items-start gap-x-10 gap-y-6 lg:grid-cols-2">
      <section aria-label="The sample">
        <dl>
          {sample.signs.map((sign) => (
            <div key={sign.question} className="border-t border-rule py-2.5">
              <dt className="lab">
                {sign.asked}
                {sign.test && <span className="ml-2">(tried)</span>}
              </dt>
              <dd className="text-[1.25rem] leading-snug font-semibold">{sign.shown}</dd>
            </div>
          ))}
        </dl>
      </section>
      <section aria-label="Its cause">
        <h2 className="text-[1.125rem] font-semibold">What happened to it?</h2>
        <div className="mt-2 grid gap-2">
          {sample.choices.map((choice) => {
            const right = chosen && choice.id === sample.cause;
            return (
              <button
                key={choice.id}
                type="button"
                disabled={!!chosen}
                aria-pressed={chosen === choice.id}
                onClick={() => {
                  choose(choice.id);
                  void answer(choice.id);
                }}
                className={`min-h-14 rounded-(--radius) border px-4 py-2 text-left text-[1.0625rem] ${
                  !chosen
                    ? "border-rule bg-sheet hover:border-ink"
                    : right
                      ? "border-ink bg-ink text-sheet"
                      : chosen === choice.id
                        ? "border-ink"
                        : "border-rule text-ink-soft"
                }`}
              >
                {choice.name}
                {chosen && !right && sample.against[choice.id] && (
                  <span className="block text-[0.875rem]">{sample.against[choice.id]}</span>
                )}
              </button>
            );
          })}
        </div>
        {chosen && (
          <div role="status" className="mt-4 border-t border-rule pt-3">
            <p className="text-[1.375rem] font-semibold">
              {chosen === sample.cause ? "That is it." : `It is this: ${named(sample.cause)?.toLowerCase()}.`}
            </p>
            <p className="mt-1">
              <Told>{sample.says}</Told>
            </p>
            <p className="mt-1">{sample.record}</p>
            <p className="lab mt-1">Source: {sample.source}</p>
            <div className="mt-3">
              <BigButton next edits={false} onClick={next}>
                The next one
              </BigButton>
            </div>
          </div>
        )}
      </section>
    </div>
  );
}
