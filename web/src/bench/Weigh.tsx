import { useState } from "react";
import type { CardPot, Schemas } from "../api/client";
import { asRead, fixed, readNumber } from "../format";
import { useShop } from "../shop";
import { usePlaces, useReads } from "./AtPlace";
import { BenchCup } from "./BenchCup";
import { BigButton } from "./BigButton";
import { FromTin } from "./FromTin";
import { onTheScale, type PotNow } from "./fold";
import { Keypad } from "./Keypad";
import { useBench } from "./useBench";

type Part = "first" | "second";
type CardPour = Schemas["CardPour"];
type ScaleCheck = Schemas["ScaleCheckOut"];
const TARED = "inch-cradle.tared";
/** A first part is taken as it is, unless it is nowhere near the plan. */
const NEAR = 0.25;

/** What is asked of the part in hand: how much of it in all, and what of it is in. */
interface Asked {
  part: Part;
  wanted: number;
  already: number;
}

function askedOf(card: CardPot, pot: PotNow): Asked {
  const planned = card.pours[0]?.amount ?? 0;
  if (pot.mend === "first")
    return { part: "first", wanted: (pot.first ?? 0) + pot.mend_amount, already: pot.first ?? 0 };
  if (pot.mend === "second")
    return { part: "second", wanted: (pot.second ?? 0) + pot.mend_amount, already: pot.second ?? 0 };
  if (pot.first === null) return { part: "first", wanted: planned, already: 0 };
  return { part: "second", wanted: pot.target ?? card.pours[1]?.amount ?? 0, already: 0 };
}

