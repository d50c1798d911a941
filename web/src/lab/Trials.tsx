import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, type LabOut, type LabResult, type PotTrial, Refused, type ResinSystem, taken } from "../api/client";
import { HeatCurve } from "../drawing/HeatCurve";
import { MassCurve } from "../drawing/MassCurve";
import { minutes } from "../format";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { FormContext } from "../ui/form";
import { NumberField } from "../ui/NumberField";
import { Pick as PickField } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { useLocalForm } from "../ui/useLocalForm";
import { Waiting } from "../ui/Waiting";

const NAMES = ["A", "B", "C"];
const VESSELS = [
  ["cup", "left in its cup"],
  ["tray", "poured into a tray"],
  ["tray on a cool pack", "in a tray on a cool pack"],
  ["spread on the work", "spread on the work"],
  ["casting", "cast in a form of wood"],
] as const;

/** A pot to try, without what the core fills in as usual. */
export type Trial = Pick<PotTrial, "mass_g" | "room_c"> & Partial<PotTrial>;

/** Pots tried before any is poured: up to three side by side, through time. */
export function Trials({
  place,
  asked,
  resin,
  usual,
  unsaid,
  ask,
}: {
  /** Where words that are being typed are kept. */
  place: string;
  /** What the answers hang on beside the trials. */
  asked: readonly string[];
  resin: ResinSystem;
  usual: Trial;
  /** What a hardener or a dose is that nobody chose. */
  unsaid: string;
  ask: (trials: Trial[]) => Promise<LabOut>;
}) {
  // What is left out is as usual, and comes back with the answer.
  const [trials, setTrials] = useState<Trial[]>([usual, { ...usual, vessel: "tray" }]);
  const { form, attempt } = useLocalForm(place);
  const { data, error } = useQuery({
    queryKey: [...asked, trials],
    queryFn: () => ask(trials),
    placeholderData: keepPreviousData,
    retry: false,
  });
  // What was refused is said at its field; the last answer stays in sight.
  useEffect(() => {
    void attempt(async () => {
      if (error instanceof Refused) throw error;
    });
  }, [error, attempt]);
  const change = (at: number, next: Partial<Trial>) =>
    setTrials((before) => before.map((trial, other) => (other === at ? { ...trial, ...next } : trial)));
  return (
    <FormContext.Provider value={form}>
      {!data && !error && <Waiting words="The heat of these pots is being worked out" tall="min-h-80" />}
      {data && (
        <div className="grid gap-6 lg:grid-cols-[2.1fr_1fr]">
          <HeatCurve results={data.results} levels={data.levels} names={NAMES} />
          <MassCurve
            points={data.by_mass}
            level={data.levels.at(-1)}
            massG={trials[0]?.mass_g ?? 0}
            roomC={trials[0]?.room_c ?? 20}
          />
        </div>
      )}
      <div className="mt-4 grid gap-px border border-rule bg-rule lg:grid-cols-3">
        {trials.map((trial, at) => (
          <TrialCard
            // biome-ignore lint/suspicious/noArrayIndexKey: a trial is its place
            key={at}
            at={at}
            unsaid={unsaid}
            trial={trial}
            result={data?.results[at]}
            pouredOutMm={data?.poured_out_mm}
            hardeners={resin.hardeners.map(({ id, name }) => [id, name] as const)}
            change={(next) => change(at, next)}
            remove={trials.length > 1 ? () => setTrials((before) => before.filter((_, other) => other !== at)) : null}
          />
        ))}
        {trials.length < 3 && (
          <div className="grid min-h-32 place-items-center bg-sheet p-4">
            <Button onClick={() => setTrials((before) => [...before, before.at(-1) ?? usual])}>
              Put another beside them
            </Button>
          </div>
        )}
      </div>
      {data && <p className="lab mt-2">{data.surface_words}</p>}
    </FormContext.Provider>
  );
}

