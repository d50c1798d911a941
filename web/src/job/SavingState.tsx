import { useEffect } from "react";
import { useMayWrite } from "../shop";
import { useJob } from "./context";

const words = {
  saved: "saved",
  saving: "saving",
  refused: "not saved: see what is red",
  forbidden: "not saved: you may look, not change",
  unreachable: "not saved: no connection",
  conflict: "not saved: choose what stands",
  unwritten: "not saved",
};

const inField = (target: EventTarget | null) =>
  target instanceof HTMLElement && !!target.closest("input, textarea, select, [contenteditable]");

/** Whether the job is saved. */
export function SavingState() {
  const { saving } = useJob();
  const mayWrite = useMayWrite();
  const fine = saving === "saved" || saving === "saving";
  return (
    <output className={`block text-[0.7969rem] leading-tight ${fine ? "text-ink-soft" : "font-semibold text-stop"}`}>
      {fine && !mayWrite ? "to look at, not to change" : words[saving]}
    </output>
  );
}

/** Why the server could not save, in its own words, where no field of the job is to blame. */
export function Unwritten() {
  const { saving, why } = useJob();
  if (!why || (saving !== "unwritten" && saving !== "refused")) return null;
  return (
    <p role="alert" className="border-b border-stop bg-sheet px-4 py-2 text-[0.9375rem] text-stop">
      <strong>Not saved:</strong> {why}. What you typed stays on this screen
      {saving === "unwritten" ? " and is tried again by itself." : "."}
    </p>
  );
}

/** The way back and forth through the job's edits, across steps. */
export function UndoRedo() {
  const { undo, redo } = useJob();
  useEffect(() => {
    function press(event: KeyboardEvent) {
      if (inField(event.target) || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      (event.shiftKey ? redo : undo)?.();
    }
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [undo, redo]);
  return (
    <div className="flex items-center">
      <Turn name="Undo" act={undo} path="M9 4 4 9l5 5M4 9h9a5 5 0 0 1 0 10h-3" />
      <Turn name="Redo" act={redo} path="M15 4l5 5-5 5M20 9h-9a5 5 0 0 0 0 10h3" />
    </div>
  );
}

function Turn({ name, act, path }: { name: string; act: (() => void) | null; path: string }) {
  return (
    <button
      type="button"
      aria-label={name}
      title={name}
      disabled={!act}
      onClick={() => act?.()}
      className="flex min-h-8 min-w-8 items-center justify-center rounded-(--radius) hover:bg-rule-faint disabled:opacity-35"
    >
      <svg
        width="19"
        height="19"
        viewBox="0 0 24 24"
        fill="none"
        stroke="currentColor"
        strokeWidth="2.2"
        aria-hidden="true"
      >
        <path d={path} />
      </svg>
    </button>
  );
}
