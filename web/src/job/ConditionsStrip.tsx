import { useMemo, useState } from "react";
import type { Conditions } from "../api/client";
import { DewFigure } from "../day/DewFigure";
import { Readings } from "../day/Readings";
import { useConditions } from "../day/useConditions";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Figure } from "../ui/Figure";
import { type Form, FormContext, useForm } from "../ui/form";
import { Ruler } from "../ui/Ruler";
import { useJob } from "./context";

export const COLDEST_C = 5;
export const WARMEST_C = 35;

/** The day's conditions. The ruler tries a temperature on the whole job; it is kept only when a person says so. */
export function ConditionsStrip() {
  const { document, plan, triedRoomC, tryRoom } = useJob();
  const { shop, units, clock } = useShop();
  const [typing, setTyping] = useState(false);
  const { set, failed } = useSetConditions();
  const shown = plan.conditions;
  const room_c = triedRoomC ?? shown.room_c;
  const chosen = plan.resins[0]?.chemistry.hardeners.find((hardener) => hardener.chosen);
  const own = document.conditions != null;
  const unread = !own && !shop.facts.room_read;
  const axis = units.axis("temperature");
  const size = 21;
  const temperature = (celsius: number | null | undefined) =>
    celsius == null ? "–" : units.number("temperature", celsius);
  return (
    <section
      aria-label="Conditions"
      data-path="conditions"
      className="order-3 flex min-w-0 flex-wrap items-center gap-x-4 gap-y-1 border-rule px-4 py-1.5 max-xl:w-full max-xl:border-t xl:order-2 xl:min-w-[33rem] xl:flex-1"
    >
      <Figure
        name={triedRoomC != null ? "Trying" : unread ? "Room, not read" : "Room"}
        number={temperature(room_c)}
        unit={axis.unit}
        size={size}
        tone={triedRoomC == null ? "text-ink" : "text-resin-ink"}
      />
      <div className="relative min-w-[150px] max-w-[420px] flex-1 max-md:order-last max-md:w-full max-md:max-w-none max-md:basis-full">
        <Ruler
          label="Try a room temperature"
          value={room_c}
          low={COLDEST_C}
          high={WARMEST_C}
          step={units.unit("temperature") === "°C" ? 0.5 : 5 / 9}
          good={chosen ? [chosen.band_low_c, chosen.band_high_c] : null}
          axis={axis}
          words={units.text("temperature", room_c)}
          className="w-full"
          onScrub={tryRoom}
        />
        {triedRoomC != null && (
          <div className="absolute top-full left-1/2 z-30 flex -translate-x-1/2 gap-2 border border-ink bg-sheet p-1.5 whitespace-nowrap">
            <Button edits look="main" className="min-h-9" onClick={() => void set({ ...shown, room_c })}>
              Keep {temperature(room_c)} {axis.unit}
            </Button>
            <Button onClick={() => tryRoom(null)}>Spring back</Button>
          </div>
        )}
      </div>
      <Figure name="Surface" number={temperature(shown.surface_c)} unit={axis.unit} size={size} />
      <Figure
        name="Humidity"
        number={shown.humidity_pct == null ? "–" : shown.humidity_pct.toFixed(0)}
        unit="%"
        size={size}
      />
      <DewFigure dew={plan.dew} size={size} about={plan.dew ? "dew" : undefined} />
      <button
        type="button"
        className="lab link text-left leading-tight"
        aria-expanded={typing}
        title="Type the readings"
        onClick={() => setTyping(!typing)}
      >
        {own ? "fixed for" : unread ? "type what" : "typed"}
        <br />
        {own ? "this job" : unread ? "you read" : clock(shop.conditions_read_at)}
      </button>
      <output className="sr-only">{triedRoomC != null ? spoken(units.text("temperature", room_c), plan) : ""}</output>
      {failed && triedRoomC != null && (
        <p role="alert" className="text-[0.8125rem] text-stop">
          {failed}
        </p>
      )}
      {typing && <Typing close={() => setTyping(false)} />}
    </section>
  );
}

/** What a reader hears while he scrubs. */
function spoken(at: string, plan: ReturnType<typeof useJob>["plan"]): string {
  const pots = plan.steps?.find((step) => step.step === "pots")?.headline ?? "";
  return `${at}: ${plan.resins[0]?.chemistry.sentence ?? "no resin yet"}; ${pots}`;
}

/** Keeps conditions: as the shop's day, or in the job that fixes its own. */
function useSetConditions() {
  const { document, plan, edit, replan, tryRoom } = useJob();
  const day = useConditions(replan);
  const own = document.conditions != null;
  async function set(change: Partial<Conditions>): Promise<void> {
    if (!own) return day.set(change);
    edit((before) => ({ ...before, conditions: { ...(before.conditions ?? plan.conditions), ...change } }));
    tryRoom(null);
  }
  return { ...day, set, own };
}

function Typing({ close }: { close: () => void }) {
  const { plan, document, edit } = useJob();
  const { set, form, read, own, failed } = useSetConditions();
  const job = useForm();
  const ofJob: Form = useMemo(
    () => ({ pending: job.pending, fault: (path) => job.fault(`conditions.${path}`) }),
    [job],
  );
  const conditions = own ? (document.conditions ?? plan.conditions) : read;
  return (
    <div className="order-last flex w-full flex-wrap items-start gap-x-4 gap-y-2 border-t border-rule pt-2">
      <FormContext.Provider value={own ? ofJob : form}>
        <Readings conditions={conditions} fieldKey="conditions" onSet={(next) => void set(next)} />
      </FormContext.Provider>
      <Choice
        label="These are"
        value={own ? "job" : "shop"}
        options={[
          ["shop", "the shop's day"],
          ["job", "this job's own"],
        ]}
        onChange={(whose) => edit((before) => ({ ...before, conditions: whose === "job" ? plan.conditions : null }))}
      />
      <Button className="mt-[22px]" onClick={close}>
        Done
      </Button>
      {failed && (
        <p role="alert" className="w-full text-[0.8125rem] text-stop">
          {failed}
        </p>
      )}
    </div>
  );
}
