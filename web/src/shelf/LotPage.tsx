import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useRef, useState } from "react";
import { Link } from "react-router";
import { type Article, client, type Library, type Lot, type LotStory, taken } from "../api/client";
import { LotPicture } from "../drawing/LotPicture";
import { fixed } from "../format";
import { newTap } from "../job/context";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Download } from "../ui/Download";
import { FormContext } from "../ui/form";
import { NumberField } from "../ui/NumberField";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { TextField } from "../ui/TextField";
import { Tick } from "../ui/Tick";
import { useLocalForm } from "../ui/useLocalForm";
import { amountText, dateWords, priceText } from "./stock";

type Doing = "" | "count" | "waste" | "trial" | "bad" | "correct";

/** One lot: what is left of it, how it stands by its dates, and all that came and went. */
export function LotPage({ lotId, library }: { lotId: string; library: Library }) {
  const { shop, units, date, mayWrite } = useShop();
  const queries = useQueryClient();
  const [doing, setDoing] = useState<Doing>("");
  const [told, tell] = useState("");
  const path = { params: { path: { lot_id: lotId } } };
  const { data } = useQuery({
    queryKey: ["lot", lotId],
    queryFn: () => taken(client.GET("/api/lots/{lot_id}", path)),
    refetchOnMount: "always",
  });
  if (!data) return null;
  const { lot, unit } = data;
  const done = async (words: string) => {
    setDoing("");
    tell(words);
    await Promise.all(
      [
        ["lot", lotId],
        ["stock", shop.id],
      ].map((queryKey) => queries.invalidateQueries({ queryKey })),
    );
  };
  const open = (next: Doing) => {
    tell("");
    setDoing(doing === next ? "" : next);
  };
  const sets = /^(resin|hardener|catalyst) /.test(lot.article);
  const late = lot.bad || lot.keeping === "past";
  return (
    <section aria-label="Lot" className="min-w-0">
      <div className="flex flex-wrap items-start gap-x-8 gap-y-3">
        <LotPicture
          lot={lot}
          article={{ unit } as Article}
          today={data.today}
          fabric={library.fabrics?.find(({ id }) => lot.article === `fabric ${id}`)}
          times={2}
        />
        <div className="min-w-0 flex-1">
          <h2 className="text-[1.375rem] leading-tight font-semibold">{lot.name}</h2>
          <p className="lab">{lot.batch ? `lot ${lot.batch}` : "no lot number"}</p>
          <p className="fig mt-1 text-[3.25rem] leading-none">{amountText(units, unit, lot.left)}</p>
          <p className="lab">left of {amountText(units, unit, lot.came_with)}</p>
          <p className={`mt-1 text-[1rem] ${late ? "font-semibold text-stop" : ""}`}>
            {lot.bad ? `Not to be used: ${lot.bad}` : verdict(lot, date)}
          </p>
        </div>
      </div>
      <Facts lot={lot} unit={unit} />
      <div className="mt-4 flex flex-wrap items-center gap-2.5">
        {mayWrite && (
          <>
            <Button edits className="min-h-11" aria-expanded={doing === "count"} onClick={() => open("count")}>
              Count it
            </Button>
            <Button edits className="min-h-11" aria-expanded={doing === "waste"} onClick={() => open("waste")}>
              Some is gone
            </Button>
            {sets && (
              <Button edits className="min-h-11" aria-expanded={doing === "trial"} onClick={() => open("trial")}>
                Trial pot
              </Button>
            )}
            <Button edits className="min-h-11" aria-expanded={doing === "bad"} onClick={() => open("bad")}>
              {lot.bad ? "It may be used" : "Must not be used"}
            </Button>
            <Button edits className="min-h-11" aria-expanded={doing === "correct"} onClick={() => open("correct")}>
              Correct its label
            </Button>
          </>
        )}
        <Download href={`/api/lots/${lot.id}/label.pdf`} name="tin-label.pdf">
          Label
        </Download>
        <output className="text-[0.875rem] text-cool">{told}</output>
      </div>
      {doing === "count" && <Count lot={lot} unit={unit} onDone={done} />}
      {doing === "waste" && <Waste lot={lot} unit={unit} onDone={done} />}
      {doing === "trial" && <TrialPot lot={lot} library={library} onDone={done} />}
      {doing === "bad" && <Mark lot={lot} onDone={done} />}
      {doing === "correct" && <Correct lot={lot} unit={unit} onDone={done} />}
      <Moved story={data} />
    </section>
  );
}

