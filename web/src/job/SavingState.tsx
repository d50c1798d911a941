import { Button } from "../ui/Button";
import { useJob } from "./context";

export function SavingState() {
  const { saving, faults, reload } = useJob();
  const words = {
    saved: "saved",
    saving: "saving",
    refused: "not saved: see the red field",
    unreachable: "not saved: no connection",
    stale: "not saved",
  }[saving];
  return (
    <div className="max-w-[230px] text-right text-[13px]">
      <output className={saving === "saved" || saving === "saving" ? "text-ink-soft" : "font-semibold text-stop"}>
        {words}
      </output>
      {saving === "stale" && (
        <p>
          {faults[0]?.message}.{" "}
          <Button look="text" onClick={reload}>
            Load it
          </Button>
        </p>
      )}
    </div>
  );
}
