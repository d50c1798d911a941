import { createContext, useContext } from "react";
import type { JobSpec, Joint, Library, Part, Pour } from "../api/client";
import type { Draft } from "./draft/useDraft";

export interface JobHold extends Draft {
  library: Library;
}

export const JobContext = createContext<JobHold | null>(null);

export function useJob(): JobHold {
  const held = useContext(JobContext);
  if (!held) throw new Error("useJob is used outside a job");
  return held;
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

export function withPart(document: JobSpec, id: string, change: (part: Part) => Part): JobSpec {
  return { ...document, parts: document.parts.map((part) => (part.id === id ? change(part) : part)) };
}

export function withJoint(document: JobSpec, id: string, change: (joint: Joint) => Joint): JobSpec {
  return { ...document, joints: document.joints.map((joint) => (joint.id === id ? change(joint) : joint)) };
}

export function withPour(document: JobSpec, id: string, change: (pour: Pour) => Pour): JobSpec {
  return { ...document, pours: document.pours.map((pour) => (pour.id === id ? change(pour) : pour)) };
}

/** A thing with one quantity set, and the words it was typed in. */
export function withQuantity<T extends { typed?: Record<string, string> }>(
  thing: T,
  field: string,
  value: number | null,
  words: string,
): T {
  return { ...thing, [field]: value, typed: { ...thing.typed, [field]: words } };
}

/** Takes the place of a material's copy, or adds it. */
export function withMaterial<T extends { id: string }>(materials: T[], material: T): T[] {
  return [...materials.filter((other) => other.id !== material.id), material];
}
