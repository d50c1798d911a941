import { useState } from "react";
import { fixed, plural, readNumber } from "../format";
import { useShop } from "../shop";
import { BigButton } from "./BigButton";
import { Keypad } from "./Keypad";
import { useBench } from "./useBench";

/** What was read of a pot's surface, and what to do for it. */
export function Heard({ pot }: { pot: number }) {
  const { units } = useShop();
  const { heard, state } = useBench();
  // Over its limit it is neither poured nor carried past people: only the alarm of a hot pot stands then.
  const hot = state.pots.some((each) => each.number === pot && each.hot);
  const told = heard.find((each) => each.number === pot);
  const last = told?.surface?.at(-1);
  if (!told || !last) return null;
  return (
    <div className="mt-1 text-[1rem]">
      <p>
        Surface <b className="fig text-[1.25rem]">{units.text("temperature", last.surface_c)}</b>,{" "}
        {plural(told.readings, "reading")}
      </p>
      {told.believed < told.readings && (
        <p className="text-stop">
          {plural(told.readings - told.believed, "reading")} left out: no pot is so. Point it at the middle of the pot.
        </p>
      )}
      {!hot && told.level === "out now" && (
        <p className="text-[1.25rem] font-semibold text-kick">Out of its cup now, or outdoors.</p>
      )}
      {!hot && told.level === "prepare" && (
        <p className="text-[1.25rem] font-semibold text-mid">It warms by itself: use it up.</p>
      )}
      {told.fast && (
        <p className="font-semibold text-kick">
          A fast mix: about {fixed(told.life, 1)} of the life on its label. What is left of this tin is planned so.
        </p>
      )}
    </div>
  );
}

/** The surface of a pot, read off a thermometer that is pointed at it. */
export function ReadSurface({ pot }: { pot: number }) {
  const { tap } = useBench();
  const { units } = useShop();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const axis = units.axis("temperature");
  const typed = readNumber(text);
  const surface_c = typeof typed === "number" ? axis.value(typed) : null;
  if (!open) return <BigButton onClick={() => setOpen(true)}>Read its surface</BigButton>;
  return (
    <div className="flex w-full flex-wrap gap-4">
      <Keypad label={`The surface of pot ${pot}, ${axis.unit}`} text={text} onText={setText} />
      <div className="flex flex-col items-start gap-3">
        <p className="text-[1.25rem] text-ink-soft">The middle of its surface, from a hand away</p>
        <p className="fig text-[3rem] leading-none">
          {text || "–"} <span className="text-[1.25rem] font-normal text-ink-soft">{axis.unit}</span>
        </p>
        <BigButton
          main
          disabled={surface_c === null}
          onClick={() => {
            if (surface_c === null) return;
            const data = { temperature_c: Number(surface_c.toFixed(2)) };
            tap({ about: "pot", subject: String(pot), kind: "surface", data });
            setText("");
            setOpen(false);
          }}
        >
          So warm it is
        </BigButton>
        <BigButton onClick={() => setOpen(false)}>Back</BigButton>
      </div>
    </div>
  );
}
