import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { client, taken } from "../api/client";
import { Readings } from "../day/Readings";
import { useConditions } from "../day/useConditions";
import { NewJob } from "../floor/NewJob";
import { PlainHeader } from "../floor/PlainHeader";
import { useSettings } from "../floor/useSettings";
import { plural } from "../format";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { FormContext } from "../ui/form";
import { Pick } from "../ui/Pick";
import { useTitle } from "../ui/useTitle";
import { Tin } from "./Tin";

/** What a new shop says before its first job: the room, the tins in hand, the scale and the cup. */
export function FirstHour() {
  const { shopId } = useSession();
  useTitle("First hour");
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <Steps />
      </ShopProvider>
    </>
  );
}

function Steps() {
  const { shop } = useShop();
  const { preferences } = useSession();
  const path = { params: { path: { shop_id: shop.id } } };
  const products = useQuery({
    queryKey: ["shelf", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/shelf", path)),
  });
  const jobs = useQuery({
    queryKey: ["jobs", shop.id, preferences.units],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/jobs", path)),
  });
  const tins = (products.data ?? []).filter((product) => product.kind === "resin" && !product.retired);
  const sample = jobs.data?.find((job) => job.is_sample);
  return (
    <main className="mx-auto max-w-[1180px] px-4 py-5 sm:px-6">
      <h1 className="text-[1.625rem] font-semibold">Before the first pot</h1>
      <p className="mt-0.5 max-w-[70ch]">
        Three things that every number goes by. Each is kept as soon as it is typed.
      </p>
      <div className="mt-4 grid gap-x-12 lg:grid-cols-[1fr_1.15fr]">
        <div>
          <Step number={1} title="How warm is it?" done={shop.facts.room_read ? "read" : ""}>
            <Room />
          </Step>
          <Step number={2} title="What do you weigh and mix with?" done="">
            <Tools />
          </Step>
        </div>
        <Step
          number={3}
          title="Which tins have you got?"
          done={tins.length ? `${plural(tins.length, "tin")} on the shelf` : ""}
        >
          {tins.length > 0 && (
            <ul aria-label="Tins" className="mb-3">
              {tins.map((tin) => (
                <li key={tin.id}>
                  <Link to={`/shelf/${tin.id}`} className="link">
                    {tin.name}
                  </Link>
                </li>
              ))}
            </ul>
          )}
          <Tin key={tins.length} />
        </Step>
      </div>
      <Step number={4} title="Your first job" done="">
        <div className="grid gap-x-12 gap-y-4 lg:grid-cols-[1fr_1.15fr]">
          {jobs.data && <NewJob shopId={shop.id} jobs={jobs.data} />}
          <div className="max-w-[56ch]">
            {sample && (
              <p>
                Or look first:{" "}
                <Link to={`/jobs/${sample.id}/measure`} className="link">
                  {sample.name}
                </Link>{" "}
                shows each step filled in, with a temperature of its own. Delete it under Log when you have seen enough.
              </p>
            )}
            <p className="mt-2">
              Never mixed a pot before?{" "}
              <Link to="/practice" className="link">
                Practice
              </Link>{" "}
              has a first hour with a kit and a sheet of glass.{" "}
              <Link to="/guide" className="link">
                The guide
              </Link>{" "}
              goes through the work in its order.
            </p>
          </div>
        </div>
      </Step>
    </main>
  );
}

function Step({ number, title, done, children }: { number: number; title: string; done: string; children: ReactNode }) {
  return (
    <section aria-labelledby={`step-${number}`} className="mb-6 border-t border-rule pt-3">
      <h2 id={`step-${number}`} className="mb-3 flex items-baseline gap-3 text-[1.25rem] font-semibold">
        <span className="fig text-ink-soft">{number}</span>
        {title}
        {done && <span className="ml-auto text-[0.9375rem] font-normal text-cool">✓ {done}</span>}
      </h2>
      {children}
    </section>
  );
}

/** Nothing stands in the fields until somebody has read it. */
function Room() {
  const { set, form, read } = useConditions();
  return (
    <FormContext.Provider value={form}>
      <Readings conditions={read} fieldKey="day" onSet={(change) => void set(change)} />
      <p className="lab mt-1.5 max-w-[60ch]">
        Where the work stands, not at the door. Until it is typed, no plan is trusted. The humidity tells whether water
        settles on the work.
      </p>
    </FormContext.Provider>
  );
}

function Tools() {
  const { shop, units } = useShop();
  const { now, set, form } = useSettings();
  const library = useQuery({
    queryKey: ["library", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/library", { params: { path: { shop_id: shop.id } } })),
  });
  const scales = (library.data?.tools ?? []).filter((tool) => tool.kind === "scale");
  const cups = (library.data?.vessels ?? []).filter((vessel) => vessel.form !== "tray" && vessel.weighs_g != null);
  const cup = cups.find((vessel) => vessel.id === now.tools?.mixing_id);
  const choose = (change: Record<string, string>) =>
    void set(({ tools }) => ({ tools: { ...tools, ...change } as typeof tools }));
  return (
    <FormContext.Provider value={form}>
      <div className="grid gap-3 sm:grid-cols-2">
        <Pick
          label="Pots are weighed on"
          path="tools.scale_id"
          value={now.tools?.scale_id ?? ""}
          placeholder="choose"
          options={scales.map((scale) => [scale.id, scale.name] as const)}
          onChange={(scale_id) => choose({ scale_id })}
        />
        <Pick
          label="Pots are mixed in"
          path="tools.mixing_id"
          value={now.tools?.mixing_id ?? ""}
          placeholder="choose"
          options={cups.map((each) => [each.id, each.name] as const)}
          hint={
            cup &&
            `holds ${units.words("volume", cup.holds_ml)}, weighs ${units.words("mass", cup.weighs_g ?? 0)} empty`
          }
          onChange={(mixing_id) => choose({ mixing_id })}
        />
      </div>
      <p className="lab mt-1.5">
        A scale or a cup of your own goes on the{" "}
        <Link to="/shelf" className="link">
          shelf
        </Link>
        ; syringe, pumps and the rest stand under{" "}
        <Link to="/shop" className="link">
          Shop
        </Link>
        .
      </p>
    </FormContext.Provider>
  );
}
