import { useCallback, useMemo, useState } from "react";
import { type Fault, Refused } from "../api/client";
import { type Form, Words } from "./form";

/** A form outside a job: what the server refused is said at its fields, until the next attempt. */
export function useLocalForm(place: string) {
  const [faults, setFaults] = useState<Fault[]>([]);
  const [pending] = useState(() => new Words(`inch-cradle.words.${place}`));
  const form: Form = useMemo(
    () => ({
      pending,
      fault: (path) => {
        const found = faults.find((fault) => fault.path === path);
        return found ? { message: found.message, refused: true } : null;
      },
      forget: (path) => setFaults((before) => before.filter((fault) => fault.path !== path)),
    }),
    [faults, pending],
  );
  /** Does something on the server; a refusal is shown, and answered with false. */
  const attempt = useCallback(async (act: () => Promise<unknown>): Promise<boolean> => {
    try {
      await act();
      setFaults([]);
      return true;
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      setFaults(error.faults);
      return false;
    }
  }, []);
  const loose = faults.filter((fault) => !fault.path).map((fault) => fault.message);
  return { form, attempt, faults, loose };
}
