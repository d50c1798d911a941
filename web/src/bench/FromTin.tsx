import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type CardPot, client, type Schemas, taken } from "../api/client";
import { useShop } from "../shop";
import { standing } from "./fold";
import { useBench } from "./useBench";

type Tin = Schemas["TinOut"];

/** Which tin a part is poured from, as the stock has it, and the way to say that it is another. */
export function FromTin({ card, part }: { card: CardPot; part: string }) {
  const { bench, line, tap, practised } = useBench();
  const { date, units } = useShop();
  const [asks, ask] = useState(false);
  const { data } = useQuery({
    queryKey: ["tins", bench.run_id],
    queryFn: () => taken(client.GET("/api/runs/{run_id}/tins", { params: { path: { run_id: bench.run_id } } })),
    refetchOnMount: "always",
    enabled: !practised,
  });
  const tins = data?.filter((tin) => isOf(tin, card, part)) ?? [];
  const said = standing(line.taps()).findLast(
    ({ kind, data: { lot } }) => kind === "tin taken" && tins.some(({ id }) => id === lot),
  )?.data.lot;
  const tin = tins.find(({ id }) => id === said) ?? tins[0];
  if (!tin) return null;
  const state = (one: Tin) => {
    if (one.keeping === "past" && one.until) return `past its date, ${date(one.until)}`;
    return one.keeping === "no date" ? "no date on it" : one.until ? `keeps until ${date(one.until)}` : "";
  };
  return (
    <div className="mt-2 text-[1.25rem]">
      <p className="flex flex-wrap items-center gap-x-4">
        <span>
          from {called(tin)}
          <span className={tin.keeping === "past" ? "font-semibold text-stop" : "text-ink-soft"}>
            {state(tin) && `, ${state(tin)}`}
          </span>
        </span>
        {tins.length > 1 && (
          <button
            type="button"
            className="link min-h-12 px-1"
            aria-expanded={asks}
            aria-label={`Another tin than ${called(tin)}`}
            onClick={() => ask(!asks)}
          >
            another tin
          </button>
        )}
      </p>
      {asks && (
        <ul aria-label="Tins" className="mt-1 flex flex-wrap gap-2">
          {tins
            .filter((other) => other !== tin)
            .map((other) => (
              <li key={other.id}>
                <button
                  type="button"
                  className="min-h-14 rounded-(--radius) border border-rule bg-sheet px-4 text-left hover:border-ink"
                  onClick={() => {
                    tap({ about: "run", subject: "", kind: "tin taken", data: { lot: other.id } });
                    ask(false);
                  }}
                >
                  {called(other)}
                  <span className="block text-[1rem] text-ink-soft">
                    {units.words("mass", other.left)} in it{state(other) && `, ${state(other)}`}
                  </span>
                </button>
              </li>
            ))}
        </ul>
      )}
    </div>
  );
}

/** By its number, which is what is looked for on the tin; by its name where it has none. */
const called = ({ batch, name }: Tin) => (batch ? `lot ${batch}` : name);

/** Whether a tin is what a part of a pot is poured from. */
function isOf(tin: Tin, card: CardPot, part: string): boolean {
  const second = part === "B" || part === "catalyst";
  if (tin.kind === "hardener") return second && tin.hardener_id === card.hardener_id;
  return (tin.kind === "catalyst") === second && tin.use_ids.includes(card.use_id);
}
