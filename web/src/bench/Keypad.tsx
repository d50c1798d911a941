import { useEffect, useRef } from "react";
import { fixed } from "../format";

const rows = ["7", "8", "9", "4", "5", "6", "1", "2", "3"];

/** A number pressed with a knuckle, or typed without looking for a field. */
export function Keypad({
  text,
  onText,
  label,
  whole = false,
}: {
  text: string;
  onText: (text: string) => void;
  label: string;
  /** Digits alone, without a point. */
  whole?: boolean;
}) {
  const latest = useRef({ text, onText });
  latest.current = { text, onText };
  const point = whole ? "" : fixed(0.5, 1).charAt(1);
  const press = (key: string) => {
    const now = latest.current.text;
    if (key === "back") return latest.current.onText(now.slice(0, -1));
    if (now.length >= 7 || !key || (key === point && now.includes(point))) return;
    latest.current.onText(now + key);
  };
  const pressed = useRef(press);
  pressed.current = press;
  useEffect(() => {
    const type = (event: KeyboardEvent) => {
      if ((event.target as HTMLElement).closest("input, textarea") || event.ctrlKey || event.metaKey) return;
      if (/^\d$/.test(event.key)) pressed.current(event.key);
      else if (event.key === "." || event.key === ",") pressed.current(point);
      else if (event.key === "Backspace") pressed.current("back");
    };
    window.addEventListener("keydown", type);
    return () => window.removeEventListener("keydown", type);
  }, [point]);
  const key = "min-h-16 rounded-(--radius) border-2 border-rule bg-sheet text-[1.75rem] fig";
  return (
    <fieldset aria-label={label} className="grid w-[270px] shrink-0 grid-cols-3 gap-2">
      {rows.map((digit) => (
        <button key={digit} type="button" className={key} onClick={() => press(digit)}>
          {digit}
        </button>
      ))}
      {point ? (
        <button type="button" className={key} onClick={() => press(point)}>
          {point}
        </button>
      ) : (
        <span />
      )}
      <button type="button" className={key} onClick={() => press("0")}>
        0
      </button>
      <button type="button" className={key} aria-label="Delete the last digit" onClick={() => press("back")}>
        ←
      </button>
    </fieldset>
  );
}
