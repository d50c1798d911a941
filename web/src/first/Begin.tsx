import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { useNavigate } from "react-router";
import { client, type Fault, Refused, type Schemas, taken } from "../api/client";
import { dropKept } from "../api/reach";
import { useSession } from "../session";
import { Button } from "../ui/Button";
import { Sign } from "../ui/Sign";

type Asked = Schemas["BeginOut"];
const names = new Intl.DisplayNames(["en"], { type: "region" });
const nameOf = (locale: string) => names.of(locale.slice(3)) ?? locale;

/** The country of this device, where it is one of the list; else the first of it that is named so. */
function countryHere(countries: Asked["countries"]): string {
  const here = navigator.languages.map((language) => `en-${language.slice(3).toUpperCase()}`);
  return here.find((locale) => countries.some((country) => country.locale === locale)) ?? "en-GB";
}

/** What a program asks that nobody belongs to yet: whose it is, and in which country. */
export function Begin() {
  const asked = useQuery({ queryKey: ["begin"], queryFn: () => taken(client.GET("/api/begin")) });
  if (!asked.data) return null;
  return <BeginForm asked={asked.data} />;
}

function BeginForm({ asked }: { asked: Asked }) {
  const { keep } = useSession();
  const go = useNavigate();
  const [said, setSaid] = useState({ person: "", password: "", shop: "", key: "" });
  const [locale, setLocale] = useState(() => countryHere(asked.countries));
  const country = asked.countries.find((each) => each.locale === locale);
  const [other, setOther] = useState<{ units?: "metric" | "US"; currency?: string }>({});
  const [faults, setFaults] = useState<Fault[]>([]);
  const [busy, setBusy] = useState(false);
  const units = other.units ?? country?.units ?? "metric";
  const currency = other.currency ?? country?.currency ?? "EUR";
  const time_zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const id = useId();
  async function submit(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    setFaults([]);
    try {
      const body = { ...said, shop: said.shop.trim(), locale, units, currency: currency.toUpperCase(), time_zone };
      const session = await taken(client.POST("/api/begin", { body }));
      await dropKept();
      keep(session);
      await go("/first", { replace: true });
    } catch (refused) {
      const other = [{ path: "", message: "something went wrong: try again" }];
      setFaults(refused instanceof Refused ? refused.faults : other);
      setBusy(false);
    }
  }
  const faultOf = (path: string) => faults.find((fault) => fault.path === path)?.message;
  const loose = faults.find((fault) => !fields.some((field) => field === fault.path));
  const field = (
    name: "person" | "password" | "shop" | "key",
    label: string,
    hint: string,
    more: { type?: string; autoComplete?: string } = {},
  ) => (
    <div className="mt-4">
      <label className="lab mb-1 block" htmlFor={`${id}-${name}`}>
        {label}
      </label>
      <input
        id={`${id}-${name}`}
        className={`${box} ${faultOf(name) ? "border-stop" : "border-rule"}`}
        value={said[name]}
        maxLength={name === "shop" ? 80 : 200}
        required
        aria-describedby={`${id}-${name}-hint`}
        onChange={(event) => setSaid({ ...said, [name]: event.target.value })}
        {...more}
      />
      <p id={`${id}-${name}-hint`} className={`mt-0.5 text-[0.8125rem] ${faultOf(name) ? "text-stop" : "lab"}`}>
        {faultOf(name) ?? hint}
      </p>
    </div>
  );
  return (
    <main className="mx-auto grid min-h-dvh max-w-[980px] content-center gap-x-16 gap-y-6 p-6 md:grid-cols-[1fr_1.1fr]">
      <div>
        <div className="flex items-center gap-3">
          <Sign size={56} />
          <h1 className="text-[2rem] font-semibold">Inch Cradle</h1>
        </div>
        <p className="mt-5 max-w-[36ch] text-[1.25rem] leading-snug">
          It works out what to weigh, which hardener, how large a pot and when each layer goes on. Then it keeps what
          each pot really did.
        </p>
        <p className="mt-5 max-w-[42ch]">
          Nobody belongs here yet. You are the first: what you type here makes your shop, and you its owner. Others come
          in by links that you give them.
        </p>
        <p className="lab mt-5 max-w-[46ch]">
          All of it stays on the machine this runs on. It does not size structure: how thick a hull must be is for its
          designer, the class rules or a licensed naval architect.
        </p>
      </div>
      <form onSubmit={submit}>
        {asked.asks_key && field("key", "The word that the server's terminal shows", "eight letters and digits")}
        {field("person", "Your name", "as others in the shop know you", { autoComplete: "username" })}
        {field("password", "A password", "eight letters or more, and no common word", {
          type: "password",
          autoComplete: "new-password",
        })}
        {field("shop", "The name of your shop", "your own is enough, if you work alone", {
          autoComplete: "organization",
        })}
        <div className="mt-4 grid grid-cols-2 gap-3 sm:grid-cols-[1.6fr_1fr_1fr]">
          <div className="max-sm:col-span-2">
            <label className="lab mb-1 block" htmlFor={`${id}-country`}>
              Country
            </label>
            <select
              id={`${id}-country`}
              className={`${box} border-rule`}
              value={locale}
              onChange={(event) => {
                setLocale(event.target.value);
                setOther({});
              }}
            >
              {asked.countries
                .map((each) => [each.locale, nameOf(each.locale)] as const)
                .sort(([, one], [, next]) => one.localeCompare(next))
                .map(([each, name]) => (
                  <option key={each} value={each}>
                    {name}
                  </option>
                ))}
            </select>
          </div>
          <div>
            <label className="lab mb-1 block" htmlFor={`${id}-units`}>
              Units
            </label>
            <select
              id={`${id}-units`}
              className={`${box} border-rule`}
              value={units}
              onChange={(event) => setOther({ ...other, units: event.target.value as "metric" | "US" })}
            >
              <option value="metric">g °C</option>
              <option value="US">oz °F</option>
            </select>
          </div>
          <div>
            <label className="lab mb-1 block" htmlFor={`${id}-currency`}>
              Money
            </label>
            <input
              id={`${id}-currency`}
              className={`${box} ${faultOf("currency") ? "border-stop" : "border-rule"} uppercase`}
              value={currency}
              maxLength={3}
              pattern="[A-Za-z]{3}"
              title="its three letters, such as EUR"
              onChange={(event) => setOther({ ...other, currency: event.target.value })}
            />
          </div>
        </div>
        <p className="lab mt-0.5">Any field takes any unit; these are what you read. All may be changed later.</p>
        <p role="alert" className="min-h-7 pt-1 text-[0.875rem] text-stop">
          {loose?.message ?? ""}
        </p>
        <Button look="main" type="submit" className="w-full" disabled={busy}>
          {busy ? "Making your shop …" : "Begin"}
        </Button>
      </form>
    </main>
  );
}

const fields = ["person", "password", "shop", "key", "currency"] as const;
const box = "min-h-12 w-full rounded-(--radius) border bg-sheet px-3 text-[1.0625rem] hover:border-ink";
