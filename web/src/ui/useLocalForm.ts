import { useCallback, useMemo, useState } from "react";
import { type Fault, Refused } from "../api/client";
import { type Form, Words } from "./form";

const [READ_WITHIN_MS, READ_EACH_MS] = [4000, 40];

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
  /** Waits until what was typed last is read, or cannot be: a button is pressed sooner than the server answers. */
  const settled = useCallback(async () => {
    for (let waited = 0; pending.wait && waited < READ_WITHIN_MS; waited += READ_EACH_MS)
      await new Promise((done) => setTimeout(done, READ_EACH_MS));
    // What was read is in hand with the next drawing.
    await new Promise((done) => setTimeout(done, 0));
  }, [pending]);
  const loose = faults.filter((fault) => !fault.path).map((fault) => fault.message);
  return { form, attempt, settled, faults, loose };
}
