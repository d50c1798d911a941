import { useState } from "react";
import { Link } from "react-router";
import { asRead, plural, readNumber } from "../format";
import { useShop } from "../shop";
import { Ahead } from "./Ahead";
import { BigButton } from "./BigButton";
import { FlowNowView } from "./FlowNowView";
import { stripsOf } from "./fold";
import { Gauge } from "./Gauge";
import { timesOf } from "./heard";
import { Keypad } from "./Keypad";
import { Outcomes } from "./Outcomes";
import { NextStrip } from "./Strips";
import { TouchButtons } from "./TouchButtons";
import { countdown } from "./time";
import type { ToDo } from "./toDo";
import { useBench } from "./useBench";
import { Weigh } from "./Weigh";
import { layerOf, potOf, potWhere, sayToDo, sayWhy } from "./words";

type Go = (view: "now" | "lay" | "clocks" | "plan" | "say") => void;
const keyOf = (todo: ToDo) => `${todo.code} ${todo.subject}`;
const URGENT: ReadonlySet<ToDo["code"]> = new Set(["get away", "dump", "top up", "what became of it", "use up"]);

/** The one thing to do, with its reason; under it what comes next. */
export function Now({ onView, onHot, onStart }: { onView: Go; onHot: () => void; onStart: () => void }) {
  const { todo, state } = useBench();
  const [chosen, choose] = useState("");
  const at = Math.max(
    0,
    todo.findIndex((each) => keyOf(each) === chosen),
  );
  const first = todo[at];
  if (!first) return null;
  const rest = todo.filter((each) => each !== first);
  const weighing = first.code.startsWith("weigh") || first.code === "top up";
  return (
    <>
      <p
        className={`text-[1.5rem] leading-tight ${URGENT.has(first.code) ? "font-semibold text-kick" : "text-ink-soft"}`}
      >
        {sayToDo(state, first)}
        {weighing && potPlace(state, first)}
      </p>
      <div className="mt-1">
        <Act key={keyOf(first)} todo={first} onView={onView} onHot={onHot} onStart={onStart} onChoose={choose} />
      </div>
      {!weighing && <Ahead />}
      {rest.length > 0 && (
        <section className="mt-7 border-t border-rule pt-3">
          <h2 className="text-[1.125rem] text-ink-soft">Then</h2>
          <ul className="mt-1 flex flex-wrap gap-3">
            {rest.map((each) => (
              <li key={keyOf(each)}>
                <button
                  type="button"
                  onClick={() => choose(keyOf(each))}
                  className={`min-h-16 rounded-(--radius) border px-4 py-2 text-left text-[1.25rem] leading-tight ${URGENT.has(each.code) ? "border-kick text-kick" : "border-rule"}`}
                >
                  {sayToDo(state, each)}
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function potPlace(state: ReturnType<typeof useBench>["state"], todo: ToDo): string {
  const pot = potOf(state, todo.subject);
  return pot ? ` of ${state.card.pots.at(-1)?.number ?? ""}: ${potWhere(pot)}, ${pot.labels.join(", ")}` : "";
}

/** The number that counts, as large as it can be. */
function Hero({ number, unit, tone = "" }: { number: string; unit: string; tone?: string }) {
  return (
    <p className={`fig text-[clamp(5.75rem,13vw,8.5rem)] leading-[0.92] ${tone}`}>
      {number}{" "}
      <span className="text-[2rem] font-normal text-ink-soft max-sm:mt-2 max-sm:block max-sm:text-[1.5rem] max-sm:leading-tight">
        {unit}
      </span>
    </p>
  );
}

const Why = ({ todo }: { todo: ToDo }) => {
  const why = sayWhy(todo);
  return why ? <p className="mt-2 text-[1.5rem] leading-snug first-letter:uppercase">{why}.</p> : null;
};

interface Acting {
  todo: ToDo;
  onView: Go;
  onHot: () => void;
  onStart: () => void;
  onChoose: (key: string) => void;
}

function Act({ todo, onView, onHot, onStart, onChoose }: Acting) {
  const { state, tap, now_min, at, me, todo: all } = useBench();
  const { clock } = useShop();
  const { subject } = todo;
  const card = potOf(state, subject);
  const pot = state.pots.find((each) => String(each.number) === subject);
  const layer = layerOf(state, subject);
  const now = state.layers.find((each) => each.id === subject);
  switch (todo.code) {
    case "begin":
      return (
        <>
          <h2 className="text-[clamp(2.5rem,6vw,4rem)] leading-[1.02] font-semibold">
            {plural(state.card.pots.length, "pot")}, {plural(state.card.layers.length, "layer")}
          </h2>
          <p className="mt-3 max-w-[46ch] text-[1.5rem]">
            Start the bench: it may sound then, the screen stays on, and every press is written down with its time.
          </p>
          <BigButton
            next
            className="mt-6 min-h-20 px-10 text-[1.75rem]"
            onClick={() => {
              onStart();
              tap({ about: "run", subject: "", kind: "opened" });
            }}
          >
            Start the bench
          </BigButton>
        </>
      );
    case "mix":
      return card ? <Mix todo={todo} /> : null;
    case "weigh first":
    case "weigh second":
    case "top up":
      return card && pot ? <Weigh key={`${pot.first} ${pot.second}`} card={card} pot={pot} /> : null;
    case "stir":
      return card && pot ? (
        <>
          <Hero
            number={countdown(now_min - (pot.touched_min ?? now_min))}
            unit="since the parts touched"
            tone="text-resin-ink"
          />
          <ol className="mt-4 list-decimal space-y-2 pl-8 text-[1.625rem] leading-snug">
            {card.mixing.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ol>
          <BigButton next className="mt-6" onClick={() => tap({ about: "pot", subject, kind: "stirred" })}>
            It is stirred
          </BigButton>
        </>
      ) : null;
    case "fill":
      return card ? <Fill todo={todo} /> : null;
    case "pour out":
      return card && pot ? (
        <>
          <Hero
            number={countdown((pot.use_by_min ?? now_min) - now_min)}
            unit="if it stays in its cup"
            tone="text-resin-ink"
          />
          <p className="mt-3 text-[1.625rem] leading-snug">{card.lays}.</p>
          <BigButton
            next
            className="mt-6"
            onClick={() => tap({ about: "pot", subject, kind: "moved", data: { to: card.goes_to } })}
          >
            {card.goes_to === "bag" ? "It is in the bag" : card.filler_ml ? "It is on the board" : "It is in the tray"}
          </BigButton>
        </>
      ) : null;
    case "lay":
      return layer ? <LayLayer todo={todo} /> : null;
    case "use up":
      return pot ? <UseUp todo={todo} /> : null;
    case "what became of it":
      return (
        <>
          <Why todo={todo} />
          <div className="mt-6 flex flex-wrap gap-4">
            <BigButton main onClick={() => tap({ about: "pot", subject, kind: "used up" })}>
              It was used up
            </BigButton>
            <BigButton onClick={() => tap({ about: "pot", subject, kind: "gelled" })}>It gelled in its cup</BigButton>
            <BigButton onClick={() => tap({ about: "pot", subject, kind: "dumped", data: { words: "past its gel" } })}>
              It was dumped
            </BigButton>
          </div>
        </>
      );
    case "dump":
      return (
        <>
          <h2 className="text-[clamp(2.5rem,6vw,4rem)] leading-[1.02] font-semibold text-stop">Do not use this pot</h2>
          <Why todo={todo} />
          <p className="mt-2 text-[1.5rem] leading-snug">
            Spread it thin where it does no harm, outdoors. Its share is planned again then.
          </p>
          <BigButton
            main
            className="mt-6"
            onClick={() => tap({ about: "pot", subject, kind: "dumped", data: { words: "off its ratio" } })}
          >
            It is dumped
          </BigButton>
        </>
      );
    case "get away":
      return (
        <>
          <h2 className="text-[clamp(2.5rem,6vw,4rem)] leading-[1.02] font-semibold text-kick">Do not touch it</h2>
          <Why todo={todo} />
          <BigButton main className="mt-6" onClick={onHot}>
            What to do
          </BigButton>
        </>
      );
    case "cover":
      return layer ? (
        <>
          <Hero number={countdown((todo.by_min ?? now_min) - now_min)} unit="until it closes" />
          <Why todo={todo} />
          <Covering all={all} onChoose={onChoose} />
        </>
      ) : null;
    case "wait for tack":
      return layer ? (
        <>
          <Hero
            number={countdown((todo.from_min ?? now_min) - now_min)}
            unit={`until ${clock(at(todo.from_min ?? now_min))}`}
          />
          <Why todo={todo} />
          <p className="mt-5 text-[1.25rem] text-ink-soft">Touched it already?</p>
          <TouchButtons layer={layer} />
        </>
      ) : null;
    case "test":
      return layer ? (
        <>
          <h2 className="text-[clamp(2.25rem,5vw,3.5rem)] leading-[1.05] font-semibold">
            {layer.test === "brush"
              ? "Draw a dry brush over it"
              : layer.test === "lift"
                ? "Lay a hand on it"
                : "Press your thumb on it"}
          </h2>
          <p className="mt-2 text-[1.5rem]">{layer.test_words}</p>
          {now?.closes_min != null && (
            <p className="mt-2 text-[1.375rem] text-ink-soft">By the clock it closes at {clock(at(now.closes_min))}.</p>
          )}
          <TouchButtons layer={layer} />
        </>
      ) : null;
    case "key":
      return layer ? (
        <>
          <Why todo={todo} />
          <p className="mt-3 text-[1.625rem] leading-snug">
            {layer.mended || "Wash it with water, let it dry, sand it until nothing shines, wipe off the dust."}
          </p>
          <BigButton
            main
            className="mt-6"
            onClick={() => tap({ about: "layer", subject, kind: "mended", data: { words: "washed and sanded" } })}
          >
            It is washed and sanded
          </BigButton>
        </>
      ) : null;
    case "tick":
      return (
        <>
          <h2 className="text-[clamp(2.25rem,5vw,3.5rem)] leading-[1.05] font-semibold">
            Look at it once more: {state.card.faces?.find((each) => each.id === subject)?.words}
          </h2>
          <Why todo={todo} />
          <p className="mt-2 text-[1.5rem] leading-snug">
            Coated everywhere? No dry spot, no drip, nothing left inside?
          </p>
          <BigButton main className="mt-6" onClick={() => tap({ about: "face", subject, kind: "ticked" })}>
            All of it is coated: it may close
          </BigButton>
        </>
      );
    case "take out":
      return (
        <>
          <Why todo={todo} />
          <BigButton main className="mt-6" onClick={() => tap({ about: "fixing", subject, kind: "taken out" })}>
            They are out
          </BigButton>
        </>
      );
    case "open the valve":
    case "watch the front":
    case "close the valve":
      return (
        <>
          <Why todo={todo} />
          <FlowNowView lane={subject} />
        </>
      );
    case "plan anew":
      return (
        <>
          <h2 className="text-[clamp(2.25rem,5vw,3.5rem)] leading-[1.05] font-semibold">
            What it was for is still to be laid
          </h2>
          <Why todo={todo} />
          <BigButton main edits={false} className="mt-6" onClick={() => onView("plan")}>
            See the new plan
          </BigButton>
        </>
      );
    case "night":
      return (
        <>
          <Why todo={todo} />
          <BigButton main className="mt-6" onClick={() => tap({ about: "run", subject: "", kind: "gone on" })}>
            Good morning: go on
          </BigButton>
        </>
      );
    case "close":
      return (
        <>
          <h2 className="text-[clamp(2.25rem,5vw,3.5rem)] leading-[1.05] font-semibold">How did it come out?</h2>
          <Outcomes />
          <p className="mt-5 text-[1.25rem] text-ink-soft">
            Nothing is lost by waiting: cures and clamps go on being watched until you close it.
          </p>
        </>
      );
    case "closed":
      return <Closed me={me} />;
  }
}

function Closed({ me }: { me: string }) {
  const { bench, state } = useBench();
  return (
    <>
      <h2 className="text-[clamp(2.25rem,5vw,3.5rem)] leading-[1.05] font-semibold">Closed: {state.outcome}</h2>
      <p className="mt-3 text-[1.5rem]">
        All of it is in the log{me ? `, ${me}` : ""}. Take the last press back below if it is not over.
      </p>
      <Link to={`/jobs/${bench.job_id}/log`} className="link mt-5 inline-block text-[1.5rem]">
        Open the log
      </Link>
    </>
  );
}

/** How a window is met: by the pot that comes next. */
function Covering({ all, onChoose }: { all: ToDo[]; onChoose: (key: string) => void }) {
  const next = all.find((each) => each.code === "mix" || each.code === "lay" || each.code.startsWith("weigh"));
  const { state } = useBench();
  if (!next) return null;
  return (
    <BigButton next className="mt-6" onClick={() => onChoose(keyOf(next))}>
      {sayToDo(state, next)}
    </BigButton>
  );
}

/** Keys for a number that is not as planned, with what is pressed so far. */
function Pressed(of: { label: string; unit: string; text: string; onText: (text: string) => void }) {
  return (
    <div className="mt-4 flex gap-4">
      <Keypad label={of.label} text={of.text} onText={of.onText} />
      <p className="fig text-[3rem] leading-none">
        {of.text || "–"} <span className="text-[1.25rem] font-normal text-ink-soft">{of.unit}</span>
      </p>
    </div>
  );
}

/** The next pot: which, how much of it, and its cup on the scale. */
function Mix({ todo }: { todo: ToDo }) {
  const { state, tap } = useBench();
  const { units } = useShop();
  const [text, setText] = useState("");
  const [other, setOther] = useState(false);
  const card = potOf(state, todo.subject);
  if (!card) return null;
  const scale = card.pours.find((pour) => pour.tool === "scale");
  const typed = readNumber(text);
  const cup = scale ? (typeof typed === "number" ? typed : card.cup_reads) : 0;
  return (
    <>
      <Hero
        number={units.number("mass", card.mass_g)}
        unit={`${units.unit("mass", card.mass_g)}, pot ${card.number} of ${state.card.pots.at(-1)?.number}`}
      />
      <p className="mt-2 text-[1.75rem] leading-tight">
        {potWhere(card)}: {card.labels.join(", ")}
      </p>
      <Why todo={todo} />
      {card.hardener_changes && (
        <p role="status" className="mt-2 text-[1.75rem] font-semibold text-mid">
          From this pot on: {card.hardener} hardener
        </p>
      )}
      <p className="mt-2 text-[1.25rem] text-ink-soft">
        {[card.resin_name, card.hardener && `${card.hardener} hardener`, ...card.protection]
          .filter(Boolean)
          .join(" · ")}
      </p>
      {other && <Pressed label="The empty cup weighs" unit={card.scale_unit} text={text} onText={setText} />}
      <div className="mt-6 flex flex-wrap gap-4">
        <BigButton
          next
          onClick={() =>
            tap({ about: "pot", subject: todo.subject, kind: "cup on", data: { grams: cup * (scale?.unit_is ?? 0) } })
          }
        >
          {scale ? `Cup on the scale: it shows ${asRead(cup)} ${card.scale_unit}` : "The cup is out"}
        </BigButton>
        {scale && <BigButton onClick={() => setOther(!other)}>{other ? "As usual" : "Another cup"}</BigButton>}
      </div>
    </>
  );
}

/** Filler into the mixed pot: how much is expected, and how much it really took. */
function Fill({ todo }: { todo: ToDo }) {
  const { state, tap } = useBench();
  const { units } = useShop();
  const [text, setText] = useState("");
  const [other, setOther] = useState(false);
  const card = potOf(state, todo.subject);
  if (!card?.filler_ml) return null;
  const axis = units.axis("volume");
  const typed = readNumber(text);
  const loose_ml = typeof typed === "number" ? axis.value(typed) : card.filler_ml;
  return (
    <>
      <Hero number={units.number("volume", card.filler_ml)} unit={`${axis.unit} of filler, loose`} />
      <p className="mt-2 text-[1.5rem] leading-snug">{card.filler}.</p>
      {other && (
        <Pressed
          label={`Filler really stirred in, loose, ${axis.unit}`}
          unit={axis.unit}
          text={text}
          onText={setText}
        />
      )}
      <div className="mt-6 flex flex-wrap gap-4">
        <BigButton
          next
          onClick={() => tap({ about: "pot", subject: todo.subject, kind: "filler in", data: { loose_ml } })}
        >
          It took {units.text("volume", loose_ml)}
        </BigButton>
        <BigButton
          onClick={() => {
            setOther(!other);
            setText("");
          }}
        >
          {other ? "As expected" : "It took another amount"}
        </BigButton>
      </div>
    </>
  );
}

/** A layer on the work: the time its pot leaves, and what is said when it is done. */
function LayLayer({ todo }: { todo: ToDo }) {
  const { state, tap, now_min, heard } = useBench();
  const layer = layerOf(state, todo.subject);
  const pot = state.pots.find(
    (each) => layer && each.state === "live" && layer.first_pot <= each.number && each.number <= layer.last_pot,
  );
  const { use_by_min } = timesOf(pot, heard, now_min);
  if (!layer || !pot) return null;
  const card = potOf(state, String(pot.number));
  const last = pot.number === layer.last_pot;
  const left = use_by_min - now_min;
  const subject = String(pot.number);
  // A pot that is the last of several layers ends them all.
  const ended = state.card.layers.filter((each) => each.last_pot === pot.number);
  return (
    <>
      <Hero
        number={left >= 0 ? countdown(left) : `+${countdown(-left)}`}
        unit={left >= 0 ? `to use up pot ${pot.number}` : `over its time, pot ${pot.number}`}
        tone={left >= 0 ? "text-resin-ink" : "text-kick"}
      />
      {card?.lays && <p className="mt-2 text-[1.5rem] leading-snug">{card.lays}.</p>}
      {layer.last_pot > layer.first_pot && (
        <p className="mt-1 text-[1.25rem] text-ink-soft">
          pot {pot.number - layer.first_pot + 1} of {layer.last_pot - layer.first_pot + 1} for it
        </p>
      )}
      <div className="mt-6 flex flex-wrap gap-4">
        <NextStrip layer={layer} next />
        {last ? (
          <BigButton
            next={stripsOf(layer) === 1}
            onClick={() =>
              tap(
                { about: "pot", subject, kind: "used up" },
                ...ended.map((each) => ({ about: "layer", subject: each.id, kind: "laid" }) as const),
              )
            }
          >
            Used up, and it is laid
          </BigButton>
        ) : (
          <BigButton next={stripsOf(layer) === 1} onClick={() => tap({ about: "pot", subject, kind: "used up" })}>
            Pot {pot.number} is used up
          </BigButton>
        )}
        {!pot.half_used && (
          <BigButton onClick={() => tap({ about: "pot", subject, kind: "half used" })}>Half of it is on</BigButton>
        )}
        {last && (
          <BigButton onClick={() => tap({ about: "layer", subject: layer.id, kind: "laid" })}>
            Laid, and the pot goes on
          </BigButton>
        )}
      </div>
      {last && <LeftOver pot={pot.number} />}
      <Gauge layer={layer} />
    </>
  );
}

function UseUp({ todo }: { todo: ToDo }) {
  const { state, tap, now_min, heard } = useBench();
  const { subject } = todo;
  const pot = state.pots.find((each) => String(each.number) === subject);
  const ended = state.card.layers.filter(
    (each, at) => String(each.last_pot) === subject && state.layers[at]?.laid_min === null,
  );
  const { use_by_min } = timesOf(pot, heard, now_min);
  if (!pot) return null;
  const left = use_by_min - now_min;
  return (
    <>
      <Hero
        number={left >= 0 ? countdown(left) : `+${countdown(-left)}`}
        unit={left >= 0 ? "to use it up" : "over its working time"}
        tone="text-kick"
      />
      <Why todo={todo} />
      <div className="mt-6 flex flex-wrap gap-4">
        <BigButton
          next
          onClick={() =>
            tap(
              { about: "pot", subject, kind: "used up" },
              ...ended.map((each) => ({ about: "layer", subject: each.id, kind: "laid" }) as const),
            )
          }
        >
          {ended.length ? "Used up, and it is laid" : "It is used up"}
        </BigButton>
        <BigButton onClick={() => tap({ about: "pot", subject, kind: "dumped", data: { words: "too late to use" } })}>
          The rest is dumped
        </BigButton>
      </div>
      <LeftOver pot={pot.number} />
    </>
  );
}

/** What is left of a pot whose work is laid, weighed: it ends the pot. */
function LeftOver({ pot }: { pot: number }) {
  const { state, tap } = useBench();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const card = potOf(state, String(pot));
  const scale = card?.pours.find((pour) => pour.tool === "scale");
  const unit_is = scale?.unit_is ?? 1;
  const unit = scale?.unit ?? "g";
  const typed = readNumber(text);
  const made = state.card.pots.find((each) => each.number === pot)?.most_g ?? Number.POSITIVE_INFINITY;
  const grams = typeof typed === "number" ? typed * unit_is : null;
  const tooMuch = grams !== null && grams > made;
  const ended = state.card.layers.filter((each, at) => each.last_pot === pot && state.layers[at]?.laid_min === null);
  if (!open)
    return (
      <BigButton className="mt-4" onClick={() => setOpen(true)}>
        Laid, and the rest is weighed
      </BigButton>
    );
  return (
    <div className="mt-4 flex flex-wrap gap-4">
      <Keypad label={`Left over, without the cup, ${unit}`} text={text} onText={setText} />
      <div className="flex max-w-[26rem] flex-col items-start gap-3">
        <p className="text-[1.25rem] text-ink-soft">Left over, without the cup</p>
        <p className="fig text-[3rem] leading-none">
          {text || "–"} <span className="text-[1.25rem] font-normal text-ink-soft">{unit}</span>
        </p>
        {tooMuch && (
          <p role="alert" className="text-[1.25rem] text-stop">
            That is more than the cup may hold: type what is left without the cup.
          </p>
        )}
        <BigButton
          main
          disabled={grams === null || tooMuch}
          onClick={() => {
            if (grams === null) return;
            const subject = String(pot);
            tap(
              { about: "pot", subject, kind: "left over", data: { grams: Number(grams.toFixed(2)) } },
              { about: "pot", subject, kind: "used up" },
              ...ended.map((each) => ({ about: "layer", subject: each.id, kind: "laid" }) as const),
            );
          }}
        >
          {ended.length ? "Laid, so much is left over" : "So much is left over"}
        </BigButton>
        <BigButton onClick={() => setOpen(false)}>Back</BigButton>
      </div>
    </div>
  );
}
