import { createContext, useContext } from "react";
import type { JobSpec, Library, Shop } from "../api/client";
import type { Draft } from "./draft";

export interface JobHold extends Draft {
  shop: Shop;
  library: Library;
  /** Words typed in a field that could not be taken yet, by the field's key, so that no screen change loses them. */
  pending: Map<string, string>;
}

export const JobContext = createContext<JobHold | null>(null);

export function useJob(): JobHold {
  const held = useContext(JobContext);
  if (!held) throw new Error("useJob is used outside a job");
  return held;
}

/** The message for a field, if the last save was refused there or the plan waits for it. */
export function useFault(path: string): { message: string; refused: boolean } | null {
  const { faults, plan } = useJob();
  const refused = faults.find((fault) => fault.path === path);
  if (refused) return { message: refused.message, refused: true };
  const missing = plan.problems?.find((problem) => problem.path === path);
  return missing ? { message: missing.message, refused: false } : null;
}

export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(6));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** A UUID for a tap, made without the secure context that a tablet in the shed may lack. */
export function newTap(): string {
  const hex = Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, "0")).join(
    "",
  );
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20)}`;
}

export function withPart(
  document: JobSpec,
  id: string,
  change: (part: JobSpec["parts"][number]) => JobSpec["parts"][number],
) {
  return { ...document, parts: document.parts.map((part) => (part.id === id ? change(part) : part)) };
}

export function withJoint(document: JobSpec, id: string, change: Partial<JobSpec["joints"][number]>): JobSpec {
  return { ...document, joints: document.joints.map((joint) => (joint.id === id ? { ...joint, ...change } : joint)) };
}

/** Takes the place of a material's copy, or adds it. */
export function withMaterial<T extends { id: string }>(materials: T[], material: T): T[] {
  return [...materials.filter((other) => other.id !== material.id), material];
}
