import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { client, type Stock, taken } from "../api/client";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { FormContext } from "../ui/form";
import { NumberField } from "../ui/NumberField";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { TextField } from "../ui/TextField";
import { useLocalForm } from "../ui/useLocalForm";
import { called, unitOf, useStock } from "./stock";

type May = Stock["may_keep"][number];

const keyOf = (may: May) => `${may.article.kind} ${may.article.product_id}`;

const nothing = {
  opened: "",
  article: "",
  amount: null as number | null,
  batch: "",
  made: "",
  expires: "",
  received: "",
  ordered: "",
  width_mm: null as number | null,
  place: "",
};

/** A tin, a roll or a box that came: what it is, how much, and what its label says. */
export function ReceiveLot({ onDone }: { onDone: () => void }) {
  const { shop, date } = useShop();
  const queries = useQueryClient();
  const go = useNavigate();
  const { data } = useStock();
  const place = `inch-cradle.receive.${shop.id}`;
  const { form, attempt, settled, faults, loose } = useLocalForm(place);
  // What is typed stays on this device until it is in the stock: closing the page loses nothing.
  const [said, say] = useState<typeof nothing>(() => ({
    ...nothing,
    ...JSON.parse(localStorage.getItem(place) ?? "{}"),
  }));
  useEffect(() => localStorage.setItem(place, JSON.stringify(said)), [place, said]);
  const [price, setPrice] = useState<number | null>(null);
  const latest = useRef({ said, price });
  latest.current = { said, price };
  const put = (change: Partial<typeof nothing>) => {
    for (const path of Object.keys(change)) form.forget?.(path);
    say((before) => ({ ...before, ...change }));
  };
  if (!data) return null;
  const may = data.may_keep.find((each) => keyOf(each) === said.article);
  const unit = unitOf(said.article);
  const keep = () =>
    attempt(async () => {
      await settled();
      const { said, price } = latest.current;
      const lot = await taken(
        client.POST("/api/shops/{shop_id}/stock", {
          params: { path: { shop_id: shop.id } },
          body: { ...said, amount: said.amount ?? 0, price, conditions: [] },
        }),
      );
      await queries.invalidateQueries({ queryKey: ["stock", shop.id] });
      say(nothing);
      localStorage.removeItem(place);
      onDone();
      void go(`/shelf/lot/${lot.id}`);
    });
  return (
    <FormContext.Provider value={form}>
      <section aria-label="Something came" className="mb-6 border-l-4 border-ink pl-4">
        <h2 className="mb-2 text-[1.375rem] font-semibold">What came?</h2>
        <div className="grid max-w-[760px] items-start gap-x-5 gap-y-2.5 sm:grid-cols-2">
          <Pick
            label="What it is"
            path="article"
            value={said.article}
            placeholder="a product of the shelf, or a generic one"
            options={data.may_keep.map((each) => [
              keyOf(each),
              called({ name: each.name, part_of: each.part_of ?? "" }),
            ])}
            onChange={(article) => put({ article, amount: null, width_mm: null })}
          />
          {unit === "" ? (
            <NumberField
              label="How many"
              path="amount"
              value={said.amount}
              live
              onCommit={(amount) => put({ amount })}
            />
          ) : (
            <QuantityField
              key={unit}
              label="How much"
              path="amount"
              fieldKey={`amount.${unit}`}
              dimension={unit === "g" ? "mass" : "length"}
              value={said.amount}
              example={unit === "g" ? 5000 : 50}
              onCommit={(amount) => put({ amount })}
            />
          )}
          <TextField
            label="Lot number, off the label"
            path="batch"
            value={said.batch}
            onCommit={(batch) => put({ batch })}
          />
          <TextField label="Where it stands" path="place" value={said.place} onCommit={(place) => put({ place })} />
          <TextField
            label="Made on"
            path="made"
            value={said.made}
            placeholder="such as 05/2026, where the label says so"
            onCommit={(made) => put({ made })}
          />
          <TextField
            label="Use by"
            path="expires"
            value={said.expires}
            placeholder="such as 05/2028"
            onCommit={(expires) => put({ expires })}
            hint={
              may?.keeps && !said.expires
                ? `Without one: ${may.keeps.months} months from its making (${may.keeps.source}).`
                : ""
            }
          />
          <TextField
            label="Came on"
            path="received"
            value={said.received}
            placeholder={`today, ${date(data.today)}`}
            onCommit={(received) => put({ received })}
          />
          {unit === "m" && (
            <QuantityField
              label="How wide, of an offcut"
              path="width_mm"
              fieldKey="lot.width_mm"
              dimension="thickness"
              value={said.width_mm}
              placeholder="the whole roll"
              optional
              onCommit={(width_mm) => put({ width_mm })}
            />
          )}
          <TextField
            label="Ordered on"
            path="ordered"
            value={said.ordered}
            placeholder="tells how long it takes to come"
            onCommit={(ordered) => put({ ordered })}
          />
          <NumberField
            label={`Paid, ${shop.currency} a ${unit === "g" ? "kg" : unit || "piece"}`}
            path="price"
            step={0.01}
            value={price}
            live
            onCommit={setPrice}
          />
        </div>
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <Button edits look="main" onClick={() => void keep()}>
            Put it in the stock
          </Button>
          <Button className="min-h-11" onClick={onDone}>
            Not now
          </Button>
          <p role="alert" className="text-[0.875rem] text-stop">
            {loose[0] ?? (faults.length ? faults[0]?.message : "")}
          </p>
        </div>
      </section>
    </FormContext.Provider>
  );
}