function verdict(lot: Lot, date: (iso: string) => string): string {
  if (lot.asks_for_a_trial)
    return lot.keeping === "past"
      ? `Past its date, ${date(lot.until ?? "")}: gel a trial pot first.`
      : "No date on it: gel a trial pot first.";
  if (lot.trial_on && (lot.keeping === "past" || lot.keeping === "no date"))
    return `${dateWords({ ...lot, trial_on: null }, date)}, but a trial pot was right on ${date(lot.trial_on)}.`;
  if (lot.keeping === "keeps") return "It does not spoil.";
  return `Keeps until ${date(lot.until ?? "")}${lot.keeping === "soon" ? ": use it first" : ""}.`;
}

function Facts({ lot, unit }: { lot: Lot; unit: Article["unit"] }) {
  const { date, money, units } = useShop();
  const rows: [string, string][] = [["Came", date(lot.received)]];
  if (lot.width_mm != null) rows.push(["An offcut", `${units.words("cut", lot.width_mm)} wide`]);
  if (lot.ordered) rows.push(["Ordered", date(lot.ordered)]);
  if (lot.made) rows.push(["Made", date(lot.made)]);
  if (lot.opened) rows.push(["Opened", date(lot.opened)]);
  if (lot.until)
    rows.push([
      "Keeps until",
      `${date(lot.until)}, by ${lot.source === "data sheet" ? "its label or sheet" : lot.source}`,
    ]);
  if (lot.place) rows.push(["Stands", lot.place]);
  if (lot.stored_c != null) rows.push(["Where it is", units.words("temperature", lot.stored_c)]);
  if (lot.conditions.length) rows.push(["Seen", lot.conditions.join(", ")]);
  if (lot.price != null) rows.push(["Paid", priceText(units, unit, lot.price, money)]);
  return (
    <dl className="mt-4 flex flex-wrap gap-x-8 gap-y-2 border-t border-rule pt-3">
      {rows.map(([name, words]) => (
        <div key={name}>
          <dt className="lab">{name}</dt>
          <dd>{words}</dd>
        </div>
      ))}
    </dl>
  );
}

interface Does {
  lot: Lot;
  onDone: (words: string) => Promise<void>;
}

/** A few fields with one thing to do, under the buttons. */
function Small({
  title,
  act,
  words,
  onDone,
  children,
}: {
  title: string;
  act: () => Promise<string>;
  words: string;
  onDone: Does["onDone"];
  children?: (form: ReturnType<typeof useLocalForm>["form"]) => ReactNode;
}) {
  const { form, attempt, settled, faults } = useLocalForm(`inch-cradle.lot.${title}`);
  const acts = useRef(act);
  acts.current = act;
  return (
    <FormContext.Provider value={form}>
      <form
        aria-label={title}
        className="mt-3 max-w-[620px] border-l-4 border-ink pl-4"
        onSubmit={(event) => {
          event.preventDefault();
          let said = "";
          void attempt(async () => {
            await settled();
            said = await acts.current();
          }).then((kept) => (kept ? onDone(said) : undefined));
        }}
      >
        <div className="grid items-start gap-x-5 gap-y-2.5 sm:grid-cols-2">{children?.(form)}</div>
        <div className="mt-2.5 flex flex-wrap items-center gap-3">
          <Button edits look="main" type="submit">
            {words}
          </Button>
          <p role="alert" className="text-[0.875rem] text-stop">
            {faults[0]?.message}
          </p>
        </div>
      </form>
    </FormContext.Provider>
  );
}

/** How much, in the unit that a lot is kept in. */
function Amount({
  label,
  unit,
  value,
  onCommit,
}: {
  label: string;
  unit: Article["unit"];
  value: number | null;
  onCommit: (amount: number | null) => void;
}) {
  const [typed, setTyped] = useState("");
  if (unit === "") return <NumberField label={label} path="amount" value={value} live large onCommit={onCommit} />;
  return (
    <QuantityField
      label={label}
      path="amount"
      fieldKey={`amount.${label}`}
      dimension={unit === "g" ? "mass" : "length"}
      value={value}
      typed={typed}
      large
      onCommit={(amount, words) => {
        setTyped(words);
        onCommit(amount);
      }}
    />
  );
}

function Count({ lot, unit, onDone }: Does & { unit: Article["unit"] }) {
  const [amount, setAmount] = useState<number | null>(null);
  const [reason, setReason] = useState("");
  const [tap_id] = useState(newTap);
  const body = { tap_id, amount, expected: lot.left, reason };
  return (
    <Small
      title="Count it"
      words="Keep the count"
      onDone={onDone}
      act={async () => {
        await taken(client.POST("/api/lots/{lot_id}/count", { params: { path: { lot_id: lot.id } }, body }));
        return "counted";
      }}
    >
      {() => (
        <>
          <Amount label="Really there" unit={unit} value={amount} onCommit={setAmount} />
          <TextField label="Why it differs, as far as you know" path="reason" value={reason} onCommit={setReason} />
        </>
      )}
    </Small>
  );
}

