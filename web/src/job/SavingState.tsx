import { useEffect } from "react";
import { Button } from "../ui/Button";
import { useJob } from "./context";

const words = {
  saved: "saved",
  saving: "saving",
  refused: "not saved: see the red field",
  forbidden: "not saved: you may look, not change",
  unreachable: "not saved: no connection",
  conflict: "not saved: choose what stands",
};

/** Whether the job is saved, and the way back and forth through its edits, across steps. */
export function SavingState() {
  const { saving, undo, redo } = useJob();
  useEffect(() => {
    function press(event: KeyboardEvent) {
      const inField = event.target instanceof HTMLElement && event.target.closest("input, textarea, [contenteditable]");
      if (inField || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      (event.shiftKey ? redo : undo)?.();
    }
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [undo, redo]);
  const fine = saving === "saved" || saving === "saving";
  return (
    <div className="flex items-center gap-2 text-[13px]">
      <Button look="text" disabled={!undo} className="disabled:opacity-40" onClick={() => undo?.()}>
        Undo
      </Button>
      <Button look="text" disabled={!redo} className="disabled:opacity-40" onClick={() => redo?.()}>
        Redo
      </Button>
      <output className={`min-w-[46px] text-right ${fine ? "text-ink-soft" : "font-semibold text-stop"}`}>
        {words[saving]}
      </output>
    </div>
  );
}
