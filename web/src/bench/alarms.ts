import { useEffect, useRef, useState } from "react";
import type { Due } from "./toDo";

export type Level = Due["level"];

const AGAIN_MS = 20_000;
/** A soft moment that has long passed is not sounded for. */
const SOON_FOR_MIN = 15;

/** What sounds now, the loudest first: what was not answered and has come. */
export function ringing(due: Due[], now_min: number): Due[] {
  const loud: Record<Level, number> = { "get away": 2, now: 1, soon: 0 };
  return due
    .filter((one) => one.at_min <= now_min && (one.level !== "soon" || now_min - one.at_min < SOON_FOR_MIN))
    .sort((one, other) => loud[other.level] - loud[one.level] || other.at_min - one.at_min);
}

/** Told apart by rhythm: two low, three, or without an end. */
const beeps: Record<Level, { count: number; hertz: number; ms: number }> = {
  soon: { count: 2, hertz: 330, ms: 220 },
  now: { count: 3, hertz: 660, ms: 160 },
  "get away": { count: 60, hertz: 880, ms: 300 },
};

function play(audio: AudioContext, level: Level): OscillatorNode {
  const { count, hertz, ms } = beeps[level];
  const tone = audio.createOscillator();
  const loud = audio.createGain();
  tone.frequency.value = hertz;
  loud.gain.value = 0;
  for (let n = 0; n < count; n += 1) {
    const from = audio.currentTime + (n * 2 * ms) / 1000;
    loud.gain.setValueAtTime(level === "soon" ? 0.25 : 0.5, from);
    loud.gain.setValueAtTime(level === "get away" ? 0.2 : 0, from + ms / 1000);
  }
  tone.connect(loud).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + (count * 2 * ms) / 1000);
  return tone;
}

/** Sound and a screen that stays on, once somebody has pressed for it: a browser allows neither before. */
export function useAlarms(due: Due[], now_min: number) {
  const [audio, setAudio] = useState<AudioContext | null>(null);
  const found = ringing(due, now_min);
  const level = found[0]?.level;
  const keys = found.map((one) => one.key).join("|");
  const lock = useRef<WakeLockSentinel | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another alarm begins its sound anew
  useEffect(() => {
    if (!audio || !level) return;
    let tone = play(audio, level);
    const again =
      level === "soon"
        ? 0
        : window.setInterval(() => {
            tone.disconnect();
            tone = play(audio, level);
          }, AGAIN_MS);
    return () => {
      clearInterval(again);
      tone.disconnect();
    };
  }, [audio, level, keys]);
  useEffect(() => {
    if (!audio) return;
    const awake = () => {
      if (document.visibilityState === "visible")
        navigator.wakeLock?.request("screen").then(
          (held) => {
            lock.current = held;
          },
          () => undefined,
        );
    };
    awake();
    document.addEventListener("visibilitychange", awake);
    return () => {
      document.removeEventListener("visibilitychange", awake);
      void lock.current?.release();
    };
  }, [audio]);
  return {
    ringing: found,
    sounds: audio !== null,
    allow: () => setAudio((before) => before ?? new AudioContext()),
  };
}