function TrialCard({
  at,
  unsaid,
  trial,
  result,
  pouredOutMm,
  hardeners,
  change,
  remove,
}: {
  at: number;
  unsaid: string;
  trial: Trial;
  result: LabResult | undefined;
  pouredOutMm: number | undefined;
  hardeners: (readonly [string, string])[];
  change: (next: Partial<Trial>) => void;
  remove: (() => void) | null;
}) {
  const { shop, units } = useShop();
  const path = `trials.${at}`;
  const { data: library } = useQuery({
    queryKey: ["library", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/library", { params: { path: { shop_id: shop.id } } })),
  });
  return (
    <section aria-label={`Pot ${NAMES[at]}`} className="space-y-2 bg-sheet p-4">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-[1.0625rem] font-semibold">
          Pot {NAMES[at]}
          <span className="lab ml-2">{result?.name}</span>
        </h2>
        {remove && (
          <Button look="text" onClick={remove}>
            take pot {NAMES[at]} away
          </Button>
        )}
      </div>
      {result && (
        <div aria-live="polite">
          <p className="flex flex-wrap items-baseline gap-x-5">
            <span className="fig text-[2.5rem] leading-none">
              {minutes(result.life_min)} <span className="text-[1rem] font-normal text-ink-soft">min to gel</span>
            </span>
            <span>
              <span className="lab">peak </span>
              <span className={`fig text-[1.375rem] ${result.suffers ? "text-kick" : ""}`}>{result.peak_words}</span>
            </span>
          </p>
          <p className="text-[0.875rem]">
            {result.words}
            {result.depth_mm != null && `, ${units.text("size", result.depth_mm)} deep`}
          </p>
        </div>
      )}
      <div className="grid grid-cols-2 items-start gap-x-3 gap-y-1">
        <QuantityField
          label="A pot of"
          path={`${path}.mass_g`}
          fieldKey={`${path}.mass`}
          dimension="mass"
          value={trial.mass_g}
          onCommit={(mass_g) => mass_g != null && change({ mass_g })}
        />
        <QuantityField
          label="in a room at"
          path={`${path}.room_c`}
          fieldKey={`${path}.room`}
          dimension="temperature"
          value={trial.room_c}
          onCommit={(room_c) => room_c != null && change({ room_c })}
        />
        {hardeners.length > 0 ? (
          <PickField
            label="hardener"
            path={`${path}.hardener_id`}
            value={trial.hardener_id ?? ""}
            options={hardeners}
            placeholder={unsaid}
            onChange={(hardener_id) => change({ hardener_id })}
          />
        ) : (
          <NumberField
            label="catalyst, % by weight"
            path={`${path}.catalyst_pct`}
            value={trial.catalyst_pct}
            step={0.1}
            placeholder={unsaid}
            onCommit={(catalyst_pct) => change({ catalyst_pct })}
          />
        )}
        <PickField
          label="and then"
          path={`${path}.vessel`}
          value={trial.vessel ?? "cup"}
          options={VESSELS}
          placeholder="left in its cup"
          onChange={(vessel) => change({ vessel: vessel as PotTrial["vessel"], poured_out_min: null })}
        />
        {trial.vessel === "cup" && (
          <QuantityField
            label={`poured out${pouredOutMm ? ` ${units.words("size", pouredOutMm)}` : ""} thin after`}
            path={`${path}.poured_out_min`}
            fieldKey={`${path}.poured`}
            dimension="time"
            value={trial.poured_out_min}
            optional
            placeholder="never"
            onCommit={(poured_out_min) => change({ poured_out_min })}
          />
        )}
        {(trial.vessel === "tray" || trial.vessel === "tray on a cool pack") && (
          <QuantityField
            label="a tray of"
            path={`${path}.tray_m2`}
            fieldKey={`${path}.tray`}
            dimension="area"
            value={trial.tray_m2 ?? result?.trial.tray_m2}
            onCommit={(tray_m2) => tray_m2 != null && change({ tray_m2 })}
          />
        )}
        {trial.vessel === "tray on a cool pack" && (
          <QuantityField
            label="the pack at (dry, not ice)"
            path={`${path}.pack_c`}
            fieldKey={`${path}.pack`}
            dimension="temperature"
            value={trial.pack_c ?? result?.trial.pack_c}
            onCommit={(pack_c) => pack_c != null && change({ pack_c })}
          />
        )}
        {trial.vessel === "casting" && (
          <QuantityField
            label="how deep"
            path={`${path}.casting_mm`}
            fieldKey={`${path}.casting`}
            dimension="thickness"
            value={trial.casting_mm ?? result?.trial.casting_mm}
            onCommit={(casting_mm) => casting_mm != null && change({ casting_mm })}
          />
        )}
        {(trial.vessel ?? "cup") === "cup" && library && (
          <PickField
            label="which cup"
            path={`${path}.vessel_id`}
            value={trial.vessel_id ?? ""}
            options={library.vessels.filter(({ form }) => form !== "tray").map(({ id, name }) => [id, name] as const)}
            placeholder="the usual one"
            onChange={(vessel_id) => change({ vessel_id })}
          />
        )}
        {trial.vessel === "spread on the work" && (
          <QuantityField
            label="spread"
            path={`${path}.spread_mm`}
            fieldKey={`${path}.spread`}
            dimension="thickness"
            value={trial.spread_mm ?? result?.trial.spread_mm}
            onCommit={(spread_mm) => spread_mm != null && change({ spread_mm })}
          />
        )}
        <QuantityField
          label="the tins at"
          path={`${path}.start_c`}
          fieldKey={`${path}.start`}
          dimension="temperature"
          value={trial.start_c}
          optional
          placeholder="as the room"
          onCommit={(start_c) => change({ start_c })}
        />
      </div>
      {result && (
        <ol className="border-t border-rule">
          {result.marks.map((mark) => (
            <li
              key={mark.words}
              className="grid grid-cols-[76px_64px_1fr] items-baseline gap-2 border-b border-rule-faint py-1"
            >
              <span className="fig text-right text-[1.0625rem]">{minutes(mark.minute)} min</span>
              <span className="lab text-right">{units.text("temperature", Math.round(mark.surface_c))}</span>
              <span className="text-[0.875rem]">{mark.words}</span>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
