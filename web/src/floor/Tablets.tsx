import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { Link } from "react-router";
import { client, taken } from "../api/client";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";

/** The tablets that are let in for the bench, and the code that lets another in. For owners. */
export function Tablets({ shopId }: { shopId: string }) {
  const { clock, day } = useShop();
  const queries = useQueryClient();
  const key = ["devices", shopId];
  const path = { params: { path: { shop_id: shopId } } };
  const devices = useQuery({
    queryKey: key,
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/devices", path)),
    refetchInterval: LOOKED_AT_EVERY_MS,
  });
  const lan = useQuery({ queryKey: ["lan"], queryFn: () => taken(client.GET("/api/lan")) });
  const [name, setName] = useState("");
  const show = useMutation({
    mutationFn: () => taken(client.POST("/api/shops/{shop_id}/devices", { ...path, body: { name } })),
  });
  const withdraw = useMutation({
    mutationFn: (device_id: string) =>
      taken(client.DELETE("/api/devices/{device_id}", { params: { path: { device_id } } })),
    onSuccess: (left) => queries.setQueryData(key, left),
    onError: () => queries.invalidateQueries({ queryKey: key }),
  });
  const want = useMutation({
    mutationFn: (wanted: boolean) =>
      taken(client.PUT("/api/shops/{shop_id}/devices/numbers", { ...path, body: { wanted } })),
    onSuccess: (next) => queries.setQueryData(key, next),
  });
  const [asked, ask] = useState("");
  const id = useId();
  function submit(event: FormEvent) {
    event.preventDefault();
    show.mutate();
  }
  const came = show.data && devices.data?.devices.some((device) => device.name === name.trim());
  return (
    <section className="mt-8 border-t border-rule pt-5" aria-label="Tablets at the bench">
      <h2 className="text-[1.1875rem] font-semibold">Tablets at the bench</h2>
      <p className="lab">
        A tablet that is let in opens the bench without a password: who works there presses his initials. It may do
        nothing but the bench.
      </p>
      {lan.data && !lan.data.on_the_network && (
        <p className="mt-2 text-stop">
          This program answers on its own machine alone now, and no tablet reaches it. Stop it and start it with{" "}
          <b>make shop</b>.
        </p>
      )}
      {lan.data?.on_the_network && (
        <p className="lab mt-1">
          A new tablet is told once to trust this server: the code for that is under{" "}
          <Link to="/shop" className="link">
            Shop
          </Link>
          .
        </p>
      )}
      {!!devices.data?.devices.length && (
        <ul className="mt-2 border-t border-rule">
          {devices.data.devices.map((device) => (
            <li
              key={device.id}
              className="flex flex-wrap items-center justify-between gap-3 border-b border-rule py-2.5"
            >
              <span>
                <span className="text-[1.0625rem] font-medium">{device.name}</span>
                <span className="lab block">
                  let in by {device.let_in_by} on {day(device.let_in_at)}
                  {device.seen_at && `, seen last on ${day(device.seen_at)} at ${clock(device.seen_at)}`}
                </span>
              </span>
              {asked === device.id ? (
                <span className="flex gap-3">
                  <Button aria-label={`Yes, let ${device.name} in no more`} onClick={() => withdraw.mutate(device.id)}>
                    Yes, let it in no more
                  </Button>
                  <Button look="text" onClick={() => ask("")}>
                    Keep
                  </Button>
                </span>
              ) : (
                <Button look="text" aria-label={`Withdraw ${device.name}`} onClick={() => ask(device.id)}>
                  Withdraw
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      {devices.data && (
        <div className="mt-3">
          <Choice
            label="Who works there says it by"
            value={devices.data.numbers_wanted ? "number" : "initials"}
            options={WAYS}
            onChange={(way) => want.mutate(way === "number")}
          />
        </div>
      )}
      <form onSubmit={submit} className="mt-3 flex flex-wrap items-end gap-3">
        <label className="lab min-w-0 flex-1 basis-56" htmlFor={`${id}-name`}>
          Another tablet is called
          <input
            id={`${id}-name`}
            value={name}
            placeholder="bench stand"
            onChange={(event) => {
              setName(event.target.value);
              show.reset();
            }}
            className="field mt-1 w-full"
          />
        </label>
        <Button type="submit" className="min-h-11">
          Show its code
        </Button>
      </form>
      <p role="alert" className="min-h-6 text-[0.875rem] text-stop">
        {(show.error ?? withdraw.error)?.message}
      </p>
      {came && (
        <p role="status" className="text-[1.0625rem]">
          <b>{name.trim()}</b> is let in.
        </p>
      )}
      {show.data && !came && (
        <div className="flex flex-wrap items-start gap-5">
          <img src={show.data.picture} alt="Code that lets a tablet in" className="w-56" />
          <div className="min-w-0 flex-1 basis-64">
            <p className="text-[1.0625rem]">
              Scan this with the camera of the tablet. The code is good for {show.data.minutes} minutes and for one
              tablet.
            </p>
            <p className="lab mt-2">No camera? Type this address there:</p>
            <p className="break-all font-mono text-[0.875rem]">{show.data.address}</p>
          </div>
        </div>
      )}
    </section>
  );
}

const LOOKED_AT_EVERY_MS = 4000;
const WAYS = [
  ["initials", "initials"],
  ["number", "initials and number"],
] as const;

/** The short number a person is asked for at a tablet, where he wants to be. */
export function MyShortNumber() {
  const queries = useQueryClient();
  const [number, setNumber] = useState("");
  const id = useId();
  const asked = useQuery({ queryKey: ["number"], queryFn: () => taken(client.GET("/api/session/number")) });
  const write = useMutation({
    mutationFn: (next: string) => taken(client.PUT("/api/session/number", { body: { number: next } })),
    onSuccess: (next) => {
      setNumber("");
      queries.setQueryData(["number"], next);
    },
  });
  return (
    <section className="mt-8 border-t border-rule pt-5" aria-label="Your short number">
      <h2 className="text-[1.1875rem] font-semibold">Your short number</h2>
      <p className="lab">
        {asked.data?.asked
          ? "At a tablet of the bench you are asked for it, so that nobody else writes down under your name."
          : "At a tablet of the bench your initials are enough. With a short number nobody else writes down under your name."}
      </p>
      <form
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          write.mutate(number);
        }}
        className="mt-2 flex flex-wrap items-end gap-3"
      >
        <label className="lab" htmlFor={`${id}-number`}>
          {asked.data?.asked ? "Another one" : "Four to six digits"}
          <input
            id={`${id}-number`}
            type="password"
            inputMode="numeric"
            autoComplete="off"
            value={number}
            onChange={(event) => setNumber(event.target.value)}
            className="field mt-1 w-full"
          />
        </label>
        <Button type="submit" className="min-h-11">
          Keep it
        </Button>
        {asked.data?.asked && (
          <Button look="text" className="min-h-11" onClick={() => write.mutate("")}>
            Ask me for none
          </Button>
        )}
      </form>
      <p role="alert" className="min-h-6 text-[0.875rem] text-stop">
        {write.error?.message}
      </p>
    </section>
  );
}
