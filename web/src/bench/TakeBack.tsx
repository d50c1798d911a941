import { useState } from "react";
import { useMayWrite, useShop } from "../shop";
import { useBench } from "./useBench";
import { sayEvent } from "./words";

/** The last tap of whoever stands here, taken back in two presses. */
export function TakeBack() {
  const { line, state } = useBench();
  const { clock, units } = useShop();
  const mayWrite = useMayWrite();
  const last = line.last();
  const [asked, ask] = useState("");
  if (!last || !mayWrite) return null;
  const sure = asked === last.tap_id;
  return (
    <div className="flex items-center gap-3 border-b border-rule px-3 text-[1rem] text-ink-soft sm:px-5">
      <span className="min-w-0 flex-1 truncate py-2">
        {clock(last.happened_at)}{" "}
        {sayEvent({ ...last, subject: last.subject ?? "", data: last.data ?? {} }, units, state)}
      </span>
      {sure && (
        <button type="button" className="min-h-16 px-5 underline underline-offset-4" onClick={() => ask("")}>
          No
        </button>
      )}
      <button
        type="button"
        className={`min-h-16 rounded-(--radius) px-4 text-[1.125rem] ${sure ? "bg-ink font-semibold text-floor" : "underline underline-offset-4"}`}
        onClick={() => {
          if (!sure) return ask(last.tap_id);
          ask("");
          void line.takeBack(last, "pressed by mistake");
        }}
      >
        {sure ? "Yes, take it back" : "Take it back"}
      </button>
    </div>
  );
}
