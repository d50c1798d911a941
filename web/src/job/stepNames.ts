import type { Step } from "../api/client";

/** The steps of a job as they are called, in the order of the work. */
export const names: Record<Step, string> = {
  measure: "Measure",
  stack: "Stack",
  cut: "Cut",
  prepare: "Prepare",
  chemistry: "Chemistry",
  joints: "Joints",
  pours: "Pours & coats",
  bag: "Bag & flow",
  finish: "Finish",
  pots: "Pots",
  ticket: "Ticket",
  log: "Log",
};
