import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { client, type Shop, taken } from "../api/client";
import { DewFigure } from "../day/DewFigure";
import { Readings } from "../day/Readings";
import { useConditions } from "../day/useConditions";
import { DayCurve } from "../drawing/DayCurve";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Figure } from "../ui/Figure";
import { FilePick } from "../ui/FilePick";
import { FormContext } from "../ui/form";
import { QuantityField } from "../ui/QuantityField";
import { useLocalForm } from "../ui/useLocalForm";
import { Explained } from "../ui/Worked";

const REFRESH_MS = 60_000;

/** The room today: what was read, what is expected, and the hours in which the shop's `resins`, by their ids, may be laid. */
export function Today({ resins }: { resins: string }) {
  const { shop, units, clock, day: dateOf } = useShop();
  const [typing, setTyping] = useState(!shop.facts.room_read);
  const day = useQuery({
    queryKey: ["day", shop.id, shop.conditions_read_at, shop.facts.day, shop.forecast_from, resins],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/day", { params: { path: { shop_id: shop.id } } })),
    refetchInterval: REFRESH_MS,
    placeholderData: (before) => before,
  });
  const explain = useCallback(
    (about: string) =>
      taken(client.POST("/api/shops/{shop_id}/working", { params: { path: { shop_id: shop.id } }, body: { about } })),
    [shop.id],
  );
  const now = shop.facts.conditions;
  const temperature = (celsius: number | null | undefined) =>
    celsius == null ? "–" : units.number("temperature", celsius);
  const unit = units.unit("temperature");
  return (
    <section aria-labelledby="today" className="min-w-0">
      <div className="flex flex-wrap items-end gap-x-7 gap-y-2">
        <h2 id="today" className="sr-only">
          Today
        </h2>
        <Figure name="Room" number={temperature(shop.facts.room_read ? now?.room_c : null)} unit={unit} size={34} />
        <Figure name="Surface" number={temperature(now?.surface_c)} unit={unit} size={34} />
        <Figure
          name="Humidity"
          number={now?.humidity_pct == null ? "–" : now.humidity_pct.toFixed(0)}
          unit="%"
          size={34}
        />
        <Explained explain={explain}>
          <DewFigure dew={day.data?.dew} size={34} about={day.data?.dew ? "dew" : undefined} />
        </Explained>
        <div className="ml-auto text-right">
          <div className="lab">
            {shop.facts.room_read
              ? `typed ${dateOf(shop.conditions_read_at)} ${clock(shop.conditions_read_at)}`
              : "nobody has read the room yet"}
          </div>
          <Button edits aria-expanded={typing} onClick={() => setTyping(!typing)}>
            {typing ? "Done" : "New reading"}
          </Button>
        </div>
      </div>
      {typing && <TypeDay />}
      {day.isError && <p className="text-stop">{day.error.message}</p>}
      <div className="mt-3 min-h-[280px]">
        {day.data && shop.facts.room_read && <DayCurve day={day.data} />}
        {!shop.facts.room_read && (
          <p className="max-w-[52ch] py-6 text-[1.125rem]">
            Type what the thermometer shows. Then the room through the day is drawn here, with the hours in which your
            resins may be laid.
          </p>
        )}
        {day.data && shop.facts.room_read && !day.data.expected && !shop.forecast_from && (
          <p className="lab">
            The room stays as read until you say what you expect of it: press New reading and type the coldest and the
            warmest, such as {units.example("temperature", 12)} and {units.example("temperature", 21)}.
          </p>
        )}
        {shop.forecast_from && !typing && (
          <p className="lab">
            {shop.forecast_from === "simulated"
              ? "By a simulated forecast of seven days, made up for trying things"
              : "By the forecast you brought"}
            , bent to today's readings ×.
          </p>
        )}
        {day.data?.expected && !shop.forecast_from && !typing && (
          <p className="lab">
            Expected {units.number("temperature", day.data.expected.coldest_c)} to{" "}
            {units.text("temperature", day.data.expected.warmest_c)}, over the day as outdoor air goes (memory), bent to
            today's readings ×. Good hours: a hardener in its band, dew margin{" "}
            {units.words("temperature_difference", 3)} or more, over the resin's minimum.
          </p>
        )}
      </div>
    </section>
  );
}

