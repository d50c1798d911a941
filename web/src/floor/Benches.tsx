import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, type Schemas, taken } from "../api/client";
import { kindNames, troubles } from "../bench/AtPlace";
import type { Kind, Place } from "../bench/Instruments";
import { asRead, plural, readNumber } from "../format";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Pick } from "../ui/Pick";
import { Example } from "./Example";

type InstrumentNow = Schemas["InstrumentOut"];
type Found = Schemas["InstrumentsOut"];
const LOOKED_AT_EVERY_MS = 2000;
const kinds: [Kind, string][] = [
  ["scale", "a scale"],
  ["thermometer", "a thermometer for pots"],
  ["room", "a room probe"],
];
const speeds = ["1200", "2400", "4800", "9600", "19200", "38400", "57600", "115200"] as const;

/** The benches of the shop and the instruments at them. */
export function Benches() {
  const { shop } = useShop();
  const queries = useQueryClient();
  const key = ["instruments", shop.id];
  const path = { params: { path: { shop_id: shop.id } } };
  const found = useQuery({
    queryKey: key,
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/instruments", path)),
    refetchInterval: LOOKED_AT_EVERY_MS,
  });
  const again = () => queries.invalidateQueries({ queryKey: key });
  const [name, setName] = useState("");
  const add = useMutation({
    mutationFn: () => taken(client.POST("/api/shops/{shop_id}/places", { ...path, body: { name } })),
    onSuccess: () => {
      setName("");
      return again();
    },
  });
  return (
    <section className="mt-6 border-t border-rule pt-4" aria-label="Benches and instruments">
      <h2 className="mb-1 text-[1.1875rem] font-semibold">Benches and instruments</h2>
      <p className="lab mb-3">
        A scale fills the cup on the screen and writes down what is poured. A thermometer that is pointed at a pot tells
        a fast tin from a slow one. A room probe keeps the day's forecast true.
      </p>
      {found.data?.places.map((place) => (
        <Bench key={place.id} place={place} found={found.data} again={again} />
      ))}
      <form
        className="mt-3 flex flex-wrap items-end gap-3"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          add.mutate();
        }}
      >
        <label className="block">
          <span className="lab mb-1 block">New bench</span>
          <input
            value={name}
            onChange={(event) => setName(event.target.value)}
            maxLength={40}
            placeholder="such as “by the door”"
            className="field"
          />
        </label>
        <Button type="submit" edits disabled={!name.trim()}>
          Make it
        </Button>
      </form>
      <p role="alert" className="min-h-6 text-[0.875rem] text-stop">
        {add.error?.message}
      </p>
    </section>
  );
}

