import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, type Taught, type TaughtRecord, taken } from "../api/client";
import { TaughtBand } from "../drawing/TaughtBand";
import { PlainHeader } from "../floor/PlainHeader";
import { fixed, minutes, plural } from "../format";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { Button } from "../ui/Button";
import { useTitle } from "../ui/useTitle";
import type { Units } from "../units";

/** What the shop's log has taught, in one place, with the records behind each figure. */
export function TaughtPage() {
  useTitle("What the log has taught");
  const { shopId } = useSession();
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <TaughtOfShop />
      </ShopProvider>
    </>
  );
}

function TaughtOfShop() {
  const { shop } = useShop();
  const { data, error } = useQuery({
    queryKey: ["taught", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/taught", { params: { path: { shop_id: shop.id } } })),
    refetchOnMount: "always",
  });
  return (
    <main className="mx-auto max-w-[1080px] px-4 py-6">
      <h1 className="text-[1.5rem] font-semibold">What the log has taught</h1>
      <p className="lab max-w-[72ch]">
        Each figure as its label, the table or memory tells it, and as this shop's own pots and shots tell it. Nine in
        ten fall inside the band; it narrows with every record.
      </p>
      {error && <p className="mt-3 text-stop">{error.message}</p>}
      {data?.length === 0 && (
        <p className="mt-5 max-w-[62ch]">
          Nothing yet. Write down at the bench when a pot gelled, how much filler went in, and where the front of an
          infusion was: the next plan is made with it.
        </p>
      )}
      {data?.map((taught) => (
        <Figure key={`${taught.kind} ${taught.name} ${taught.of} ${taught.pull_mbar}`} taught={taught} />
      ))}
    </main>
  );
}

/** A figure of its kind, with its unit. */
function print(kind: Taught["kind"], value: number): string {
  if (kind === "gel") return `${value < 60 ? fixed(value, 1) : minutes(value)} min`;
  return kind === "filler" ? `${fixed(value, 2)} parts` : `${fixed(value, 2)} times`;
}

function Figure({ taught: { kind, name, of, pot, pull_mbar, taught, records } }: { taught: Taught }) {
  const { units } = useShop();
  const [open, setOpen] = useState(false);
  const off = 100 * (taught.now / taught.told - 1);
  return (
    <section className="mt-5 border-t border-rule pt-4">
      <div className="grid items-start gap-x-8 gap-y-3 md:grid-cols-[1fr_1.15fr]">
        <div>
          <h2 className="text-[1.125rem] leading-tight font-semibold">
            {name}
            {of && `, ${of}`}
          </h2>
          <p className="lab">{what(kind, units, pot, pull_mbar)}</p>
          <p className="mt-1">
            <span className="fig text-[2.5rem] leading-none">{print(kind, taught.now)}</span>
            {Math.abs(off) >= 0.5 && (
              <span className="pl-3 text-[1rem]">
                {fixed(Math.abs(off), 0)} % {off > 0 ? "more" : "less"} than {kind === "gel" ? "its label" : "told"}
              </span>
            )}
          </p>
          <p className="lab">
            {print(kind, taught.told)}{" "}
            {kind === "gel" ? "by its label" : kind === "filler" ? "by the table" : "by memory"} ·{" "}
            {plural(taught.count, "record")}
          </p>
        </div>
        <TaughtBand
          taught={taught}
          seen={kind === "gel" ? [] : records.map(({ seen, left_out }) => ({ seen, out: left_out !== "" }))}
          print={(value) => print(kind, value)}
        />
      </div>
      <Button look="text" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Put the records away" : `Its ${plural(records.length, "record")}`}
      </Button>
      {open && (
        <ul aria-label={`Records of ${name}`}>
          {records.map((record) => (
            <Record key={record.id} kind={kind} now={taught.now} record={record} />
          ))}
        </ul>
      )}
    </section>
  );
}

function what(kind: Taught["kind"], units: Units, pot: Taught["pot"], pull_mbar: number | null | undefined): string {
  if (kind === "filler") return "loose to one of mixed resin";
  if (kind === "bed") return `as open as told of its fabric, under ${fixed(pull_mbar ?? 0, 0)} mbar`;
  return `gel of ${potWords(units, pot)}`;
}

function potWords(units: Units, pot: Taught["pot"]): string {
  const words = [
    pot?.mass_g ? units.text("mass", pot.mass_g) : "a pot",
    pot && `at ${units.text("temperature", pot.temperature_c)}`,
    pot?.catalyst_pct ? `with ${fixed(pot.catalyst_pct, 1)} % catalyst` : "",
  ];
  return words.filter(Boolean).join(" ");
}

/** One record: what was seen; left out with a reason, and what that moves. */
function Record({ kind, now, record }: { kind: Taught["kind"]; now: number; record: TaughtRecord }) {
  const { shop, units, day, clock, mayWrite } = useShop();
  const queries = useQueryClient();
  const [asked, ask] = useState(false);
  const [reason, setReason] = useState("");
  const out = record.left_out !== "";
  const leave = useMutation({
    mutationFn: (why: string | null) =>
      taken(
        client.PUT("/api/shops/{shop_id}/taught/{kind}/{record_id}", {
          params: { path: { shop_id: shop.id, kind, record_id: record.id } },
          body: { left_out: why !== null, reason: why ?? "" },
        }),
      ),
    onSuccess: (all) => {
      queries.setQueryData(["taught", shop.id], all);
      for (const name of ["job", "jobs"]) void queries.invalidateQueries({ queryKey: [name] });
      ask(false);
      setReason("");
    },
  });
  const moved = record.without != null && record.without !== now ? print(kind, record.without) : "";
  return (
    <li className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule-faint py-1.5">
      <span className={`fig text-[1.125rem] ${out ? "text-ink-soft line-through" : ""}`}>
        {print(kind, record.seen)}
      </span>
      <span className="lab min-w-0 flex-1">
        {day(record.at)} {clock(record.at)}
        {record.pot && `, ${potWords(units, record.pot)}`}
        {record.pull_mbar != null && `, ${fixed(record.pull_mbar, 0)} mbar`}
        {out && ` · left out by ${record.left_out_by}: “${record.left_out}”`}
      </span>
      {record.run_id && (
        <Link to={`/built/${record.run_id}`} className="link text-[0.9062rem]">
          its run
        </Link>
      )}
      {mayWrite && !asked && (
        <Button edits look="text" onClick={() => (out ? leave.mutate(null) : ask(true))}>
          {out ? `take it in again${moved && `, then ${moved}`}` : `leave it out${moved && `, then ${moved}`}`}
        </Button>
      )}
      {asked && (
        <form
          className="flex w-full flex-wrap items-end gap-2.5 pb-1"
          onSubmit={(event) => {
            event.preventDefault();
            leave.mutate(reason);
          }}
        >
          <label className="flex-1">
            <span className="lab block">Why it is left out</span>
            <input
              value={reason}
              maxLength={300}
              onChange={(event) => setReason(event.target.value)}
              className="field w-full"
            />
          </label>
          <Button edits look="main" type="submit" disabled={leave.isPending}>
            Leave it out
          </Button>
          <Button look="text" onClick={() => ask(false)}>
            Keep it
          </Button>
        </form>
      )}
      {leave.isError && (
        <p role="alert" className="w-full text-[0.875rem] text-stop">
          {leave.error.message}
        </p>
      )}
    </li>
  );
}
