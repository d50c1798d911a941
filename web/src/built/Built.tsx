import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { type BuiltOut, type BuiltPlace, client, Refused, taken } from "../api/client";
import { Snapshot } from "../bench/Snapshot";
import { LayersLaid } from "../drawing/LayersLaid";
import { PlaceMap } from "../drawing/PlaceMap";
import { Section } from "../drawing/Section";
import { PlainHeader } from "../floor/PlainHeader";
import { fixed, plural } from "../format";
import { amountText } from "../shelf/stock";
import { ShopProvider, useShop } from "../shop";
import { Download } from "../ui/Download";
import { SearchField } from "../ui/SearchField";
import { useTitle } from "../ui/useTitle";
import { Wide } from "../ui/Wide";

const SECTION_TALL = 400;

/** What a run built: asked by place, as planned beside as laid; what its code on the part opens. */
export function BuiltPage() {
  const { runId = "" } = useParams();
  const { data, error } = useQuery({
    queryKey: ["built", runId],
    queryFn: () => taken(client.GET("/api/runs/{run_id}/as-built", { params: { path: { run_id: runId } } })),
    refetchOnMount: "always",
  });
  useTitle(data ? `${data.built.job_name}, as built` : "As built");
  return (
    <>
      <PlainHeader />
      {error instanceof Refused && <p className="p-8 text-stop">{error.message}</p>}
      {data && (
        <ShopProvider key={data.shop_id} shopId={data.shop_id}>
          <Built runId={runId} told={data} />
        </ShopProvider>
      )}
    </>
  );
}

function Built({ runId, told }: { runId: string; told: BuiltOut }) {
  const { units, papers, day, clock } = useShop();
  const [search, setSearch] = useSearchParams();
  const { built } = told;
  const [asked, ask] = useState(search.get("find") ?? "");
  const places = (built.places ?? []).map((place, at) => ({ place, at }));
  const found = places.filter(({ place }) => called(place).toLowerCase().includes(asked.trim().toLowerCase()));
  const wanted = Number(search.get("place") ?? 0) - 1;
  // What has most to show stands open at first.
  const shown =
    found.find(({ at }) => at === wanted) ?? found.find(({ place }) => place.laid?.plies.length) ?? found[0];
  const open = (at: number) => {
    setSearch({ place: String(at + 1) }, { replace: true });
  };
  const at = momentsOf(told);
  const [low, high] = [built.coldest_c, built.warmest_c];
  return (
    <main className="mx-auto max-w-[1180px] px-4 py-5">
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div>
          <h1 className="text-[1.5rem] leading-tight font-semibold">{built.job_name}, as built</h1>
          <p className="lab">
            begun {day(at(built.begun_min))}, {clock(at(built.begun_min))} from revision {built.revision}
            {built.outcome ? ` · closed, ${built.outcome}` : " · still open"}
            {built.people?.length ? ` · ${built.people.join(", ")}` : ""} · room{" "}
            {low == null || high == null
              ? "not read"
              : units.text("temperature", low) + (low === high ? "" : ` to ${units.text("temperature", high)}`)}
            , planned for {units.text("temperature", built.planned_room_c)}
          </p>
          {built.simulated && (
            <p className="text-mid">Worked with simulated instruments: a trial, nothing of it was built.</p>
          )}
        </div>
        <p className="flex flex-wrap gap-x-3 print:hidden">
          {papers.map((paper) => (
            <Download key={paper} href={`/api/runs/${runId}/as-built.pdf?paper=${paper}`} name="as-built.pdf">
              {`Report on ${paper}`}
            </Download>
          ))}
          <Download href={`/api/runs/${runId}/tags.pdf?paper=${papers[0]}`} name="tags.pdf">
            Tags with a code
          </Download>
          <Download href={`/api/runs/${runId}/as-built.csv`} name="as-built.csv">
            CSV
          </Download>
          <Download href={`/api/runs/${runId}/as-built.json`} name="as-built.json">
            JSON
          </Download>
          <Link to={`/jobs/${told.job_id}/log`} className="link self-center text-[0.875rem]">
            Its log
          </Link>
        </p>
      </div>
      <div className="mt-4 grid gap-x-7 gap-y-5 lg:grid-cols-[16rem_1fr]">
        <div>
          <SearchField
            label="What lies on"
            value={asked}
            onChange={(words) => {
              ask(words);
              if (search.has("place")) setSearch({}, { replace: true });
            }}
          />
          <ul aria-label="Places" className="mt-2">
            {found.map(({ place, at }) => {
              const laid = place.layers.filter(({ state }) => state === "laid").length;
              return (
                <li key={place.id}>
                  <button
                    type="button"
                    aria-pressed={at === shown?.at}
                    onClick={() => open(at)}
                    className="min-h-11 w-full border-l-4 border-transparent py-1.5 pl-3 text-left hover:bg-sheet aria-pressed:border-ink aria-pressed:bg-sheet"
                  >
                    <span className="block leading-tight font-medium">{called(place)}</span>
                    <span className="lab">
                      {laid} of {plural(place.layers.length, "layer")} laid
                    </span>
                  </button>
                </li>
              );
            })}
          </ul>
          {!found.length && <p className="mt-2 text-ink-soft">Nothing here is called that.</p>}
        </div>
        {shown && (
          <AtPlace
            key={shown.place.id}
            place={shown.place}
            said={told.layers_said[shown.at] ?? []}
            damage={told.damages[shown.at]}
            lane={told.lanes.find(({ id }) => id === shown.place.lane)}
            onBay={(words) => {
              const of = places.find(({ place }) => place.bay === words && place.lane === shown.place.lane);
              if (of) open(of.at);
            }}
          />
        )}
      </div>
      <Otherwise told={told} />
      <PotsMade told={told} />
      <Drawn told={told} />
      <Noted runId={runId} told={told} />
    </main>
  );
}

