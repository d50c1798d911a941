import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Learner, type Standing, taken } from "../api/client";
import { PotGrowth } from "../drawing/PotGrowth";
import { plural } from "../format";
import { useSession } from "../session";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { usePractice } from "./usePractice";

/** What one has passed and who signed it; and, for those who sign, how each learner stands. */
export function Learners() {
  const { shop, units } = useShop();
  const { session } = useSession();
  const me = session?.person ?? "";
  const { training, standing, more } = usePractice();
  const queries = useQueryClient();
  const key = ["learners", shop.id];
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/learners", { params: { path: { shop_id: shop.id } } })),
    refetchOnMount: "always",
  });
  const others = (data ?? []).filter((learner) => learner.person !== me);
  const took = async (next: Learner[]) => {
    queries.setQueryData(key, next);
    // Pots of every plan may be larger or smaller now.
    await queries.invalidateQueries({
      predicate: ({ queryKey }) => !["learners", "glossary"].includes(`${queryKey[0]}`),
    });
  };
  const learns = useMutation({
    mutationFn: ({ person, learns }: { person: string; learns: boolean }) =>
      taken(
        client.PUT("/api/shops/{shop_id}/learners/{person}", {
          params: { path: { shop_id: shop.id, person } },
          body: { learns },
        }),
      ),
    onSuccess: async (next) => {
      await took(next);
      await more();
    },
  });
  const role = session?.shops.find(({ id }) => id === shop.id)?.role;
  return (
    <main className="px-4 py-5 lg:px-8">
      <h1 className="text-[1.375rem] font-semibold">Your record</h1>
      <div className="mt-2 grid items-start gap-x-10 gap-y-5 xl:grid-cols-[1fr_1fr]">
        <div>
          {training.learns ? (
            <p className="max-w-[60ch]">
              You learn here. A job keeps its pots as small as this where you are named as a learner in its crew, under
              Pots, and nobody practised mixes; so does every job where the shop says that a learner mixes.{" "}
              {standing.next_step}.
            </p>
          ) : (
            <p className="max-w-[60ch]">
              Nobody has said that you learn here, so plans give you the shop’s own pots. Say it, and they keep yours
              small until somebody skilled has signed for you.
            </p>
          )}
          {training.learns &&
            training.pots.map((pots) => (
              <div key={pots.family} className="mt-3">
                <p className="font-semibold">Largest pot of {pots.family}</p>
                <PotGrowth
                  units={units}
                  pots={[
                    { name: "a beginner’s", grams: pots.beginner_g },
                    { name: "yours", grams: pots.own_g },
                    { name: "the shop’s", grams: pots.shop_g },
                  ]}
                />
              </div>
            ))}
          {!training.learns && (
            <Button edits className="mt-3 min-h-11" onClick={() => learns.mutate({ person: me, learns: true })}>
              I learn here
            </Button>
          )}
        </div>
        <Tasks standing={standing} />
      </div>
      {others.length > 0 && (
        <section aria-label="Who learns here" className="mt-8">
          <h2 className="text-[1.25rem] font-semibold">Who learns here</h2>
          <p className="lab max-w-[72ch]">
            Sign a task when it was passed on the screen and you have watched it done with resin. Your name stands
            beside it.
          </p>
          {others.map((learner) => (
            <OneLearner
              key={learner.person}
              learner={learner}
              took={took}
              ends={role === "owner" ? () => learns.mutate({ person: learner.person, learns: false }) : null}
            />
          ))}
        </section>
      )}
      {learns.error && <p className="mt-3 text-stop">{learns.error.message}</p>}
    </main>
  );
}

function OneLearner({
  learner,
  took,
  ends,
}: {
  learner: Learner;
  took: (next: Learner[]) => void;
  ends: (() => void) | null;
}) {
  const { shop } = useShop();
  const { training } = usePractice();
  const sign = useMutation({
    mutationFn: (body: { task: string; signed: boolean }) =>
      taken(
        client.PUT("/api/shops/{shop_id}/learners/{person}/signed", {
          params: { path: { shop_id: shop.id, person: learner.person } },
          body,
        }),
      ),
    onSuccess: took,
  });
  return (
    <section aria-label={learner.person} className="mt-4 border-t border-rule pt-3">
      <h3 className="flex flex-wrap items-baseline gap-x-4 text-[1.125rem] font-semibold">
        {learner.person}
        <span className="lab font-normal">
          {learner.standing.lessons.length} of {training.lessons.length} lessons,{" "}
          {plural(learner.standing.good_pots, "good pot")}, {learner.standing.lost_pots} lost
        </span>
        {ends && (
          <Button edits look="text" className="ml-auto" onClick={ends}>
            {learner.person} has learned
          </Button>
        )}
      </h3>
      <Tasks
        standing={learner.standing}
        sign={learner.may_sign ? (task, signed) => sign.mutate({ task, signed }) : undefined}
      />
      {sign.error && <p className="mt-2 text-stop">{sign.error.message}</p>}
    </section>
  );
}

function Tasks({ standing, sign }: { standing: Standing; sign?: (task: string, signed: boolean) => void }) {
  const { day } = useShop();
  return (
    <table className="w-full">
      <caption className="sr-only">Tasks, passed and signed</caption>
      <thead className="sr-only">
        <tr>
          <th>task</th>
          <th>right in a row</th>
          <th>signed by</th>
        </tr>
      </thead>
      <tbody>
        {standing.tasks.map((task) => (
          <tr key={task.id} className="border-t border-rule-faint align-baseline">
            <td className="py-2 pr-3">
              <span className="font-semibold">{task.title}</span>
              <span className="lab block">{task.says}</span>
            </td>
            <td className="py-2 pr-3 whitespace-nowrap">
              <span className="fig text-[1.375rem]">{task.in_a_row}</span> of {task.of}
              {task.passed && <span className="block text-[0.8125rem] text-cool">passed</span>}
            </td>
            <td className="w-[168px] py-2 text-[0.875rem]">
              {task.signed_at ? (
                <>
                  signed by {task.signed_by}, {day(task.signed_at)}
                  {sign && (
                    <Button look="text" edits className="block" onClick={() => sign(task.id, false)}>
                      Take it back
                    </Button>
                  )}
                </>
              ) : sign && task.passed ? (
                <Button edits className="min-h-11" onClick={() => sign(task.id, true)}>
                  Sign it
                </Button>
              ) : (
                <span className="lab">not signed</span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
