import { useId } from "react";
import { crewLimits } from "../api/asked";
import type { PotWishes } from "../api/client";
import { newId, useJob } from "../job/context";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { useFault } from "../ui/form";
import { TextField } from "../ui/TextField";
import { Tick } from "../ui/Tick";

type Person = NonNullable<PotWishes["crew"]>[number];

const sentence = (words: string) => `${words[0]?.toUpperCase()}${words.slice(1)}.`;

const tasks = crewLimits.tasks as NonNullable<Person["tasks"]>;

/** Who works: so many alike, or people by name with what each does. */
export function CrewFields() {
  const { document, edit } = useJob();
  const wishes = document.pots;
  const crew = wishes.crew ?? [];
  const set = (change: Partial<PotWishes>) => edit((before) => ({ ...before, pots: { ...before.pots, ...change } }));
  const one = (id: string, next: (person: Person) => Person) =>
    set({ crew: crew.map((person) => (person.id === id ? next(person) : person)) });
  const fault = useFault("pots.crew");
  const names = useId();
  const learners = useShop().shop.facts.learners ?? [];
  const learns = (name = "") => learners.some((known) => known.name.toLowerCase() === name.trim().toLowerCase());
  const fresh = (): Person => ({ id: newId(), name: "", tasks: [...tasks], learner: false });
  if (!crew.length)
    return (
      <>
        <Choice
          label="People who do all of it"
          value={String(wishes.hands)}
          options={[
            ["1", "1"],
            ["2", "2"],
            ["3", "3"],
            ["4", "4"],
          ]}
          onChange={(hands) => set({ hands: Number(hands) })}
        />
        <Choice
          label="Who mixes"
          value={wishes.mixer ?? "one of the hands"}
          options={[
            ["one of the hands", "one of them"],
            ["a person more", "a person more"],
          ]}
          onChange={(mixer) => set({ mixer })}
        />
        <p className="lab -mt-2">
          {wishes.hands >= crewLimits.one_mixes_from && wishes.mixer !== "a person more"
            ? `Of ${crewLimits.one_mixes_from} and more, one mixes for the rest: mixing in turn would stop them all.`
            : wishes.mixer === "a person more"
              ? "The mixer works beside the others, who go on laying."
              : "While a pot is mixed, nobody lays."}
        </p>
        <Button
          edits
          className="justify-self-start"
          onClick={() => {
            const spread = Array.from({ length: wishes.hands }, fresh);
            set({ crew: wishes.mixer === "a person more" ? [...spread, { ...fresh(), tasks: ["mixes"] }] : spread });
          }}
        >
          Name them and their tasks
        </Button>
      </>
    );
  return (
    <section aria-label="Crew" data-path="pots.crew" className="space-y-2">
      <datalist id={names}>
        {learners.map(({ name }) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <h3 className="lab">Crew, and what each does</h3>
      {fault && (
        <p role="alert" className="text-[0.875rem] text-stop">
          {sentence(fault.message)}
        </p>
      )}
      {crew.map((person, at) => (
        <div key={person.id} className="border-t border-rule-faint pt-2">
          <div className="grid grid-cols-[1fr_auto] items-end gap-3">
            <TextField
              label={`Person ${at + 1}`}
              path={`pots.crew.${at}.name`}
              value={person.name ?? ""}
              placeholder="a name or initials"
              list={learners.length ? names : undefined}
              hint={learns(person.name) && !person.learner ? "learns here, and is not ticked as a learner" : ""}
              // Whoever is known to learn here is ticked as a learner; that can be taken off again.
              onCommit={(name) => one(person.id, (old) => ({ ...old, name, learner: old.learner || learns(name) }))}
            />
            <Button
              edits
              look="text"
              aria-label={`Remove ${person.name || `person ${at + 1}`}`}
              onClick={() => set({ crew: crew.filter((other) => other.id !== person.id) })}
            >
              Remove
            </Button>
          </div>
          <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
            {tasks.map((task) => (
              <Tick
                key={task}
                label={task}
                path={`pots.crew.${at}.${task}`}
                checked={(person.tasks ?? []).includes(task)}
                onChange={(does) => {
                  const next = tasks.filter((each) => (each === task ? does : (person.tasks ?? []).includes(each)));
                  // Who does nothing is not of the crew.
                  if (next.length) one(person.id, (old) => ({ ...old, tasks: next }));
                }}
              />
            ))}
            <Tick
              label="a learner"
              path={`pots.crew.${at}.learner`}
              checked={person.learner ?? false}
              onChange={(learner) => one(person.id, (old) => ({ ...old, learner }))}
            />
          </div>
        </div>
      ))}
      <div className="flex flex-wrap gap-2">
        {crew.length < crewLimits.most && (
          <Button edits onClick={() => set({ crew: [...crew, fresh()] })}>
            One more
          </Button>
        )}
        <Button edits look="text" onClick={() => set({ crew: [] })}>
          So many alike instead
        </Button>
      </div>
    </section>
  );
}