function TypeDay() {
  const { set, form, read } = useConditions();
  return (
    <div className="mt-3 flex flex-wrap items-start gap-x-6 gap-y-2 border-t border-rule pt-2">
      <FormContext.Provider value={form}>
        <Readings conditions={read} fieldKey="day" onSet={(change) => void set(change)} />
      </FormContext.Provider>
      <Expected />
      <Forecast />
    </div>
  );
}

/** The room hour by hour: brought as a table, simulated, or taken away. */
function Forecast() {
  const { shop } = useShop();
  const queries = useQueryClient();
  const path = { params: { path: { shop_id: shop.id } } };
  const keep = useMutation({
    mutationFn: (answer: () => Promise<Shop>) => answer(),
    onSuccess: async (next) => {
      queries.setQueryData(["shop", shop.id], next);
      await queries.invalidateQueries({ queryKey: ["day", shop.id] });
      await queries.invalidateQueries({ queryKey: ["jobs", shop.id] });
    },
  });
  const bring = (file: File) =>
    keep.mutate(async () =>
      taken(
        client.POST("/api/shops/{shop_id}/forecast", {
          ...path,
          body: (await file.arrayBuffer()) as never,
          bodySerializer: (bytes: unknown) => bytes as ArrayBuffer,
          headers: { "Content-Type": "text/csv" },
        } as never),
      ),
    );
  return (
    <div className="max-w-[300px] text-[0.875rem]">
      <div className="lab mb-1">Forecast of the room</div>
      <div className="flex flex-wrap gap-x-3">
        <FilePick label="Forecast as CSV" accept=".csv,text/csv" look="text" onFile={bring}>
          from a CSV
        </FilePick>
        <Button
          edits
          look="text"
          onClick={() => keep.mutate(() => taken(client.POST("/api/shops/{shop_id}/forecast/simulated", path)))}
        >
          a simulated week
        </Button>
        {shop.forecast_from && (
          <Button
            edits
            look="text"
            onClick={() => keep.mutate(() => taken(client.DELETE("/api/shops/{shop_id}/forecast", path)))}
          >
            none
          </Button>
        )}
      </div>
      <p className="lab">Two columns, hour and °C: 2026-05-01 08:00, 14.5. A third may hold the humidity, %.</p>
      {keep.error && (
        <p role="alert" className="text-[0.8125rem] text-stop">
          the forecast: {keep.error.message}
        </p>
      )}
    </div>
  );
}

/** The coldest and the warmest expected of today; both are needed before there is a curve. */
function Expected() {
  const { shop } = useShop();
  const queries = useQueryClient();
  const expected = useLocalForm(`${shop.id}.expected`);
  const [half, setHalf] = useState<{ coldest_c?: number; warmest_c?: number }>(shop.facts.day ?? {});
  function set(change: { coldest_c?: number; warmest_c?: number }) {
    const next = { ...half, ...change };
    setHalf(next);
    const { coldest_c, warmest_c } = next;
    if (coldest_c === undefined || warmest_c === undefined) return;
    const path = { params: { path: { shop_id: shop.id } } };
    void expected.attempt(async () => {
      const next = await taken(
        client.PUT("/api/shops/{shop_id}/expected", { ...path, body: { coldest_c, warmest_c } }),
      );
      queries.setQueryData(["shop", shop.id], next);
      await queries.invalidateQueries({ queryKey: ["jobs", shop.id] });
    });
  }
  return (
    <FormContext.Provider value={expected.form}>
      <div className="grid grid-cols-2 gap-3 sm:w-[250px]">
        <QuantityField
          label="Coldest expected"
          path="coldest_c"
          fieldKey="day.coldest"
          dimension="temperature"
          value={half.coldest_c}
          example={12}
          onCommit={(value) => value != null && set({ coldest_c: value })}
        />
        <QuantityField
          label="Warmest expected"
          path="warmest_c"
          fieldKey="day.warmest"
          dimension="temperature"
          value={half.warmest_c}
          example={21}
          onCommit={(value) => value != null && set({ warmest_c: value })}
        />
        {expected.loose.map((message) => (
          <p key={message} role="alert" className="col-span-2 text-[0.8125rem] text-stop">
            {message}
          </p>
        ))}
      </div>
    </FormContext.Provider>
  );
}
