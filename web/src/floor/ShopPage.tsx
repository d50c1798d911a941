import { useId } from "react";
import { Link } from "react-router";
import type { Settings } from "../api/client";
import { fixed } from "../format";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { PracticeFields } from "../steps/PracticeFields";
import { Choice } from "../ui/Choice";
import { FormContext } from "../ui/form";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { TextField } from "../ui/TextField";
import { useTitle } from "../ui/useTitle";
import { Benches } from "./Benches";
import { BenchFields } from "./BenchFields";
import { OtherTablets } from "./OtherTablets";
import { PlainHeader } from "./PlainHeader";
import { useSettings } from "./useSettings";
import { WholeShop } from "./WholeShop";

/** What the shop says about itself: its clock and money, how it reads what is typed, the tools at its bench. */
export function ShopPage() {
  const { shopId } = useSession();
  useTitle("Shop");
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <SettingsForm />
      </ShopProvider>
    </>
  );
}

/** Whose numbers, days and hours it writes: English as it is written there. */
function CountryField({ now, set }: { now: Settings; set: (change: Partial<Settings>) => void }) {
  const { shop } = useShop();
  const names = new Intl.DisplayNames(["en"], { type: "region" });
  const countries = shop.locales
    .map((locale) => [locale, names.of(locale.slice(3)) ?? locale] as const)
    .sort(([, one], [, other]) => one.localeCompare(other));
  const english = now.locale || "en-GB";
  const sample = new Date(2026, 10, 28, 14, 30);
  const day = sample.toLocaleDateString(english, { day: "numeric", month: "short", year: "numeric" });
  const said = now.locale ? "" : "; a comma that may part thousands is asked about";
  return (
    <Pick
      label="Numbers, days and hours are written as in"
      value={now.locale || NO_COUNTRY}
      placeholder="choose a country"
      path="locale"
      options={[[NO_COUNTRY, "no country in particular"], ...countries]}
      hint={`${fixed(1234.5, 1)}, ${day}, ${sample.toLocaleTimeString(english, { timeStyle: "short" })}${said}`}
      onChange={(locale) => set({ locale: locale === NO_COUNTRY ? "" : locale })}
    />
  );
}

const NO_COUNTRY = "none";

/** The hours a shop may open or close at. */
const HOURS = [5, 6, 7, 8, 9, 10, 12, 14, 16, 17, 18, 19, 20, 22, 24];

function SettingsForm() {
  const { now, set, form, faults, keeping } = useSettings();
  const { hourMark } = useShop();
  const zones = useId();
  return (
    <FormContext.Provider value={form}>
      <main className="mx-auto max-w-[1320px] px-4 py-6 sm:px-6">
        <h1 className="text-[1.625rem] font-semibold">{now.name}</h1>
        <p className="lab">
          Each field keeps itself. Units on your own screen are yours: change them above.{" "}
          <output>{keeping ? "keeping" : faults.length ? "not kept: see the red field" : "kept"}</output>
        </p>
        {faults.some((fault) => fault.path === "") && (
          <p role="alert" className="mt-2 text-stop">
            {faults[0]?.message}
          </p>
        )}
        <Group title="The shop">
          <TextField label="Name" path="name" value={now.name} onCommit={(name) => void set({ name })} />
          <div>
            <TextField
              label="Time zone"
              path="time_zone"
              value={now.time_zone}
              list={zones}
              onCommit={(time_zone) => void set({ time_zone })}
            />
            <datalist id={zones}>
              {Intl.supportedValuesOf("timeZone").map((zone) => (
                <option key={zone} value={zone} />
              ))}
            </datalist>
          </div>
          <TextField
            label="Currency, its three letters"
            path="currency"
            value={now.currency}
            onCommit={(currency) => void set({ currency: currency.toUpperCase() })}
          />
          <QuantityField
            label="It lies above the sea by"
            path="above_sea_m"
            fieldKey="settings.above_sea"
            dimension="length"
            value={now.above_sea_m}
            onCommit={(value) => value != null && void set({ above_sea_m: value })}
          />
        </Group>
        <Group title="How it reads what is typed">
          <Choice
            label="A fabric's number without a unit is"
            value={now.fabric_unit}
            options={[
              ["g/m²", "g/m²"],
              ["oz", "ounces"],
            ]}
            onChange={(fabric_unit) => void set({ fabric_unit })}
          />
          <Choice
            label="A fluid ounce is"
            value={now.fluid_ounce}
            options={[
              ["us", "US, 29.6 ml"],
              ["imperial", "imperial, 28.4 ml"],
            ]}
            onChange={(fluid_ounce) => void set({ fluid_ounce })}
          />
          <CountryField now={now} set={(change) => void set(change)} />
        </Group>
        <Group title="Hours">
          <Choice
            label="Opens at"
            value={String(now.opens_h)}
            options={HOURS.filter((at) => at < now.closes_h && at < 12).map((at) => [String(at), hourMark(at)])}
            onChange={(hour) => void set({ opens_h: Number(hour) })}
          />
          <Choice
            label="Closes at"
            value={String(now.closes_h)}
            options={HOURS.filter((at) => at > now.opens_h && at > 11).map((at) => [String(at), hourMark(at)])}
            onChange={(hour) => void set({ closes_h: Number(hour) })}
          />
        </Group>
        <Section title="The bench">
          <BenchFields now={now} set={(change) => void set(change)} />
        </Section>
        <Benches />
        <Section title="How it works">
          <p className="lab -mt-2 mb-4">What a new job begins with; each job may differ.</p>
          <PracticeFields
            columns="sm:grid-cols-2 xl:grid-cols-3"
            practice={now.practice}
            onChange={(change) => void set(({ practice }) => ({ practice: { ...practice, ...change } }))}
          />
        </Section>
        <OtherTablets />
        <WholeShop />
        <p className="lab mt-8 border-t border-rule pt-3">
          For those who build this:{" "}
          <Link to="/kit" className="link">
            the kit its screens are made of
          </Link>
        </p>
      </main>
    </FormContext.Provider>
  );
}

const idOf = (title: string) => title.toLowerCase().replaceAll(" ", "-");

function Section({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section id={idOf(title)} className="mt-7 border-t border-rule pt-4">
      <h2 className="mb-3 text-[1.1875rem] font-semibold">{title}</h2>
      {children}
    </section>
  );
}

const Group = ({ title, children }: { title: string; children: React.ReactNode }) => (
  <Section title={title}>
    <div className="grid items-start gap-x-5 gap-y-3 sm:grid-cols-2 xl:grid-cols-4">{children}</div>
  </Section>
);