function Waste({ lot, unit, onDone }: Does & { unit: Article["unit"] }) {
  const [amount, setAmount] = useState<number | null>(null);
  const [reason, setReason] = useState("");
  const [tap_id] = useState(newTap);
  return (
    <Small
      title="Some is gone"
      words="Take it off"
      onDone={onDone}
      act={async () => {
        const body = { tap_id, amount: amount ?? 0, reason };
        await taken(client.POST("/api/lots/{lot_id}/waste", { params: { path: { lot_id: lot.id } }, body }));
        return "taken off";
      }}
    >
      {() => (
        <>
          <Amount label="How much is gone" unit={unit} value={amount} onCommit={setAmount} />
          <TextField
            label="Where it went"
            path="reason"
            value={reason}
            placeholder="such as spilt, lent"
            onCommit={setReason}
          />
        </>
      )}
    </Small>
  );
}

function Mark({ lot, onDone }: Does) {
  const [bad, setBad] = useState("");
  return (
    <Small
      title="Must not be used"
      words={lot.bad ? "It may be used after all" : "Mark it, and all it went into"}
      onDone={onDone}
      act={async () => {
        const body = { bad: lot.bad ? "" : bad || " " };
        await taken(client.PUT("/api/lots/{lot_id}/bad", { params: { path: { lot_id: lot.id } }, body }));
        return lot.bad ? "it may be used" : "marked: no pot draws from it, and the pots it is in are marked below";
      }}
    >
      {() => !lot.bad && <TextField label="What is wrong with it" path="bad" value={bad} onCommit={setBad} />}
    </Small>
  );
}

function TrialPot({ lot, library, onDone }: Does & { library: Library }) {
  const { shop } = useShop();
  const resin = library.resins?.find(
    (each) => lot.article === `resin ${each.id}` || lot.article === `catalyst ${each.catalyst?.name}`,
  );
  const [hardener_id, setHardener] = useState("");
  const [catalyst_pct, setCatalyst] = useState<number | null>(null);
  const [mass_g, setMass] = useState<number | null>(50);
  const [room_c, setRoom] = useState<number | null>(shop.facts.conditions?.room_c ?? null);
  const [seen_min, setSeen] = useState<number | null>(null);
  return (
    <Small
      title="Trial pot"
      words="What does it say of the tin?"
      onDone={onDone}
      act={async () => {
        const body = { hardener_id, catalyst_pct, mass_g: mass_g ?? 0, room_c: room_c ?? 20, seen_min: seen_min ?? 0 };
        const { trial } = await taken(
          client.POST("/api/lots/{lot_id}/trial", { params: { path: { lot_id: lot.id } }, body }),
        );
        const expected = `${fixed(trial.expected_min, 0)} min were to be expected`;
        if (trial.verdict === "right") return `It gelled when it should: ${expected}. The tin may be used.`;
        return `It gelled ${trial.verdict}: ${expected}. Do not build with this tin.`;
      }}
    >
      {() => (
        <>
          {resin?.hardeners?.length ? (
            <Pick
              label="With which hardener"
              path="hardener_id"
              value={hardener_id}
              placeholder="choose"
              options={resin.hardeners.map(({ id, name }) => [id, name])}
              onChange={setHardener}
            />
          ) : null}
          {resin?.catalyst && (
            <NumberField
              label="Catalyst, % by weight"
              path="catalyst_pct"
              step={0.1}
              value={catalyst_pct}
              live
              onCommit={setCatalyst}
            />
          )}
          <QuantityField
            label="The pot weighs"
            path="mass_g"
            fieldKey="mass_g"
            dimension="mass"
            value={mass_g}
            onCommit={setMass}
          />
          <QuantityField
            label="In a room of"
            path="room_c"
            fieldKey="room_c"
            dimension="temperature"
            value={room_c}
            onCommit={setRoom}
          />
          <QuantityField
            label="It gelled after"
            path="seen_min"
            fieldKey="seen_min"
            dimension="time"
            value={seen_min}
            example={40}
            onCommit={setSeen}
          />
        </>
      )}
    </Small>
  );
}

const conditions = [
  ["crystallised", "crystals in it"],
  ["clouded", "clouded"],
  ["skinned", "a skin on it"],
  ["thickened", "thickened"],
] as const;