/** When a minute of the run was. */
const momentsOf =
  ({ built }: BuiltOut) =>
  (minutes: number) =>
    new Date(Date.parse(built.issued_at) + minutes * 60_000).toISOString();

const called = (place: BuiltPlace) => [place.name, place.bay].filter(Boolean).join(", ");

function AtPlace({
  place,
  said,
  damage,
  lane,
  onBay,
}: {
  place: BuiltPlace;
  damage: BuiltOut["damages"][number] | undefined;
  said: BuiltOut["layers_said"][number];
  lane: BuiltOut["lanes"][number] | undefined;
  onBay: (words: string) => void;
}) {
  const { units, mayWrite } = useShop();
  const { planned, laid } = place;
  const tallest = Math.max(planned?.thickness_mm ?? 0, laid?.thickness_mm ?? 0);
  return (
    <section aria-label={called(place)} className="min-w-0">
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div>
          <h2 className="text-[1.25rem] font-semibold">{called(place)}</h2>
          {planned && laid && (
            <p>
              <span className="fig text-[2.75rem] leading-none">{units.text("thickness", laid.thickness_mm)}</span>
              <span className="lab pl-3">
                laid{share(laid.fibre_weight_fraction)}, of {units.text("thickness", planned.thickness_mm)} planned
                {share(planned.fibre_weight_fraction)}
              </span>
            </p>
          )}
          {damage && mayWrite && (
            <p className="print:hidden">
              <Link to="/damage" state={{ damage }} className="link text-[0.9375rem]">
                It is damaged here: begin its repair
              </Link>
            </p>
          )}
          {place.by_the_bag && (
            <p className="max-w-[62ch] text-[0.9375rem] text-ink-soft">
              The bag sets how much resin stays, so what was laid is drawn as thick as planned.
            </p>
          )}
        </div>
        {lane?.bays?.length ? <PlaceMap lane={lane} bay={place.bay} onBay={onBay} /> : null}
      </div>
      {!planned && <LayersLaid layers={place.layers} said={said} />}
      {planned && laid && (
        <div className="mt-3 grid gap-5 md:grid-cols-2">
          <figure>
            <figcaption className="lab">as planned</figcaption>
            <Section part={planned} focus="" onFocus={() => undefined} height={SECTION_TALL} tallestMm={tallest} />
          </figure>
          <figure>
            <figcaption className="lab">as laid</figcaption>
            <Section part={laid} focus="" onFocus={() => undefined} height={SECTION_TALL} tallestMm={tallest} />
          </figure>
        </div>
      )}
      <Wide label="Layers as they were laid" className="mt-3">
        <table className="w-full min-w-[680px]">
          <thead className="lab text-left">
            <tr className="border-b border-rule">
              <th className="py-1.5 font-normal">No.</th>
              <th className="font-normal">Layer, the lowest first</th>
              <th className="font-normal">Laid</th>
              <th className="font-normal">How it went on</th>
              <th className="font-normal">Pots</th>
              <th className="font-normal">Resin</th>
              <th className="font-normal">Read</th>
            </tr>
          </thead>
          <tbody>
            {place.layers.map((layer, at) => (
              <tr
                key={layer.id}
                className={`border-b border-rule-faint align-top ${layer.state === "laid" ? "" : "text-ink-soft"}`}
              >
                <td className="fig py-2 pr-3 text-[1.25rem] leading-none">{at + 1}</td>
                <td className="py-2 pr-4">{layer.words}</td>
                <td className={`py-2 pr-4 ${layer.state === "laid" ? "" : "font-semibold"}`}>{said[at]?.laid}</td>
                <td className={`py-2 pr-4 ${layer.went_on === "closed" ? "font-semibold text-stop" : ""}`}>
                  {said[at]?.went_on}
                </td>
                <td className="fig py-2 pr-4">{layer.pots?.join(", ")}</td>
                <td className="py-2 pr-4">{said[at]?.resin}</td>
                <td className="py-2">{said[at]?.read}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </section>
  );
}

const share = (fraction: number | null | undefined) =>
  fraction == null ? "" : `, fibre ${fixed(100 * fraction, 0)} %`;

function Otherwise({ told }: { told: BuiltOut }) {
  const { clock, day } = useShop();
  const { built } = told;
  const at = momentsOf(told);
  return (
    <section className="mt-7 bg-sheet px-4 py-4">
      <h2 className="text-[1.1875rem] font-semibold">Done otherwise than planned</h2>
      {!built.deviations?.length && <p className="mt-1">Nothing that was written down.</p>}
      <ul className="mt-1">
        {built.deviations?.map((each) => (
          <li key={`${each.kind} ${each.words} ${each.at_min}`} className="border-b border-rule-faint py-1.5">
            {each.words}
            {each.reason && `: “${each.reason}”`}
            <span className="lab">
              {" "}
              {[each.at_min == null ? "" : `${day(at(each.at_min))} ${clock(at(each.at_min))}`, each.by]
                .filter(Boolean)
                .join(", ")}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function PotsMade({ told }: { told: BuiltOut }) {
  const { units, clock } = useShop();
  const { built } = told;
  const at = momentsOf(told);
  if (!built.pots?.length) return null;
  return (
    <section className="mt-6">
      <h2 className="text-[1.1875rem] font-semibold">Pots</h2>
      <Wide label="Pots that were made" className="mt-1">
        <table className="w-full min-w-[760px]">
          <thead className="lab text-left">
            <tr className="border-b border-rule">
              <th className="py-1.5 font-normal">Pot</th>
              <th className="font-normal">For</th>
              <th className="font-normal">Of</th>
              <th className="text-right font-normal">Planned</th>
              <th className="text-right font-normal">Made</th>
              <th className="text-right font-normal">Off</th>
              <th className="pl-5 font-normal">Mixed</th>
              <th className="font-normal">What became of it</th>
            </tr>
          </thead>
          <tbody>
            {built.pots.map((pot, n) => (
              <tr key={pot.number} className="border-b border-rule-faint align-top">
                <td className="fig py-2 pr-3 text-[1.25rem] leading-none">{pot.number}</td>
                <td className="py-2 pr-4">{pot.where}</td>
                <td className="py-2 pr-4">
                  {pot.resin_name} {pot.hardener}
                  {pot.lots?.map((lot) => (
                    <Link
                      key={lot.id}
                      to={`/shelf/lot/${lot.id}`}
                      className={`flex min-h-7 items-center text-[0.875rem] hover:underline ${lot.bad ? "font-semibold text-stop" : "text-ink-soft"}`}
                    >
                      {amountText(units, lot.unit, lot.amount)} of {lot.called}
                      {lot.bad && `, a bad lot: ${lot.bad}`}
                    </Link>
                  ))}
                </td>
                <td className="fig py-2 text-right whitespace-nowrap">{units.text("mass", pot.planned_g)}</td>
                <td className="fig py-2 pl-4 text-right whitespace-nowrap">
                  {pot.made_g == null ? "–" : units.text("mass", pot.made_g)}
                </td>
                <td className="fig py-2 pl-4 text-right whitespace-nowrap">
                  {pot.off_pct == null ? "–" : `${pot.off_pct < 0 ? "−" : "+"}${fixed(Math.abs(pot.off_pct), 1)} %`}
                </td>
                <td className="py-2 pl-5 whitespace-nowrap">
                  {pot.touched_min != null && clock(at(pot.touched_min))}
                  <span className="lab block">
                    {[pot.by, pot.room_c == null ? "" : units.text("temperature", pot.room_c)]
                      .filter(Boolean)
                      .join(", ")}
                  </span>
                </td>
                <td className="py-2">{told.pots_said[n]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </section>
  );
}

/** What the pieces took off which rolls, and what all of it cost. */
function Drawn({ told: { built, cost } }: { told: BuiltOut }) {
  const { units, money } = useShop();
  if (!cost) return null;
  return (
    <section className="mt-6">
      <h2 className="text-[1.1875rem] font-semibold">What it took and cost</h2>
      <p>
        <span className="fig text-[2rem] leading-tight">{money(cost.known)}</span>
        <span className="lab pl-3">
          of what was drawn from the stock, by what each lot cost
          {cost.per_m2 != null && `, ${money(cost.per_m2)} a m²`}
        </span>
      </p>
      {cost.wasted > 0 && (
        <p className="text-[1rem]">
          {money(cost.wasted)} of it was wasted: pots that were lost, and what was left over.
        </p>
      )}
      {cost.unpriced.length > 0 && <p className="lab">Without a price: {cost.unpriced.join(" · ")}.</p>}
      <ul aria-label="Cut for it" className="mt-1">
        {built.cut?.map((lot) => (
          <li key={lot.id}>
            <Link
              to={`/shelf/lot/${lot.id}`}
              className={`flex min-h-7 items-center hover:underline ${lot.bad ? "font-semibold text-stop" : ""}`}
            >
              {amountText(units, lot.unit, lot.amount)} of {lot.called}
              {lot.bad && `, a bad lot: ${lot.bad}`}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Noted({ runId, told }: { runId: string; told: BuiltOut }) {
  const { clock, day } = useShop();
  const { built } = told;
  if (!built.noted?.length) return null;
  const at = momentsOf(told);
  return (
    <section className="mt-6">
      <h2 className="text-[1.1875rem] font-semibold">Notes and photos</h2>
      <ul className="mt-1 grid gap-x-6 sm:grid-cols-2">
        {built.noted.map((each) => (
          <li key={`${each.at_min} ${each.subject} ${each.words}`} className="border-b border-rule-faint py-1.5">
            <span className="lab">
              {day(at(each.at_min))} {clock(at(each.at_min))}, {[each.by, each.where].filter(Boolean).join(", ")}
            </span>
            {each.words && <span className="block">“{each.words}”</span>}
            {each.photo != null && <Snapshot runId={runId} eventId={each.photo} />}
          </li>
        ))}
      </ul>
    </section>
  );
}
