import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, taken } from "../api/client";
import { Keypad } from "../bench/Keypad";
import { useSession } from "../session";
import { useTitle } from "../ui/useTitle";

type Here = Schemas["HereOut"];
const MOST_DIGITS = 6;
type Worker = Schemas["WorkerOut"];

/** At a tablet of the bench: who works here, by initials, with a short number where he has one. */
export function WhoWorks({ here, onPassword }: { here: Here; onPassword: () => void }) {
  useTitle("Who works here?");
  const { keep } = useSession();
  const [asked, ask] = useState<Worker | null>(null);
  const [number, setNumber] = useState("");
  const begin = useMutation({
    mutationFn: (work: { person: string; number: string }) => taken(client.POST("/api/devices/work", { body: work })),
    onSuccess: keep,
    onError: () => setNumber(""),
  });
  return (
    <main className="mx-auto flex min-h-dvh max-w-[900px] flex-col px-5 py-8">
      <p className="text-[1.125rem] text-ink-soft">
        {here.shop}, {here.name}
      </p>
      <h1 className="text-[2.25rem] leading-tight font-semibold">Who works here?</h1>
      <ul className="mt-6 flex flex-wrap gap-4">
        {here.people.map((each) => (
          <li key={each.person}>
            <button
              type="button"
              aria-label={each.person}
              aria-pressed={asked?.person === each.person}
              onClick={() => {
                setNumber("");
                if (each.by_number) ask(each);
                else begin.mutate({ person: each.person, number: "" });
              }}
              className="grid min-h-32 min-w-32 content-center justify-items-center rounded-(--radius) border-2 border-ink px-4 hover:bg-sheet aria-pressed:bg-ink aria-pressed:text-floor"
            >
              <span className="fig text-[3rem] leading-none">{each.initials}</span>
              <span className="mt-1 text-[1.0625rem]">{each.person}</span>
              {each.lacks_number && <span className="text-[0.9375rem]">no short number yet</span>}
            </button>
          </li>
        ))}
      </ul>
      {asked && (
        <section aria-label={`Short number of ${asked.person}`} className="mt-6 w-[270px]">
          <p className="text-[1.25rem]">Short number of {asked.person}</p>
          <p className="fig mb-2 min-h-14 text-[3rem] leading-none tracking-[0.2em]">{"•".repeat(number.length)}</p>
          <Keypad whole label="Short number" text={number} onText={(next) => setNumber(next.slice(0, MOST_DIGITS))} />
          <button
            type="button"
            onClick={() => begin.mutate({ person: asked.person, number })}
            disabled={number.length < 4}
            className="mt-3 min-h-16 w-full rounded-(--radius) bg-ink text-[1.25rem] font-semibold text-floor disabled:opacity-50"
          >
            Begin
          </button>
        </section>
      )}
      <p role="alert" className="mt-3 min-h-8 text-[1.125rem] text-stop">
        {begin.error?.message}
      </p>
      <button type="button" onClick={onPassword} className="link mt-auto min-h-16 self-start text-[1.0625rem]">
        Sign in with a password, for all else
      </button>
    </main>
  );
}
