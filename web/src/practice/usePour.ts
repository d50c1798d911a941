import { useEffect, useRef, useState } from "react";
import type { PourTask, Press } from "../api/client";
import { inCup, ranOut } from "./flow";

type Part = Press["part"];
const FRAME_MS = 33;

/** A pot being poured: what is in the cup, what runs now, and by its clock how old it is and how long it was stirred. */
export interface PourNow {
  a: number;
  b: number;
  runs: Part | null;
  seconds: number;
  /** Minutes of the pot's clock since the first of the hardener; nothing before it, or where no clock runs. */
  age_min: number | null;
  stirred_min: number;
  stirs: boolean;
  presses: Press[];
  tip: (part: Part) => void;
  let_go: () => void;
  stir: (on: boolean) => void;
  again: () => void;
}

const seconds = () => performance.now() / 1000;

/** Tins tipped by holding a button; time goes by only while a pot is being poured. */
export function usePour(task: PourTask, over: boolean): PourNow {
  const [presses, setPresses] = useState<Press[]>([]);
  const [tipped, setTipped] = useState<{ part: Part; since: number } | null>(null);
  const [stirring, setStirring] = useState<number | null>(null);
  const [stirred_s, setStirred] = useState(0);
  const [begun, setBegun] = useState<number | null>(null);
  const [touched, setTouched] = useState<number | null>(null);
  const [now, setNow] = useState(seconds);
  const running = !over && begun !== null;
  useEffect(() => {
    if (!running) return;
    const beat = window.setInterval(() => setNow(seconds()), FRAME_MS);
    return () => clearInterval(beat);
  }, [running]);
  // What is in hand when the button is let go, also outside of it.
  const held = useRef<typeof tipped>(null);
  const let_go = () => {
    const last = held.current;
    held.current = null;
    setTipped(null);
    if (!last) return;
    const hold_s = Math.max(0.02, seconds() - last.since);
    setPresses((before) => [...before, { part: last.part, hold_s }]);
  };
  const tip = (part: Part) => {
    if (over || held.current) return;
    const since = seconds();
    held.current = { part, since };
    setTipped(held.current);
    setNow(since);
    setBegun((before) => before ?? since);
    if (part === "B") setTouched((before) => before ?? since);
  };
  const stir = (on: boolean) => {
    const at = seconds();
    if (on) return setStirring((before) => before ?? at);
    setStirring(null);
    if (stirring !== null) setStirred((before) => before + at - stirring);
  };
  const amounts = inCup(task, presses);
  if (tipped) amounts[tipped.part] += ranOut(task, presses.length, Math.max(0, now - tipped.since));
  const minute = (from: number) => (Math.max(0, now - from) * (task.pace ?? 1)) / 60;
  return {
    a: amounts.A,
    b: amounts.B,
    runs: tipped?.part ?? null,
    seconds: begun === null ? 0 : Math.max(0.1, now - begun),
    age_min: task.life_min == null || touched === null ? null : minute(touched),
    stirred_min: ((stirred_s + (stirring === null ? 0 : Math.max(0, now - stirring))) * (task.pace ?? 1)) / 60,
    stirs: stirring !== null,
    presses,
    tip,
    let_go,
    stir,
    again: () => {
      setPresses([]);
      setBegun(null);
      setTouched(null);
      setStirred(0);
      setStirring(null);
    },
  };
}