function Correct({ lot, unit, onDone }: Does & { unit: Article["unit"] }) {
  const { date } = useShop();
  const words = (iso: string | null | undefined) => (iso ? date(iso) : "");
  const [known, say] = useState({
    batch: lot.batch,
    place: lot.place,
    received: words(lot.received),
    ordered: words(lot.ordered),
    width_mm: lot.width_mm ?? null,
    made: words(lot.made),
    opened: words(lot.opened),
    expires: words(lot.expires),
    stored_c: lot.stored_c ?? null,
    price: lot.price ?? null,
    conditions: lot.conditions,
  });
  const put = (change: Partial<typeof known>) => say((before) => ({ ...before, ...change }));
  const text = (name: "batch" | "place" | "ordered" | "received" | "made" | "opened" | "expires", label: string) => (
    <TextField key={name} label={label} path={name} value={known[name]} onCommit={(next) => put({ [name]: next })} />
  );
  return (
    <Small
      title="Correct its label"
      words="Keep it so"
      onDone={onDone}
      act={async () => {
        await taken(client.PUT("/api/lots/{lot_id}", { params: { path: { lot_id: lot.id } }, body: known }));
        return "kept";
      }}
    >
      {() => (
        <>
          {text("batch", "Lot number, off the label")}
          {text("place", "Where it stands")}
          {unit === "m" && (
            <QuantityField
              label="How wide, of an offcut"
              path="width_mm"
              fieldKey="lot.width_mm"
              dimension="thickness"
              value={known.width_mm}
              placeholder="the whole roll"
              optional
              onCommit={(width_mm) => put({ width_mm })}
            />
          )}
          {text("ordered", "Ordered on")}
          {text("received", "Came on")}
          {text("made", "Made on")}
          {text("opened", "Opened on")}
          {text("expires", "Use by")}
          <QuantityField
            label="How cold it stands, where that is not the room"
            path="stored_c"
            fieldKey="stored_c"
            dimension="temperature"
            optional
            value={known.stored_c}
            onCommit={(stored_c) => put({ stored_c })}
          />
          <NumberField
            label={`Paid, a ${unit === "g" ? "kg" : unit || "piece"}`}
            path="price"
            step={0.01}
            value={known.price}
            live
            onCommit={(price) => put({ price })}
          />
          {unit === "g" && (
            <fieldset className="sm:col-span-2">
              <legend className="lab mb-1">What was seen in it</legend>
              <div className="flex flex-wrap gap-x-5">
                {conditions.map(([each, label]) => (
                  <Tick
                    key={each}
                    label={label}
                    checked={known.conditions.includes(each)}
                    onChange={(on) =>
                      put({
                        conditions: on
                          ? [...known.conditions, each]
                          : known.conditions.filter((other) => other !== each),
                      })
                    }
                  />
                ))}
              </div>
            </fieldset>
          )}
        </>
      )}
    </Small>
  );
}

const kindWords: Record<LotStory["movements"][number]["kind"], string> = {
  came: "came",
  drawn: "into",
  "put back": "put back from",
  counted: "counted",
  wasted: "gone",
};

/** All that came and went, the latest first: which pots and pieces the lot is in. */
function Moved({ story }: { story: LotStory }) {
  const { units, day, clock } = useShop();
  const { lot, unit } = story;
  return (
    <section className="mt-6" aria-label="What came and went">
      <h3 className="border-b border-ink pb-1 text-[1.0625rem] font-semibold">What came and went</h3>
      <table className="w-full">
        <thead className="sr-only">
          <tr>
            <th>How much</th>
            <th>What</th>
            <th>When and by whom</th>
          </tr>
        </thead>
        <tbody>
          {story.movements.map((each) => (
            <tr key={each.at + each.into + each.amount} className="border-b border-rule-faint align-baseline">
              <td className="fig py-2 pr-5 text-right text-[1.125rem] whitespace-nowrap">
                {each.amount > 0 ? "+" : each.amount < 0 ? "−" : ""}
                {amountText(units, unit, Math.abs(each.amount))}
              </td>
              <td className="py-2 pr-4">
                {[kindWords[each.kind], each.into].filter(Boolean).join(" ")}
                {each.job_id && (
                  <>
                    {" of "}
                    <Link className="link" to={`/jobs/${each.job_id}/${each.run_id ? "log" : "cut"}`}>
                      {each.job_name}
                    </Link>
                  </>
                )}
                {each.reason && `: ${each.reason}`}
                {lot.bad && each.amount < 0 && each.into && (
                  <strong className="ml-2 text-stop">of a bad lot: look at it</strong>
                )}
              </td>
              <td className="lab py-2 text-right whitespace-nowrap">
                {day(each.at)} {clock(each.at)}, {each.by}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