/** One part after the other into the cup: what the tool must show, and what it shows. Part B follows A as it was read. */
export function Weigh({ card, pot }: { card: CardPot; pot: PotNow }) {
  const { tap } = useBench();
  const [text, setText] = useState("");
  const scaleNow = useReads("scale");
  const weighs = usePlaces().here?.instruments.find((one) => one.kind === "scale");
  const [other, setOther] = useState(false);
  const [tared, setTared] = useState(() => localStorage.getItem(TARED) === "yes");
  const subject = String(card.number);
  const asked = askedOf(card, pot);
  const at = asked.part === "first" ? 0 : 1;
  const pour = card.pours[at];
  if (!pour) return null;
  const onScale = pour.tool === "scale";
  const inOneCup = pour.tool === "marked cup" && pour.running != null;
  const scale = card.pours.find((each) => each.tool === "scale");
  const cup = onScale ? (pot.cup_g === null ? card.cup_reads : pot.cup_g / (scale?.unit_is ?? 1)) : 0;
  const beneath = at === 0 ? (asked.already ? (pot.second ?? 0) : 0) : (pot.first ?? 0);
  // What the tool shows of an amount, and the amount of what it shows.
  const counts = onScale ? !tared : inOneCup;
  const base = counts ? cup + beneath : -asked.already;
  const stop = Math.round((base + asked.wanted) / pour.step) * pour.step;
  const typed = readNumber(text);
  const reading = typeof typed === "number" ? typed : null;
  // A scale that is listened to says what is in, as long as nobody types.
  const heard = onScale && scaleNow?.pot === card.number ? scaleNow.on_scale : undefined;
  const live = heard?.part === asked.part && heard.stage !== "no cup" ? heard : undefined;
  const liveAmount = live ? Math.max(0, live.in_g) / pour.unit_is : null;
  const noCup = heard?.stage === "no cup" && reading === null;
  const cupOff = live?.stage === "cup off" && reading === null;
  const byScale = live !== undefined && reading === null;
  const amount = byScale ? liveAmount : reading === null ? null : reading - base;
  const kind = (card.b_first ? at === 1 : at === 0) ? "A in" : "B in";
  const put = (value: number) => {
    tap({ about: "pot", subject, kind, data: { amount: Math.max(0, Number(value.toFixed(4))) } });
    setText("");
    setOther(false);
  };
  const shown = `${asRead(Number(stop.toFixed(3)))} ${pour.tool === "numbered cup" ? "" : pour.unit}`.trim();
  const verdict = amount === null ? null : verdictOf(card, pot, asked, amount);
  const toGo =
    reading !== null ? stop - reading : liveAmount === null ? null : inSteps(asked.wanted - liveAmount, pour);
  const amounts = at === 0 ? [amount ?? asked.already, pot.second] : [pot.first, amount ?? asked.already];
  const lineAt =
    (at === 0 ? (pot.second ?? 0) * (card.pours[1]?.unit_is ?? 1) : (pot.first ?? 0) * (card.pours[0]?.unit_is ?? 1)) +
    asked.wanted * pour.unit_is;
  const into = onScale || inOneCup;
  const title = () => {
    if (noCup) return "Put the cup on the scale";
    if (cupOff) return "Put the cup back on the scale";
    const what = asked.already ? `More of ${pour.what}` : `${VERBS[pour.tool] ?? "Pour"} ${pour.what}`;
    return `${what}${(at === 1 || asked.already) && into ? ", slowly" : ""}`;
  };
  const says = () => {
    if (byScale)
      return `${asRead(inSteps(liveAmount ?? 0, pour))} ${pour.unit} of ${asRead(inSteps(asked.wanted, pour))} are in; the next step opens by itself`;
    if (toGo !== null) return `${onScale ? "the scale shows" : "read"} ${text}; stop at ${shown}`;
    if (!onScale) return pour.note || "as the tool reads it";
    if (tared) return "stop when the scale shows this; set it to nought first";
    const below = beneath ? `, ${asRead(Number(beneath.toFixed(3)))} in it` : "";
    return `stop when the scale shows this: cup ${asRead(Number(cup.toFixed(3)))}${below}`;
  };
  return (
    <div className="grid gap-x-8 gap-y-4 sm:grid-cols-[minmax(150px,230px)_1fr] xl:grid-cols-[230px_1fr_270px]">
      <div className="max-sm:hidden">
        <BenchCup
          card={card}
          amounts={amounts}
          line={onScale || inOneCup ? lineAt : asked.wanted * pour.unit_is}
          words={onScale || inOneCup ? `stop at ${shown}` : shown}
        />
      </div>
      <div className="min-w-0">
        <h2 className="text-[2rem] leading-tight font-semibold">{title()}</h2>
        <p className="fig mt-2 text-[clamp(5.75rem,13vw,8.5rem)] leading-[0.9]">
          {toGo === null ? asRead(Number(stop.toFixed(3))) : asRead(Number(Math.abs(toGo).toFixed(3)))}{" "}
          <span className="text-[2rem] font-normal text-ink-soft">
            {pour.tool === "numbered cup" ? "" : pour.unit} {toGo !== null && (toGo >= 0 ? "to go" : "too much")}
          </span>
        </p>
        <p className="mt-2 text-[1.375rem] text-ink-soft">{says()}</p>
        <FromTin card={card} part={pour.part} />
        {at === 1 && !asked.already && pot.first !== null && (
          <p className="mt-1 text-[1.25rem]">
            {Math.abs(pot.first - (card.pours[0]?.amount ?? 0)) < (card.pours[0]?.step ?? 1)
              ? ""
              : `You put in ${asRead(pot.first)} ${card.pours[0]?.unit} of ${card.pours[0]?.part}, where ${asRead(card.pours[0]?.amount ?? 0)} was planned: this follows it.`}
          </p>
        )}
        {!!pot.mend && pot.off_pct !== null && (
          <p role="alert" className="mt-1 text-[1.375rem] font-semibold text-stop">
            {fixed(Math.abs(pot.off_pct), 0)} % off its ratio:{" "}
            {byScale ? `more of ${pour.part}` : `${asRead(inSteps(pot.mend_amount, pour))} ${pour.unit} more`} mends it,
            now, before it ages.
          </p>
        )}
        <div className="mt-5 flex flex-wrap items-center gap-3">
          {amount === null && !(onScale && heard) && (
            <BigButton next onClick={() => put(stop - base)}>
              {onScale ? "It shows" : "It is"} {shown}
            </BigButton>
          )}
          {reading !== null && amount !== null && verdict === "ok" && (
            <BigButton next onClick={() => put(amount)}>
              {pour.part === "all" ? "It" : pour.part} is in
            </BigButton>
          )}
          {reading !== null && amount !== null && verdict === "unlike" && (
            <BigButton onClick={() => put(amount)}>That is not the plan: take it all the same</BigButton>
          )}
          {reading !== null && amount !== null && verdict === "over" && (
            <BigButton onClick={() => put(amount)}>It is in: how do I mend it?</BigButton>
          )}
          {byScale && scaleNow?.still && liveAmount !== null && liveAmount > asked.already + pour.step && (
            <BigButton onClick={() => put(liveAmount)}>Take it as it is</BigButton>
          )}
          <BigButton
            className={heard ? "" : "xl:hidden"}
            onClick={() => {
              setOther(!other);
              setText("");
            }}
          >
            {other ? "Put the keys away" : heard ? "Type it" : "It shows something else"}
          </BigButton>
          {!asked.already && pot.second === null && pot.touched_min === null && (
            <BigButton onClick={() => tap({ about: "pot", subject, kind: "started over" })}>Start over</BigButton>
          )}
        </div>
        {onScale && weighs?.check && <Checked check={weighs.check} />}
        {!byScale && verdict === "under" && (
          <p className="mt-2 text-[1.25rem] text-ink-soft">
            Pour on: the next step opens when it is inside its tolerance.
          </p>
        )}
        {onScale && !heard && (
          <label className="mt-3 flex min-h-16 items-center gap-3 text-[1.125rem] text-ink-soft">
            <input
              type="checkbox"
              className="h-6 w-6"
              checked={tared}
              onChange={(event) => {
                setTared(event.target.checked);
                localStorage.setItem(TARED, event.target.checked ? "yes" : "no");
              }}
            />
            set to nought before each pour
          </label>
        )}
      </div>
      <div className={`${other ? "" : heard ? "hidden" : "max-xl:hidden"} sm:col-start-2 xl:col-start-3`}>
        <p className="mb-2 text-[1.25rem] text-ink-soft">
          {onScale ? "The scale shows" : "It shows"}{" "}
          <span className="fig text-[2.25rem] leading-none text-ink" aria-live="polite">
            {text || "–"}
          </span>{" "}
          {pour.unit}
        </p>
        <Keypad label={onScale ? "The scale shows" : "The tool shows"} text={text} onText={setText} />
      </div>
    </div>
  );
}

