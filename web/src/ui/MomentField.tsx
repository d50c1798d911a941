import { useEffect, useId, useState } from "react";
import { client, Refused, taken } from "../api/client";
import { useMayWrite, useShop } from "../shop";

/** A day and an hour by the shop's clock, typed as one says it. Words it cannot take stay as typed. */
export function MomentField({
  label,
  value,
  fault,
  past = false,
  placeholder,
  onCommit,
}: {
  label: string;
  value: number | null;
  fault?: string;
  /** It asks when something was: an hour alone is the last of its kind, not the next. */
  past?: boolean;
  placeholder?: string;
  onCommit: (ms: number | null) => void;
}) {
  const { shop, moment } = useShop();
  const id = useId();
  const mayWrite = useMayWrite();
  const shown = value === null ? "" : moment(value);
  const [typed, type] = useState(shown);
  const [error, setError] = useState("");
  useEffect(() => {
    type(shown);
    setError("");
  }, [shown]);
  async function take() {
    const text = typed.trim();
    if (text === shown) return;
    if (!text) return onCommit(null);
    try {
      const path = { params: { path: { shop_id: shop.id } } };
      const read = await taken(client.POST("/api/shops/{shop_id}/moments", { ...path, body: { text, past } }));
      const ms = Date.parse(read.at);
      setError("");
      type(moment(ms));
      if (ms !== value) onCommit(ms);
    } catch (refused) {
      if (refused instanceof Refused) setError(refused.faults[0]?.message ?? refused.message);
    }
  }
  const said = error || fault;
  return (
    <div>
      <label htmlFor={id} className="lab mb-1 block">
        {label}
      </label>
      <input
        id={id}
        readOnly={!mayWrite}
        autoComplete="off"
        value={typed}
        placeholder={placeholder}
        aria-invalid={!!said}
        aria-describedby={said ? `${id}-fault` : undefined}
        onChange={(event) => type(event.target.value)}
        onFocus={(event) => event.target.select()}
        onBlur={() => void take()}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="fig min-h-11 w-full rounded-(--radius) border border-rule bg-sheet px-2.5 text-[1.0625rem] hover:border-ink aria-invalid:border-stop"
      />
      {said && (
        <p id={`${id}-fault`} role="alert" className="text-[0.8125rem] text-stop">
          {said}
        </p>
      )}
    </div>
  );
}
