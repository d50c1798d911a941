import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type ShopWeek, taken } from "../api/client";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { FormContext } from "../ui/form";
import { NumberField } from "../ui/NumberField";
import { TextField } from "../ui/TextField";
import { Tick } from "../ui/Tick";
import { useLocalForm } from "../ui/useLocalForm";

type Person = NonNullable<ShopWeek["people"]>[number];
const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const newcomer: Person = { name: "", days: [0, 1, 2, 3, 4], from_h: 8, to_h: 17, may_mix: true };

/** Who works on which days from when to when, the days the shop is shut, its pumps and warm rooms. */
export function PeopleFields({ week }: { week: ShopWeek }) {
  const { shop } = useShop();
  const queries = useQueryClient();
  const { form, attempt, faults } = useLocalForm(`inch-cradle.week.${shop.id}`);
  const [people, setPeople] = useState<Person[]>(() => [...(week.people ?? [])]);
  const [shut, setShut] = useState((week.shut ?? []).join(", "));
  const [pumps, setPumps] = useState<number | null>(week.pumps ?? 1);
  const [warm, setWarm] = useState<number | null>(week.warm_rooms ?? 1);
  const [said, say] = useState("");
  const change = (at: number, next: Partial<Person>) => {
    say("");
    setPeople((before) => before.with(at, { ...(before[at] ?? newcomer), ...next }));
  };
  const keep = () =>
    attempt(async () => {
      const days = shut.split(/[,;\s]+/).filter(Boolean);
      await taken(
        client.PUT("/api/shops/{shop_id}/week/people", {
          params: { path: { shop_id: shop.id } },
          body: { people, shut: days, pumps: pumps ?? 0, warm_rooms: warm ?? 0 },
        }),
      );
      say("kept");
      await queries.invalidateQueries({ queryKey: ["week", shop.id] });
    });
  return (
    <FormContext.Provider value={form}>
      <div className="mt-3 max-w-[980px]">
        <ul>
          {people.map((person, at) => (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: a person has no name before it is typed
              key={at}
              className="grid items-start gap-x-4 gap-y-1.5 border-b border-rule-faint py-2 sm:grid-cols-[150px_minmax(300px,1fr)_84px_84px_120px_auto]"
            >
              <TextField
                label="Name"
                path={`people.${at}.name`}
                value={person.name}
                onCommit={(name) => change(at, { name })}
              />
              <fieldset>
                <legend className="lab mb-1">Days</legend>
                <div className="flex flex-wrap gap-x-2.5">
                  {WEEKDAYS.map((name, day) => (
                    <Tick
                      key={name}
                      label={name}
                      checked={person.days?.includes(day) ?? false}
                      onChange={(on) =>
                        change(at, {
                          days: on
                            ? [...(person.days ?? []), day].sort()
                            : (person.days ?? []).filter((other) => other !== day),
                        })
                      }
                    />
                  ))}
                </div>
              </fieldset>
              <NumberField
                label="From, h"
                path={`people.${at}.from_h`}
                step={0.5}
                value={person.from_h}
                live
                onCommit={(from_h) => change(at, { from_h: from_h ?? 8 })}
              />
              <NumberField
                label="To, h"
                path={`people.${at}.to_h`}
                step={0.5}
                value={person.to_h}
                live
                onCommit={(to_h) => change(at, { to_h: to_h ?? 17 })}
              />
              <div className="pt-5">
                <Tick
                  label="may mix"
                  checked={person.may_mix ?? true}
                  onChange={(may_mix) => change(at, { may_mix })}
                />
              </div>
              <Button
                edits
                look="text"
                className="mt-6"
                aria-label={`Remove ${person.name || "this person"}`}
                onClick={() => setPeople((before) => before.filter((_, other) => other !== at))}
              >
                remove
              </Button>
            </li>
          ))}
        </ul>
        <div className="mt-3 flex flex-wrap items-start gap-x-5 gap-y-2">
          <Button edits className="mt-5 min-h-11" onClick={() => setPeople((before) => [...before, newcomer])}>
            One more
          </Button>
          <div className="w-72">
            <TextField
              label="Days it is shut, such as 2026-12-25"
              path="shut"
              value={shut}
              onCommit={setShut}
              placeholder="one after the other"
            />
          </div>
          <div className="w-32">
            <NumberField label="Vacuum pumps" path="pumps" min={0} value={pumps} live onCommit={setPumps} />
          </div>
          <div className="w-32">
            <NumberField label="Warm rooms" path="warm_rooms" min={0} value={warm} live onCommit={setWarm} />
          </div>
          <Button edits look="main" className="mt-5" onClick={() => void keep()}>
            Keep it
          </Button>
          <output className={`mt-7 text-[0.875rem] ${faults.length ? "text-stop" : "text-cool"}`}>
            {faults[0]?.message ?? said}
          </output>
        </div>
      </div>
    </FormContext.Provider>
  );
}
