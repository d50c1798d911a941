import { createContext, useContext } from "react";
import type { JobSpec, Joint, Library, Part, Shop } from "../api/client";
import type { Draft } from "./draft";

/** Words typed in a field that could not be taken yet, by the field's key: no screen change or reload loses them. */
export class Words {
  private readonly kept: Map<string, string>;

  constructor(private readonly place: string) {
    this.kept = new Map(JSON.parse(localStorage.getItem(place) ?? "[]") as [string, string][]);
  }

  get(key: string): string | undefined {
    return this.kept.get(key);
  }

  set(key: string, words: string): void {
    this.kept.set(key, words);
    this.keep();
  }

  drop(key: string): void {
    if (this.kept.delete(key)) this.keep();
  }

  private keep(): void {
    if (this.kept.size) localStorage.setItem(this.place, JSON.stringify([...this.kept]));
    else localStorage.removeItem(this.place);
  }
}

export interface JobHold extends Draft {
  shop: Shop;
  library: Library;
  pending: Words;
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

export function withPart(document: JobSpec, id: string, change: (part: Part) => Part): JobSpec {
  return { ...document, parts: document.parts.map((part) => (part.id === id ? change(part) : part)) };
}

export function withJoint(document: JobSpec, id: string, change: (joint: Joint) => Joint): JobSpec {
  return { ...document, joints: document.joints.map((joint) => (joint.id === id ? change(joint) : joint)) };
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
