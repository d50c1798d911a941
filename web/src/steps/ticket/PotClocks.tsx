import { useState } from "react";
import type { PotResult, Ticket } from "../../api/client";
import { minutes, oneIn } from "../../format";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Worked } from "../../ui/Worked";
import { outOfOneTin } from "./pours";

/** When a pot must be on the work and when it kicks: in minutes, or by the clock once it is poured. */
export function PotClocks({ pot, ticket, poured }: { pot: PotResult; ticket: Ticket; poured: string | undefined }) {
  const { clock } = useShop();
  const [chosen, setFrom] = useState<Date | null>(null);
  const from = poured ? new Date(poured) : chosen;
  const at = (min: number) => (from ? clock(new Date(from.getTime() + min * 60_000).toISOString()) : "");
  return (
    <div>
      <div className="grid grid-cols-2 gap-4">
        <div>
          <div className="lab">On the work by</div>
          <div className="fig text-[2.75rem] leading-none">
            <Worked about={`use_by:${pot.id}`}>{from ? at(ticket.use_by_min) : minutes(ticket.use_by_min)}</Worked>
            {!from && <span className="ml-1 text-[1.125rem] font-normal text-ink-soft">min</span>}
          </div>
        </div>
        <div>
          <div className="lab">{outOfOneTin(ticket) ? "Skins over about" : "Kicks about"}</div>
          <div className="fig text-[2.75rem] leading-none text-kick">
            <Worked about={`life:${pot.id}`}>{from ? at(ticket.life_min) : minutes(ticket.life_min)}</Worked>
            {!from && <span className="ml-1 text-[1.125rem] font-normal text-ink-soft">min</span>}
          </div>
        </div>
      </div>
      {ticket.left_in_cup_min != null && (
        <p className="mt-2 text-[1rem]">
          Left in its cup it kicks {from ? "at" : "after"}{" "}
          <span className="fig text-[1.375rem]">
            {from ? at(ticket.left_in_cup_min) : `${minutes(ticket.left_in_cup_min)} min`}
          </span>
          : pour it out at once.
        </p>
      )}
      <p className="lab mt-1">
        Counted from {outOfOneTin(ticket) ? "its pouring" : "the moment the parts touch"};{" "}
        <Worked about={`chance:${pot.id}`}>{oneIn(pot.chance_lost)}</Worked> is past working before it is used up.{" "}
        {!poured && (
          <Button look="text" onClick={() => setFrom(from ? null : new Date())}>
            {from ? "in minutes" : "by the clock, from now"}
          </Button>
        )}
      </p>
    </div>
  );
}