function Bench({ place, found, again }: { place: Place; found: Found; again: () => Promise<void> }) {
  const [adding, setAdding] = useState(false);
  const [asked, ask] = useState(false);
  const path = { params: { path: { place_id: place.id } } };
  const standins = useMutation({
    mutationFn: (act: "start" | "stop") =>
      taken(client.POST("/api/places/{place_id}/standins", { ...path, body: { do: act, kind: "scale" } })),
    onSuccess: again,
  });
  const remove = useMutation({
    mutationFn: () => taken(client.DELETE("/api/places/{place_id}", path)),
    onSuccess: again,
  });
  return (
    <div className="mb-4 border-l-4 border-rule pl-4">
      <h3 className="text-[1.0625rem] font-semibold">{place.name}</h3>
      {place.instruments.length === 0 && (
        <p className="lab">No instrument is at this bench yet: it is weighed by hand.</p>
      )}
      <ul>
        {place.instruments.map((one) => (
          <InstrumentRow key={one.id} one={one} again={again} />
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        {place.instruments.length < kinds.length && !adding && (
          <Button edits onClick={() => setAdding(true)}>
            Add an instrument
          </Button>
        )}
        {place.standins.on ? (
          <Button edits onClick={() => standins.mutate("stop")}>
            Stop the simulated instruments
          </Button>
        ) : (
          place.instruments.length < kinds.length && (
            <Button edits onClick={() => standins.mutate("start")}>
              Try it with simulated instruments
            </Button>
          )
        )}
        {asked ? (
          <>
            <Button edits onClick={() => remove.mutate()}>
              Yes, take away {place.name}
            </Button>
            <Button look="text" onClick={() => ask(false)}>
              Keep
            </Button>
          </>
        ) : (
          <Button look="text" edits aria-label={`Take away ${place.name}`} onClick={() => ask(true)}>
            Take away
          </Button>
        )}
      </div>
      <p role="alert" className="text-[0.875rem] text-stop">
        {(standins.error ?? remove.error)?.message}
      </p>
      {adding && <NewInstrument place={place} found={found} again={again} onDone={() => setAdding(false)} />}
    </div>
  );
}

function InstrumentRow({ one, again }: { one: InstrumentNow; again: () => Promise<void> }) {
  const { units, day } = useShop();
  const [known, setKnown] = useState("");
  const [checking, setChecking] = useState(false);
  const path = { params: { path: { instrument_id: one.id } } };
  const typed = readNumber(known);
  const axis = units.axis("mass");
  const withdraw = useMutation({
    mutationFn: () => taken(client.DELETE("/api/instruments/{instrument_id}", path)),
    onSuccess: again,
  });
  const check = useMutation({
    mutationFn: (known_g: number) =>
      taken(client.POST("/api/instruments/{instrument_id}/check", { ...path, body: { known_g } })),
    onSuccess: () => {
      setChecking(false);
      setKnown("");
      return again();
    },
  });
  const quantity = one.kind === "scale" ? "mass" : "temperature";
  const off = one.check ? one.check.shown_g - one.check.known_g : 0;
  const silent = one.silent_s ? `silent for ${plural(Math.round(one.silent_s), "second")}` : "";
  return (
    <li className="border-b border-rule-faint py-2">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <span className="font-medium">{one.name}</span>
        <span className="fig text-[1.25rem]">{one.value === null ? "–" : units.text(quantity, one.value)}</span>
        {(silent || one.trouble) && (
          <span role="status" className="text-stop">
            {silent || `${kindNames[one.kind]} ${troubles[one.trouble]}`}
          </span>
        )}
        <span className="lab">
          {one.by_token ? "posts its readings" : one.port}
          {one.lines.length > 0 && (
            <>
              {", sends "}
              <span className="fig">{one.lines.at(-1)}</span>
            </>
          )}
        </span>
        <span className="flex-1" />
        {one.kind === "scale" && !checking && (
          <Button look="text" edits onClick={() => setChecking(true)}>
            Check it with a known weight
          </Button>
        )}
        <Button look="text" edits aria-label={`Withdraw ${one.name}`} onClick={() => withdraw.mutate()}>
          Withdraw
        </Button>
      </div>
      {one.kind === "scale" && !one.check && <p className="lab">Not checked with a known weight yet.</p>}
      {one.check && (
        <p className={Math.abs(off) > 0 ? "text-[0.9375rem]" : "lab"}>
          {day(one.check.at)}: it showed {units.text("mass", one.check.shown_g)} of a weight of{" "}
          {units.text("mass", one.check.known_g)}
          {off ? `, ${units.text("mass", Math.abs(off))} too ${off > 0 ? "much" : "little"}` : ", right"}.
        </p>
      )}
      {checking && (
        <form
          className="mt-1 flex flex-wrap items-end gap-3"
          onSubmit={(event: FormEvent) => {
            event.preventDefault();
            if (typeof typed === "number") check.mutate(axis.value(typed));
          }}
        >
          <label className="block">
            <span className="lab mb-1 block">The weight that stands on it now, {axis.unit}</span>
            <input
              value={known}
              inputMode="decimal"
              onChange={(event) => setKnown(event.target.value)}
              className="field w-32"
            />
          </label>
          <Button type="submit" edits disabled={typeof typed !== "number"}>
            Keep what it shows{one.value === null ? "" : `, ${asRead(Number(units.number("mass", one.value)))}`}
          </Button>
          <Button look="text" onClick={() => setChecking(false)}>
            Not now
          </Button>
          {check.error && (
            <p role="alert" className="w-full text-[0.875rem] text-stop">
              {check.error.message}
            </p>
          )}
        </form>
      )}
    </li>
  );
}

const BY_TOKEN = "posts over the network";

function NewInstrument({
  place,
  found,
  again,
  onDone,
}: {
  place: Place;
  found: Found;
  again: () => Promise<void>;
  onDone: () => void;
}) {
  const { shop } = useShop();
  const free = kinds.filter(([kind]) => !place.instruments.some((one) => one.kind === kind));
  const [kind, setKind] = useState<Kind>(free[0]?.[0] ?? "scale");
  const [port, setPort] = useState("");
  const [baud, setBaud] = useState<(typeof speeds)[number]>("9600");
  const [name, setName] = useState("");
  const [unit, setUnit] = useState("");
  const [example, setExample] = useState<Schemas["ExampleIn"] | null>(null);
  const listen = useMutation({
    mutationFn: () =>
      taken(
        client.POST("/api/shops/{shop_id}/ports/listen", {
          params: { path: { shop_id: shop.id } },
          body: { port, baud: Number(baud) as 9600 },
        }),
      ),
  });
  const make = useMutation({
    mutationFn: () =>
      taken(
        client.POST("/api/places/{place_id}/instruments", {
          params: { path: { place_id: place.id } },
          body: {
            kind,
            name: name.trim() || `${kindNames[kind]}, ${place.name}`.slice(0, 40),
            port: port === BY_TOKEN ? "" : port,
            baud: Number(baud) as 9600,
            unit: unit as Schemas["InstrumentIn"]["unit"],
            example,
          },
        }),
      ),
    onSuccess: (made) => (made.token ? again() : again().then(onDone)),
  });
  const ports: [string, string][] = [
    ...found.ports.filter((each) => !each.taken).map((each): [string, string] => [each.key, each.words]),
    [BY_TOKEN, "it posts over the network, with a token"],
  ];
  if (make.data?.token)
    return (
      <div className="mt-3 border-t border-rule-faint pt-3">
        <label className="block max-w-[36rem]">
          <span className="lab mb-1 block">
            Give this token to the sensor. It is shown this once; who has it can post readings for this instrument, and
            nothing else.
          </span>
          <input
            readOnly
            value={make.data.token}
            onFocus={(event) => event.target.select()}
            className="fig min-h-10 w-full rounded-(--radius) border border-rule bg-floor px-3"
          />
        </label>
        <p className="mt-2 text-[0.9375rem]">
          It posts to <span className="fig">/api/readings</span> with the header{" "}
          <span className="fig">Authorization: Bearer</span> and the token; the body is{" "}
          <span className="fig">
            {kind === "scale" ? '{"value": 412.5, "unit": "g"}' : '{"value": 21.5, "unit": "C"}'}
          </span>
          .
        </p>
        <Button className="mt-2" onClick={onDone}>
          It is written down
        </Button>
      </div>
    );
  return (
    <div className="mt-3 grid gap-3 border-t border-rule-faint pt-3 sm:grid-cols-2">
      <Choice
        label="It is"
        value={kind}
        options={free}
        onChange={(next) => {
          setKind(next);
          setUnit("");
          setExample(null);
        }}
      />
      <Pick label="Its port" value={port} options={ports} placeholder="choose a port" onChange={setPort} />
      <label className="block">
        <span className="lab mb-1 block">Its name</span>
        <input
          value={name}
          maxLength={40}
          placeholder={`${kindNames[kind]}, ${place.name}`}
          onChange={(event) => setName(event.target.value)}
          className="field w-full"
        />
      </label>
      {port !== BY_TOKEN && (
        <Pick
          label="Its speed, as its book says"
          value={baud}
          options={speeds.map((each) => [each, `${each} baud`] as const)}
          placeholder=""
          onChange={(next) => setBaud(next as typeof baud)}
        />
      )}
      <Choice
        label="Where it names no unit it means"
        value={unit || (kind === "scale" ? "g" : "°C")}
        options={(kind === "scale" ? ["g", "kg", "oz", "lb"] : ["°C", "°F"]).map((each) => [each, each] as const)}
        onChange={setUnit}
      />
      {port && port !== BY_TOKEN && (
        <div className="sm:col-span-2">
          <Button edits disabled={listen.isPending} onClick={() => listen.mutate()}>
            {listen.isPending ? "Listening" : "Listen to what it sends"}
          </Button>
          {listen.data && (
            <div className="fig mt-2 border border-rule bg-floor px-3 py-2 text-[0.875rem] whitespace-pre-wrap">
              {listen.data.lines.join("\n") || "nothing came: is it on, and is its speed right?"}
            </div>
          )}
          <Example
            key={`${kind} ${listen.data?.lines.join()}`}
            kind={kind}
            begins={listen.data?.lines ?? []}
            onExample={setExample}
          />
        </div>
      )}
      <p role="alert" className="text-[0.875rem] text-stop sm:col-span-2">
        {(listen.error ?? make.error)?.message}
      </p>
      <div className="flex gap-3 sm:col-span-2">
        <Button look="main" edits disabled={!port} onClick={() => make.mutate()}>
          Put it at {place.name}
        </Button>
        <Button onClick={onDone}>Not now</Button>
      </div>
    </div>
  );
}
