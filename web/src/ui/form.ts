import { createContext, useContext } from "react";

/** Words typed in a field that could not be taken yet, by the field's key: no screen change or reload loses them. */
export class Words {
  private readonly kept: Map<string, string>;

  constructor(private readonly place: string) {
    this.kept = new Map(JSON.parse(localStorage.getItem(place) ?? "[]") as [string, string][]);
  }

  get(key: string): string | undefined {
    return this.kept.get(key);
  }

  /** Whether words are still being read. */
  get wait(): boolean {
    return this.kept.size > 0;
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

/** What was said about a field: refused by the server, or waited for by the plan. */
export interface FieldFault {
  message: string;
  refused: boolean;
}

/** What the fields of a form share: the words they could not place yet, and what was said about each. */
export interface Form {
  pending: Words;
  fault: (path: string) => FieldFault | null;
  /** Drops what was said about a field, since it reads otherwise now. */
  forget?: (path: string) => void;
}

export const FormContext = createContext<Form | null>(null);

export function useForm(): Form {
  const form = useContext(FormContext);
  if (!form) throw new Error("a field stands outside a form");
  return form;
}

export const useFault = (path: string): FieldFault | null => useForm().fault(path);
