import { useState } from "react";
import type { PotResult, Run, Ticket } from "../../api/client";
import { Cup } from "../../drawing/Cup";
import { asRead, fixed } from "../../format";
import { useJob, withQuantity } from "../../job/context";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { QuantityField } from "../../ui/QuantityField";
import { Worked } from "../../ui/Worked";
import { beneath, drawn, marked, outOfOneTin, reads } from "./pours";
import { ThickenPot } from "./ThickenPot";

/** The pours, in the unit of the tool in hand whatever the screens are read in: the scale shows no other. */
export function TicketCard({ pot, ticket, live }: { pot: PotResult; ticket: Ticket; live: Run | undefined }) {
  const { document, edit } = useJob();
  const { shop, units } = useShop();
  const scale = ticket.by === "weight";
  return (
    <>
      <div className="grid gap-x-6 gap-y-2 pt-4 sm:grid-cols-[200px_1fr]">
        <div className="max-sm:hidden">
          <Cup ticket={ticket} />
        </div>
        <ol className="min-w-0">
          {scale && (
            <li className="grid grid-cols-[1fr_auto] items-end border-b border-rule-faint pb-2">
              <div>
                <div className="text-[1.0625rem] font-semibold">Cup on the scale</div>
                <div className="lab">empty, not tared</div>
                {ticket.scale_checked && <div className="lab first-letter:uppercase">{ticket.scale_checked}</div>}
              </div>
              <div className="fig text-[1.875rem] leading-none">
                {asRead(ticket.cup_reads)}{" "}
                <span className="text-[1.125rem] font-normal text-ink-soft">{ticket.scale_unit}</span>
              </div>
            </li>
          )}
          {ticket.pours.map((pour, at) => {
            const hero = drawn(pour) ? pour.amount : (pour.running ?? pour.amount);
            const own = pour.unit === units.unit("mass") ? "" : units.text("mass", pour.amount * pour.unit_is);
            return (
              <li key={pour.what} className="grid grid-cols-[1fr_auto] items-end gap-3 border-b border-rule-faint py-2">
                <div className="min-w-0">
                  <div className="text-[1.25rem] font-semibold leading-tight">{pour.what}</div>
                  <div className="text-[0.9062rem] text-ink-soft">
                    {beneath(pour, ticket)}
                    {own !== "" && pour.tool === "scale" && ` (${own})`}
                  </div>
                </div>
                <div className="text-right">
                  {marked(pour) ? (
                    <div className="text-[1.0625rem] font-semibold leading-tight">
                      add {asRead(pour.amount)} {pour.unit} <span aria-hidden="true">→</span> to the mark
                    </div>
                  ) : (
                    <div className="lab">{reads(pour)}</div>
                  )}
                  <div className="fig text-[clamp(4.125rem,9vw,5.75rem)] leading-[0.92]">
                    <Worked about={`${at ? "second" : "first"}_pour:${pot.id}`}>{asRead(hero)}</Worked>
                    <span className="ml-1 text-[1.625rem] font-normal text-ink-soft">
                      {pour.tool === "numbered cup" ? "" : marked(pour) ? "mark" : pour.unit}
                    </span>
                  </div>
                </div>
              </li>
            );
          })}
        </ol>
      </div>
      {ticket.order_matters && <PourOrder key={pot.id} pours={ticket.pours} />}
      <ol className="mt-4 list-decimal space-y-1.5 pl-6 text-[1.0625rem] marker:text-ink-soft">
        {ticket.mixing.map((words) => (
          <li key={words}>{words}</li>
        ))}
        {ticket.filler && !ticket.thickened && <li>{ticket.filler}</li>}
        {!ticket.thickened && <li>{ticket.lays || "Out of the cup and onto the work at once"}</li>}
      </ol>
      {ticket.thickened && <ThickenPot thickened={ticket.thickened} ticket={ticket} />}
      <div className="mt-4 flex flex-wrap items-start gap-x-8 gap-y-3 border-t border-rule pt-3">
        <div>
          <div className="lab">Set out</div>
          <div className="max-w-[34ch] text-[0.9375rem]">{ticket.set_out?.join(", ")}</div>
        </div>
        <div>
          <div className="lab">Wear</div>
          <div className="max-w-[38ch] text-[0.9375rem]">{ticket.protection.join(", ")}</div>
        </div>
        {!outOfOneTin(ticket) && (
          <div>
            <div className="lab">
              Rounding to the tool moves the {ticket.pours.some((pour) => pour.part === "catalyst") ? "dose" : "ratio"}
            </div>
            <div className="fig text-[1.0625rem]">
              <Worked about={`ratio_error:${pot.id}`}>
                {ticket.ratio_error_pct >= 0 ? "+" : "−"}
                {fixed(Math.abs(ticket.ratio_error_pct), 1)} %
              </Worked>
            </div>
          </div>
        )}
        {scale && !live && (
          <div className="w-36">
            <QuantityField
              label="This cup weighs"
              path="pots.cup_g"
              fieldKey="pots.cup"
              dimension="mass"
              value={document.pots.cup_g ?? shop.facts.cup_g}
              typed={document.pots.typed?.cup_g}
              optional
              onCommit={(value, words) =>
                edit((before) => ({ ...before, pots: withQuantity(before.pots, "cup_g", value, words) }))
              }
            />
          </div>
        )}
      </div>
    </>
  );
}

/** In one marked cup the second mark holds only over the first part: the order is tapped, and caught when it is wrong. */
function PourOrder({ pours }: { pours: Ticket["pours"] }) {
  const [inCup, setInCup] = useState<number[]>([]);
  const wrong = inCup[0] !== undefined && inCup[0] !== 0;
  return (
    <div className="mt-3">
      <div className="flex flex-wrap items-center gap-2">
        {pours.map((pour, at) => (
          <Button
            key={pour.what}
            className="min-h-12 px-4 text-[1rem]"
            aria-pressed={inCup.includes(at)}
            disabled={inCup.includes(at)}
            onClick={() => setInCup((before) => [...before, at])}
          >
            {pour.what.split(",")[0]} is in{inCup.includes(at) ? " ✓" : ""}
          </Button>
        ))}
        {inCup.length > 0 && (
          <Button look="text" onClick={() => setInCup([])}>
            begin again
          </Button>
        )}
      </div>
      {wrong && (
        <p role="alert" className="mt-2 border-l-8 border-stop pl-3 text-[1.0625rem]">
          <strong>Stop.</strong> {pours[1]?.what.split(",")[0]} went in first, so its mark holds for nothing now. Do not
          mix: put this cup aside, take a clean one, and pour {pours[0]?.what} to its mark first.
        </p>
      )}
      {inCup.length === pours.length && !wrong && <p className="mt-2 text-[1.0625rem] text-cool">In order. Now mix.</p>}
    </div>
  );
}
