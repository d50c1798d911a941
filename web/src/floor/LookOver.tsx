import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { askedOfDamage, type DamageSize } from "../api/asked";
import { client, type Damage, Refused, taken } from "../api/client";
import { PatchPicture } from "../drawing/PatchPicture";
import { useSession } from "../session";
import { ShopProvider } from "../shop";
import { Split, Title } from "../steps/Split";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { type Form, FormContext, Words } from "../ui/form";
import { NumberField } from "../ui/NumberField";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { TextField } from "../ui/TextField";
import { Tick } from "../ui/Tick";
import { useTitle } from "../ui/useTitle";
import { PlainHeader } from "./PlainHeader";

type Kind = NonNullable<Damage["kind"]>;

const kinds: readonly (readonly [Kind, string])[] = [
  ["crack in the surface coat", "crack in the surface coat"],
  ["part way through", "damage part way through"],
  ["hole through", "hole through"],
  ["skin come loose", "skin come loose from its core"],
  ["blisters", "blisters"],
  ["crushed core", "crushed core"],
];
const FRESH: Damage = { kind: "hole through" } as Damage;

/** A repair, from what is damaged: what it is, drawn as it is filled in, and the job that mends it. */
export function LookOver() {
  const { shopId } = useSession();
  useTitle("A repair");
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <Looked shopId={shopId} />
      </ShopProvider>
    </>
  );
}