/** What the scale showed of a known weight, where that was off by a step of it or more. */
function Checked({ check }: { check: ScaleCheck }) {
  const { units, day } = useShop();
  const off = check.shown_g - check.known_g;
  if (!off) return null;
  return (
    <p className="mt-2 text-[1.125rem] text-ink-soft">
      Checked {day(check.at)}: this scale showed {units.text("mass", Math.abs(off))} too {off > 0 ? "much" : "little"}{" "}
      of {units.text("mass", check.known_g)}.
    </p>
  );
}

const VERBS: Partial<Record<CardPour["tool"], string>> = { pumps: "Pump", syringe: "Draw", drops: "Count" };

/** An amount in the steps that its tool shows. */
const inSteps = (amount: number, pour: CardPour) => Number((Math.round(amount / pour.step) * pour.step).toFixed(3));

/** What to make of an amount of the part in hand. */
function verdictOf(card: CardPot, pot: PotNow, asked: Asked, amount: number): "ok" | "under" | "over" | "unlike" {
  if (amount <= asked.already) return "under";
  if (asked.part === "first" && !asked.already) return Math.abs(amount / asked.wanted - 1) <= NEAR ? "ok" : "unlike";
  const made = asked.part === "first" ? onTheScale(card, amount, pot.second) : onTheScale(card, pot.first, amount);
  if (!made.mend && !made.lost) return "ok";
  return amount < asked.wanted ? "under" : "over";
}
