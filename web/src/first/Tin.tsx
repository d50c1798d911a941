import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, type Product, type Schemas, taken } from "../api/client";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { FormContext } from "../ui/form";
import { NumberField } from "../ui/NumberField";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { TextField } from "../ui/TextField";
import { useLocalForm } from "../ui/useLocalForm";

type Label = Schemas["TinLabel"];

/** A tin from what its label says, and nothing that it does not. */
export function Tin() {
  const { shop } = useShop();
  const queries = useQueryClient();
  const place = `inch-cradle.tin.${shop.id}`;
  const { form, attempt, settled, faults, loose } = useLocalForm(`${shop.id}.tin`);
  // What is typed stays on this device until it is on the shelf: closing the page loses nothing.
  const [label, setLabel] = useState<Partial<Label>>(() => ({
    ratio_by: "weight",
    ...JSON.parse(localStorage.getItem(place) ?? "{}"),
  }));
  useEffect(() => localStorage.setItem(place, JSON.stringify(label)), [place, label]);
  const latest = useRef(label);
  latest.current = label;
  const said = (change: Partial<Label>) => {
    for (const path of Object.keys(change)) form.forget?.(path);
    setLabel((before) => ({ ...before, ...change }));
  };
  const library = useQuery({
    queryKey: ["library", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/library", { params: { path: { shop_id: shop.id } } })),
  });
  const own = new Set(
    queries.getQueryData<Product[]>(["shelf", shop.id])?.map((product) => product.id.replace(/-/g, "")),
  );
  const generic = (library.data?.resins ?? []).filter((resin) => !own.has(resin.id));
  const like = generic.find((resin) => resin.id === label.like);
  const twoPart = !!like?.hardeners?.length;
  const catalyst = like?.catalyst;
  const keep = () =>
    attempt(async () => {
      await settled();
      const { like = "", name = "" } = latest.current;
      const body = { ...latest.current, like, name } as Label;
      const made = await taken(
        client.POST("/api/shops/{shop_id}/shelf/from-label", { params: { path: { shop_id: shop.id } }, body }),
      );
      localStorage.removeItem(place);
      queries.setQueryData<Product[]>(["shelf", shop.id], (before = []) => [...before, made]);
      await queries.invalidateQueries({ queryKey: ["library", shop.id] });
    });
  return (
    <FormContext.Provider value={form}>
      <section aria-label="A tin" className="grid gap-3 sm:grid-cols-2">
        <Pick
          label="It is most like"
          path="like"
          value={label.like ?? ""}
          placeholder="choose a kind of resin"
          options={generic.map((resin) => [resin.id, resin.name] as const)}
          onChange={(chosen) => said({ like: chosen, catalyst_pct: undefined })}
        />
        {like && (
          <TextField
            label="Its name, as on the tin"
            path="name"
            value={label.name ?? ""}
            onCommit={(name) => said({ name })}
          />
        )}
        {twoPart && (
          <>
            <TextField
              label="Resin to hardener"
              path="ratio"
              value={label.ratio ?? ""}
              placeholder="100:44, or 2 to 1"
              onCommit={(ratio) => said({ ratio })}
            />
            <Choice
              label="That is"
              value={label.ratio_by ?? "weight"}
              options={[
                ["weight", "by weight"],
                ["volume", "by volume"],
              ]}
              onChange={(ratio_by) => said({ ratio_by })}
            />
            <TextField
              label="The hardener's name"
              path="hardener"
              value={label.hardener ?? ""}
              placeholder="slow, or its number"
              onCommit={(hardener) => said({ hardener })}
            />
            <NumberField
              label="A pot can be worked for, minutes"
              path="minutes"
              value={label.minutes ?? null}
              placeholder="20"
              onCommit={(minutes) => said({ minutes })}
            />
            <QuantityField
              label="that is a pot of"
              path="of_g"
              fieldKey="tin.of"
              dimension="mass"
              value={label.of_g}
              optional
              placeholder="as its kind"
              onCommit={(of_g) => said({ of_g: of_g ?? undefined })}
            />
            <QuantityField
              label="at"
              path="at_c"
              fieldKey="tin.at"
              dimension="temperature"
              value={label.at_c}
              optional
              placeholder="as its kind"
              onCommit={(at_c) => said({ at_c: at_c ?? undefined })}
            />
            <QuantityField
              label="Made for a room from, if it says so"
              path="room_from_c"
              fieldKey="tin.from"
              dimension="temperature"
              value={label.room_from_c}
              optional
              placeholder="as its kind"
              onCommit={(room_from_c) => said({ room_from_c: room_from_c ?? undefined })}
            />
            <QuantityField
              label="to"
              path="room_to_c"
              fieldKey="tin.to"
              dimension="temperature"
              value={label.room_to_c}
              optional
              placeholder="as its kind"
              onCommit={(room_to_c) => said({ room_to_c: room_to_c ?? undefined })}
            />
          </>
        )}
        {catalyst && (
          <>
            <NumberField
              label="It gels in, minutes"
              path="minutes"
              value={label.minutes ?? null}
              placeholder="20"
              onCommit={(minutes) => said({ minutes })}
            />
            <QuantityField
              label="at"
              path="at_c"
              fieldKey="tin.at"
              dimension="temperature"
              value={label.at_c}
              optional
              placeholder="as its kind"
              onCommit={(at_c) => said({ at_c: at_c ?? undefined })}
            />
            <NumberField
              label="with catalyst, %"
              path="catalyst_pct"
              value={label.catalyst_pct ?? null}
              placeholder={String(catalyst.stated_pct)}
              onCommit={(catalyst_pct) => said({ catalyst_pct: catalyst_pct ?? undefined })}
            />
          </>
        )}
      </section>
      {like && (
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <Button edits look="main" onClick={() => void keep()}>
            Put it on the shelf
          </Button>
          <p role="alert" className="text-[0.875rem] text-stop">
            {loose[0] ?? (faults.length ? "not kept yet: see the red field" : "")}
          </p>
          <p className="lab basis-full">
            What the label does not say is taken from the kind it is like, and marked so on the shelf.
          </p>
        </div>
      )}
    </FormContext.Provider>
  );
}