function Looked({ shopId }: { shopId: string }) {
  // What was found stands through a reload, until its job is made.
  const place = `inch-cradle.damage.${shopId}`;
  // A job's own damage is looked over again where its job says so.
  const { state } = useLocation();
  const [damage, setDamage] = useState<Damage>(
    () => state?.damage ?? JSON.parse(localStorage.getItem(place) ?? "null") ?? FRESH,
  );
  useEffect(() => localStorage.setItem(place, JSON.stringify(damage)), [place, damage]);
  const change = (next: Partial<Damage>) => setDamage((before) => ({ ...before, ...next }));
  const go = useNavigate();
  // Taken over once: after a reload what was changed here stands.
  useEffect(() => {
    if (state?.damage) go(".", { replace: true, state: null });
  }, [state, go]);
  const path = { params: { path: { shop_id: shopId } } };
  const { data, error } = useQuery({
    queryKey: ["damage", shopId, damage],
    queryFn: ({ signal }) => taken(client.POST("/api/shops/{shop_id}/damage", { ...path, body: damage, signal })),
    placeholderData: keepPreviousData,
    retry: (tried, refused) => tried < 5 && refused instanceof Refused && [0, 499, 503].includes(refused.status),
  });
  const begin = useMutation({
    mutationFn: () => taken(client.POST("/api/shops/{shop_id}/jobs/from-damage", { ...path, body: damage })),
    onSuccess: (job) => {
      localStorage.removeItem(place);
      go(`/jobs/${job.id}/measure`);
    },
  });
  const [pending] = useState(() => new Words("inch-cradle.words.damage"));
  const faults = error instanceof Refused ? error.faults : [];
  const waits = data?.asked;
  const form: Form = useMemo(
    () => ({
      pending,
      fault: (field) => {
        const found = faults.find((fault) => fault.path === field || fault.path.endsWith(`.${field}`));
        if (found) return { message: found.message, refused: true };
        return waits?.path === field ? { message: waits.message, refused: false } : null;
      },
    }),
    [faults, waits, pending],
  );
  const kind = damage.kind ?? "hole through";
  const size = (
    field: DamageSize | "panel_width_mm" | "panel_length_mm" | "to_edge_mm",
    label: string,
    optional = true,
  ) => (
    <QuantityField
      key={field}
      label={label}
      path={field}
      fieldKey={`damage.${field}`}
      dimension="thickness"
      value={damage[field]}
      typed={damage.typed?.[field]}
      placeholder={optional ? "not said" : undefined}
      optional
      // Read by the server, it comes when another field may have been said meanwhile: nothing of that is lost.
      onCommit={(value, words) =>
        setDamage((before) => ({ ...before, [field]: value, typed: { ...before.typed, [field]: words } }))
      }
    />
  );
  // What was drawn last stands while it does not fit.
  const last = useRef(data?.drawn);
  if (data) last.current = data.drawn;
  const drawn = faults.length ? last.current : data?.drawn;
  const ready = !faults.length && data && !data.asked;
  return (
    <FormContext.Provider value={form}>
      <Split
        picture={
          <div className="lg:sticky lg:top-0">
            <Title
              words="A repair, from what is damaged"
              under="It makes an ordinary job: everything in it can be changed after."
            />
            {faults.length > 0 && (
              <p role="alert" className="max-w-[60ch] text-[1.0625rem] font-semibold text-stop">
                It cannot be mended so: {faults[0]?.message}.
              </p>
            )}
            {drawn ? (
              <div className={faults.length ? "opacity-50" : ""}>
                <PatchPicture drawn={drawn} onTaper={(taper) => change({ taper })} />
              </div>
            ) : (
              <p className="max-w-[56ch] py-4 text-[1rem]">
                {askedOfDamage[kind].patched
                  ? "Measure it: the patch is drawn here, in plan and in section."
                  : "It is filled, injected or coated: there is no patch to draw."}
              </p>
            )}
            {ready && (
              <section aria-label="What the job is made of" className="mt-2 border-t border-rule pt-3">
                <h2 className="text-[1.0625rem] font-semibold">{data.makes.join(" · ")}</h2>
                <ul className="mt-1.5 max-w-[76ch] list-disc space-y-1 pl-5 text-[0.9375rem]">
                  {data.because.map((reason) => (
                    <li key={reason.about}>
                      {reason.words}. <span className="lab">({reason.source})</span>
                    </li>
                  ))}
                </ul>
              </section>
            )}
          </div>
        }
        sheet={
          <>
            <TextField
              label="Name of the job"
              path="name"
              value={damage.name ?? ""}
              onCommit={(name) => change({ name })}
            />
            <Pick
              label="What is it?"
              value={kind}
              placeholder="choose"
              options={kinds}
              onChange={(next) => change({ kind: next as Kind })}
            />
            <div className="grid grid-cols-2 items-start gap-3 sm:grid-cols-4">
              {askedOfDamage[kind].asked.map(({ field, label }) => size(field, label, false))}
            </div>
            {kind === "hole through" && (
              <Tick
                label="The back can be reached"
                checked={damage.back_reached ?? false}
                onChange={(back_reached) => change({ back_reached })}
              />
            )}
            <div>
              <Choice
                label="What must it look like?"
                value={damage.look ?? "paint"}
                options={[
                  ["gel coat", "gel coat"],
                  ["paint", "paint"],
                  ["nothing", "nobody sees it"],
                ]}
                onChange={(look) => change({ look })}
              />
            </div>
            <div className="grid items-end gap-3 sm:grid-cols-2">
              <Choice
                label="The old laminate is of"
                value={damage.old_resin ?? "polyester"}
                options={[
                  ["polyester", "polyester"],
                  ["epoxy", "epoxy"],
                ]}
                onChange={(old_resin) => change({ old_resin })}
              />
              <Pick
                label="Mended in"
                value={damage.resin ?? "by what comes last"}
                placeholder="choose"
                options={[
                  ["by what comes last", "by what comes last"],
                  ["epoxy", "epoxy"],
                  ["polyester", "polyester"],
                ]}
                onChange={(resin) => change({ resin: resin as Damage["resin"] })}
              />
            </div>
            {askedOfDamage[kind].patched && (
              <>
                <Choice
                  label="What does the panel carry?"
                  value={damage.carries ?? "as usual"}
                  options={[
                    ["little", "little"],
                    ["as usual", "as usual"],
                    ["much", "much"],
                  ]}
                  onChange={(carries) => change({ carries, taper: null })}
                />
                <div className="grid grid-cols-2 items-start gap-3 sm:grid-cols-4">
                  <NumberField
                    label="Taper, to 1"
                    path="taper"
                    value={damage.taper}
                    placeholder="by that"
                    min={4}
                    max={100}
                    step={0.5}
                    onCommit={(taper) => change({ taper })}
                  />
                  {size("to_edge_mm", "To the next edge")}
                  {size("panel_width_mm", "Panel wide")}
                  {size("panel_length_mm", "Panel long")}
                </div>
                <Choice
                  label="Which ply goes on first?"
                  value={damage.order ?? "largest first"}
                  options={[
                    ["largest first", "the largest: all of it bonds to the old"],
                    ["smallest first", "the smallest: it follows the taper"],
                  ]}
                  onChange={(order) => change({ order })}
                />
                <TextField
                  label="What lies there, if you know: surface first"
                  path="old_stack"
                  value={damage.old_stack ?? ""}
                  onCommit={(old_stack) => change({ old_stack })}
                />
              </>
            )}
            <NumberField
              label="Moisture meter, %"
              path="moisture_pct"
              value={damage.moisture_pct}
              placeholder="not read"
              min={0}
              max={100}
              onCommit={(moisture_pct) => change({ moisture_pct })}
            />
            <p className="lab">
              Tap round it first, look with a lamp from behind, press it with a known weight, and write down what you
              find: the same tests tell afterwards. Whether a repair is strong enough is for the surveyor to say.
            </p>
            <Button edits look="main" disabled={!ready || begin.isPending} onClick={() => begin.mutate()}>
              Make the job
            </Button>
            {begin.error instanceof Refused && (
              <p role="alert" className="text-stop">
                {begin.error.faults[0]?.message}
              </p>
            )}
          </>
        }
      />
    </FormContext.Provider>
  );
}
