import { type FormEvent, useState } from "react";
import type { Caution } from "../api/client";
import { useShop } from "../shop";
import { Button } from "./Button";
import { Told } from "./Told";

export const severityWords = { stop: "Stop", care: "Care", note: "Note" } as const;

export interface Overriding {
  give: (caution: Caution, reason: string) => void;
  withdraw: (caution: Caution) => void;
}

/** One judgement call: a line that opens into why, what to do, and how to go on past it where that may be. */
export function CautionLine({
  caution,
  overriding,
  open = false,
}: {
  caution: Caution;
  overriding?: Overriding;
  open?: boolean;
}) {
  const { clock, day } = useShop();
  const given = caution.override;
  const [opened, setOpened] = useState(open);
  return (
    <details
      open={open}
      onToggle={(event) => setOpened(event.currentTarget.open)}
      className={`caution-${given ? "note" : caution.severity} px-3 py-2`}
    >
      <summary className="cursor-pointer list-none leading-snug">
        <strong className={caution.severity === "stop" && !given ? "text-stop" : ""}>
          {given ? "Overridden" : severityWords[caution.severity]}:
        </strong>{" "}
        {caution.message}. <span className="link whitespace-nowrap text-[0.8125rem]">Why, and what to do</span>
      </summary>
      <p className="mt-2 text-[0.875rem]">{opened ? <Told>{caution.reason}</Told> : caution.reason}</p>
      <p className="mt-1.5 text-[0.875rem]">{opened ? <Told>{caution.do}</Told> : caution.do}</p>
      <p className="lab mt-1.5">Source: {caution.source}</p>
      {caution.severity === "stop" && overriding && !given && <Reason caution={caution} overriding={overriding} />}
      {given && (
        <div className="mt-2 border-t border-rule pt-2 text-[0.875rem]">
          <p>
            {given.by ? `${given.by}, ${day(given.at)} ${clock(given.at)}` : "just now"}: “{given.reason}”
          </p>
          {overriding && (
            <Button edits look="text" onClick={() => overriding.withdraw(caution)}>
              Let it stop again
            </Button>
          )}
        </div>
      )}
    </details>
  );
}

/** A reason to go on all the same; it is kept with the job, signed. Some stops take none. */
function Reason({ caution, overriding }: { caution: Caution; overriding: Overriding }) {
  const [reason, setReason] = useState("");
  const [short, setShort] = useState(false);
  if (!caution.overridable) return <p className="mt-2 text-[0.875rem] font-semibold">This one is never overridden.</p>;
  function give(event: FormEvent) {
    event.preventDefault();
    if (reason.trim().length < 3) return setShort(true);
    overriding.give(caution, reason.trim());
  }
  return (
    <form onSubmit={give} className="mt-2 border-t border-rule pt-2">
      <label className="block">
        <span className="lab">To go on all the same, say why. It stays with the job under your name.</span>
        <input
          value={reason}
          maxLength={300}
          aria-invalid={short || undefined}
          onChange={(event) => {
            setReason(event.target.value);
            setShort(false);
          }}
          className={`mt-1 min-h-10 w-full rounded-(--radius) border bg-sheet px-2.5 ${short ? "border-stop" : "border-rule"}`}
        />
      </label>
      {short && (
        <p role="alert" className="text-[0.8125rem] text-stop">
          say why, in a few words
        </p>
      )}
      <Button edits type="submit" className="mt-1.5">
        Override this stop
      </Button>
    </form>
  );
}
