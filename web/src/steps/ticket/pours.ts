import type { Ticket } from "../../api/client";
import { asRead } from "../../format";

export type Pour = Ticket["pours"][number];

/** Whether a pour goes up to a mark of the cup that holds the other part too: then the mark is not what is added. */
export const marked = (pour: Pour) => pour.tool === "marked cup" && pour.running != null;

/** Whether nothing is mixed into it: then no ratio moves, and it skins over where another pot kicks. */
export const outOfOneTin = (ticket: Ticket) => ticket.pours.every((pour) => pour.part === "all");

/** Drawn up or counted, and not read off the scale or the cup. */
export const drawn = (pour: Pour) => pour.tool === "syringe" || pour.tool === "drops";

/** What stands over the number to hit. */
export function reads(pour: Pour): string {
  switch (pour.tool) {
    case "pumps":
      return "pump";
    case "drops":
      return "count";
    case "syringe":
      return "draw";
    case "scale":
      return pour.running == null ? "weigh, tared" : "scale shows";
    default:
      return pour.running == null ? "measure" : "to the mark";
  }
}

/** What is said of a pour beneath its name: how it is reached, and what the scale shows of it. */
export function beneath(pour: Pour, ticket: Ticket): string {
  if (drawn(pour)) return `${pour.note}; the scale then shows ${asRead(pour.running ?? 0)} ${ticket.scale_unit}`;
  if (pour.tool !== "scale") return pour.note;
  const tared = pour.tared == null ? "" : `, tared ${asRead(pour.tared)}`;
  return `pour ${asRead(pour.amount)} ${pour.unit}${tared}${pour.note ? `, ${pour.note}` : ""}`;
}

/** A weight as the ticket's scale shows it, to the mark. */
export function scaleShows(ticket: Ticket, grams: number): string {
  const unitIs = ticket.pours.find((pour) => pour.tool === "scale")?.unit_is ?? 1;
  const step = ticket.scale_step_g;
  return `${asRead((Math.round(grams / step) * step) / unitIs)} ${ticket.scale_unit}`;
}
