import { useQueryClient } from "@tanstack/react-query";
import { Slider } from "radix-ui";
import { useState } from "react";
import { type Conditions, client, taken } from "../api/client";
import { clock, degrees } from "../format";
import { Button } from "../ui/Button";
import { Figure } from "../ui/Figure";
import { QuantityField } from "../ui/QuantityField";
import { useJob } from "./context";

const LOW = 5;
const HIGH = 35;

/** The day's conditions. The ruler tries a temperature on the whole job; it is kept only when a person says so. */
export function ConditionsStrip() {
  const { shop, plan, tried, tryConditions } = useJob();
  const [typing, setTyping] = useState(false);
  const now = shop.facts.conditions;
  const shown = tried ?? plan.conditions;
  const keep = useKeep();
  return (
    <div className="order-3 flex min-w-0 flex-wrap items-center gap-x-6 gap-y-1 border-rule px-4 py-1.5 max-md:w-full max-md:gap-x-4 max-md:border-t md:order-2 md:flex-1">
      <button
        type="button"
        onClick={() => setTyping(!typing)}
        className="text-left"
        aria-expanded={typing}
        title="Type the day's readings"
      >
        <Figure
          name="Room"
          number={degrees(shown.room_c)}
          unit="°C"
          size={21}
          tone={tried ? "text-cool" : "text-ink"}
        />
      </button>
      <Ruler value={shown.room_c} onTry={(room_c) => tryConditions({ ...now, room_c })} />
      {tried ? (
        <div className="flex items-center gap-2">
          <Button onClick={() => void keep(tried)}>Keep {degrees(tried.room_c)}</Button>
          <Button onClick={() => tryConditions(null)}>Spring back</Button>
        </div>
      ) : (
        <>
          <Figure name="Surface" number={now.surface_c == null ? "–" : degrees(now.surface_c)} unit="°C" size={21} />
          <Figure
            name="Humidity"
            number={now.humidity_pct == null ? "–" : now.humidity_pct.toFixed(0)}
            unit="%"
            size={21}
          />
          <button type="button" className="lab link text-left leading-tight" onClick={() => setTyping(!typing)}>
            typed
            <br />
            {clock(shop.conditions_read_at)}
          </button>
        </>
      )}
      {typing && <Readings close={() => setTyping(false)} />}
    </div>
  );
}

function useKeep() {
  const { shop, replan } = useJob();
  const queries = useQueryClient();
  return async (conditions: Conditions) => {
    const next = await taken(
      client.PUT("/api/shops/{shop_id}/conditions", { params: { path: { shop_id: shop.id } }, body: conditions }),
    );
    queries.setQueryData(["shop", shop.id], next);
    await replan();
  };
}

function Ruler({ value, onTry }: { value: number; onTry: (celsius: number) => void }) {
  const { plan } = useJob();
  const chosen = plan.chemistry?.hardeners.find((hardener) => hardener.chosen);
  const at = (celsius: number) => ((Math.min(HIGH, Math.max(LOW, celsius)) - LOW) / (HIGH - LOW)) * 100;
  const marks = Array.from({ length: HIGH - LOW + 1 }, (_, index) => LOW + index);
  return (
    <Slider.Root
      min={LOW}
      max={HIGH}
      step={0.5}
      value={[Math.min(HIGH, Math.max(LOW, value))]}
      onValueChange={([celsius]) => celsius !== undefined && onTry(celsius)}
      className="relative h-11 w-[250px] max-w-full max-md:w-[150px] touch-none select-none"
    >
      <Slider.Track className="absolute inset-0">
        <svg
          viewBox="0 0 100 44"
          preserveAspectRatio="none"
          className="absolute inset-0 h-full w-full"
          aria-hidden="true"
        >
          {chosen && (
            <rect
              x={at(chosen.band_low_c)}
              width={at(chosen.band_high_c) - at(chosen.band_low_c)}
              y="10"
              height="12"
              fill="#D3E3EF"
            />
          )}
          {marks.map((mark) => (
            <path
              key={mark}
              d={`M${at(mark)} 22V${mark % 5 === 0 ? 10 : 16}`}
              stroke="#12252B"
              vectorEffect="non-scaling-stroke"
              strokeWidth="1"
            />
          ))}
          <path d="M0 22H100" stroke="#12252B" vectorEffect="non-scaling-stroke" strokeWidth="1" />
        </svg>
        {marks
          .filter((mark) => mark % 10 === 0)
          .map((mark) => (
            <span
              key={mark}
              className="fig absolute top-[29px] -translate-x-1/2 text-[12.5px] text-ink-soft"
              style={{ left: `${at(mark)}%` }}
            >
              {mark}
            </span>
          ))}
      </Slider.Track>
      <Slider.Thumb
        aria-label="Try a room temperature, degrees Celsius"
        className="relative top-[14px] block h-4 w-4 rounded-full border-[2.5px] border-ink bg-sheet"
      />
    </Slider.Root>
  );
}

function Readings({ close }: { close: () => void }) {
  const { shop } = useJob();
  const keep = useKeep();
  const now = shop.facts.conditions;
  const [error, setError] = useState("");
  async function set(change: Partial<Conditions>) {
    try {
      await keep({ ...now, ...change });
      setError("");
    } catch (refused) {
      setError(refused instanceof Error ? refused.message : "");
    }
  }
  return (
    <div className="flex w-full flex-wrap items-start gap-3 border-t border-rule pt-2">
      <div className="w-36">
        <QuantityField
          label="Room air"
          path="conditions.room_c"
          fieldKey="conditions.room_c"
          dimension="temperature"
          unit="°C"
          value={now.room_c}
          onCommit={(value) => value != null && void set({ room_c: value })}
        />
      </div>
      <div className="w-36">
        <QuantityField
          label="Surface"
          path="conditions.surface_c"
          fieldKey="conditions.surface_c"
          dimension="temperature"
          unit="°C"
          value={now.surface_c}
          optional
          onCommit={(value) => void set({ surface_c: value })}
        />
      </div>
      <p role="alert" className="max-w-60 pt-6 text-[13px] text-stop">
        {error}
      </p>
      <Button className="mt-[22px]" onClick={close}>
        Done
      </Button>
    </div>
  );
}
