import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { client, Refused, taken, type Wrong, type WrongFound } from "../api/client";
import { fixed } from "../format";
import { newTap } from "../job/context";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { Split, Title } from "../steps/Split";
import { Button } from "../ui/Button";
import { type Form, FormContext, Words } from "../ui/form";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { useTitle } from "../ui/useTitle";
import { PlainHeader } from "./PlainHeader";

type Cause = WrongFound["found"]["causes"][number];
const ALL = "all";
const MOST_NOTED = 300;
/** What is known so far. */
type Known = Wrong & { answers: Record<string, string>; skipped: string[] };

/** What went wrong: one question after another, the log read first, to the cause and what mends it. */
export function WrongPage() {
  const { shopId } = useSession();
  useTitle("What went wrong");
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <Asked shopId={shopId} />
      </ShopProvider>
    </>
  );
}

function Asked({ shopId }: { shopId: string }) {
  const [search] = useSearchParams();
  const begun: Known = {
    answers: {},
    skipped: [],
    run_id: search.get("run"),
    job_id: search.get("job"),
    part_id: search.get("part") ?? "",
    cause: "",
  };
  // What was answered and taken stands through a reload, each run and job by itself.
  const place = `inch-cradle.wrong.${shopId}.${begun.run_id ?? begun.job_id ?? ""}.${begun.part_id}`;
  const [known, setKnown] = useState<Known>(() => JSON.parse(localStorage.getItem(place) ?? "null") ?? begun);
  const change = (next: Partial<Known>) => setKnown((before) => ({ ...before, ...next }));
  const path = { params: { path: { shop_id: shopId } } };
  const {
    data: now,
    error,
    isPlaceholderData: waits,
  } = useQuery({
    queryKey: ["wrong", shopId, known],
    queryFn: ({ signal }) => taken(client.POST("/api/shops/{shop_id}/wrong", { ...path, body: known, signal })),
    placeholderData: keepPreviousData,
    retry: (tried, refused) => tried < 5 && refused instanceof Refused && [0, 499, 503].includes(refused.status),
  });
  const [pending] = useState(() => new Words("inch-cradle.words.wrong"));
  const faults = error instanceof Refused ? error.faults : [];
  const form: Form = useMemo(
    () => ({
      pending,
      fault: (field) => {
        const found = faults.find((fault) => fault.path === field || fault.path.endsWith(`.${field}`));
        return found ? { message: found.message, refused: true } : null;
      },
    }),
    [faults, pending],
  );
  const current = !!now && !waits;
  useEffect(() => {
    if (current) localStorage.setItem(place, JSON.stringify(known));
  }, [place, known, current]);
  // What was found last stands while something is refused.
  const last = useRef(now);
  if (now) last.current = now;
  const data = now ?? last.current;
  if (!data)
    return (
      <main className="p-8" role="alert">
        {error && <p className="text-[1.125rem]">{error.message}</p>}
      </main>
    );
  const answer = (question: string, given: string) =>
    change({ answers: { ...known.answers, [question]: given }, cause: "" });
  return (
    <FormContext.Provider value={form}>
      <Split
        asks
        picture={<Causes data={data} known={known} change={change} />}
        sheet={
          <>
            {data.pots.length > 1 && (
              <Pick
                label="In which pot's work is it?"
                value={known.pot == null ? ALL : String(known.pot)}
                placeholder="in all of it"
                options={[[ALL, "in all of it"], ...data.pots.map((pot) => [String(pot), `pot ${pot}`] as const)]}
                onChange={(pot) => change({ pot: pot === ALL ? null : Number(pot), cause: "" })}
              />
            )}
            <Question data={data} onAnswer={answer} onSkip={(id) => change({ skipped: [...known.skipped, id] })} />
            <Given data={data} known={known} change={change} onAnew={() => setKnown(begun)} />
            <Mend data={data} known={known} change={change} shopId={shopId} />
          </>
        }
      />
    </FormContext.Provider>
  );
}

function Question({
  data,
  onAnswer,
  onSkip,
}: {
  data: WrongFound;
  onAnswer: (question: string, answer: string) => void;
  onSkip: (question: string) => void;
}) {
  const { ask } = data.found;
  if (!ask)
    return (
      <p className="text-[1.125rem] font-semibold">
        Nothing more to ask: no answer would tell these causes apart any better.
      </p>
    );
  return (
    <section aria-label="The next question">
      <h2 className="text-[1.375rem] leading-tight font-semibold">{ask.words}</h2>
      {ask.parts.length === 2 && data.answered.length > 0 && (
        <p className="mt-1 text-[0.9375rem] text-ink-soft">
          {ask.test ? "Try it" : "Asked"} since it tells apart:{" "}
          {ask.parts.map((name) => name.toLowerCase()).join(", or ")}.
        </p>
      )}
      <div className="mt-3 grid gap-2 sm:grid-cols-2">
        {Object.entries(ask.answers).map(([id, words]) => (
          <button
            key={id}
            type="button"
            onClick={() => onAnswer(ask.id, id)}
            className="min-h-12 rounded-(--radius) border border-rule bg-sheet px-3 py-2 text-left text-[1.0625rem] hover:border-ink"
          >
            {words}
          </button>
        ))}
      </div>
      <Button className="mt-2 min-h-11" onClick={() => onSkip(ask.id)}>
        I cannot tell
      </Button>
    </section>
  );
}

/** What was answered, each to be taken back. */
function Given({
  data,
  known,
  change,
  onAnew,
}: {
  data: WrongFound;
  known: Known;
  change: (next: Partial<Known>) => void;
  onAnew: () => void;
}) {
  const back = (id: string) => {
    const { [id]: _, ...answers } = known.answers;
    change({ answers, cause: "" });
  };
  if (!data.answered.length && !known.skipped.length) return null;
  return (
    <section aria-label="Answered" className="border-t border-rule pt-3">
      <ul className="space-y-1">
        {data.answered.map((question) => (
          <li key={question.id} className="flex items-baseline justify-between gap-3">
            <span>
              <span className="lab">{question.words}</span>
              <br />
              <span className="text-[1rem]">{question.answers[known.answers[question.id] ?? ""]}</span>
            </span>
            <Button look="text" className="min-h-11 shrink-0" onClick={() => back(question.id)}>
              Take back
            </Button>
          </li>
        ))}
      </ul>
      <Button look="text" className="min-h-11" onClick={onAnew}>
        Begin anew
      </Button>
    </section>
  );
}

const standings: Record<Cause["standing"], string> = {
  likely: "likely",
  "may be": "may be",
  hardly: "hardly",
  "ruled out": "ruled out by the log",
};

function Causes({ data, known, change }: { data: WrongFound; known: Known; change: (next: Partial<Known>) => void }) {
  const { found, mending } = data;
  const open = found.causes.filter((cause) => cause.standing !== "ruled out" && cause.standing !== "hardly");
  const out = found.causes.filter((cause) => cause.standing === "ruled out");
  const chosen = found.causes.find((cause) => cause.id === mending?.cause);
  const begun = Object.keys(known.answers).length > 0;
  return (
    <div>
      <Title
        words={data.job_name ? `What went wrong: ${data.job_name}` : "What went wrong"}
        under="One question after another, the one that tells most first. How often a cause shows a sign is from memory."
      />
      {!begun && (
        <p className="max-w-[56ch] py-3 text-[1.125rem]">
          Say what you see. The causes that it may have come from stand here, the likeliest first, with what mends it.
          {data.log.length > 0 && " The log of this run was read, and what it rules out is struck through."}
        </p>
      )}
      {!begun && (
        <ul aria-label="What is known here" className="columns-1 gap-x-6 text-[0.9375rem] text-ink-soft sm:columns-2">
          {found.causes
            .filter((cause) => cause.standing !== "ruled out")
            .map((cause) => (
              <li key={cause.id} className="break-inside-avoid py-0.5">
                {cause.name}
              </li>
            ))}
        </ul>
      )}
      {found.doubt && (
        <p role="status" className="mb-3 max-w-[60ch] border-l-4 border-mid pl-3 text-[1.0625rem]">
          {found.doubt}.
        </p>
      )}
      {begun && (
        <ol aria-label="Causes" className="space-y-1.5">
          {(open.length ? open : found.causes.slice(0, 3)).map((cause) => (
            <li key={cause.id}>
              <button
                type="button"
                aria-pressed={cause.id === mending?.cause}
                onClick={() => change({ cause: cause.id })}
                className={`grid min-h-11 w-full grid-cols-[1fr_auto] items-center gap-x-4 rounded-(--radius) border px-3 py-1.5 text-left ${cause.id === mending?.cause ? "border-ink bg-sheet" : "border-transparent hover:border-rule"}`}
              >
                <span className={cause.id === mending?.cause ? "text-[1.375rem] font-semibold" : "text-[1.0625rem]"}>
                  {cause.name}
                </span>
                <span className="lab">{standings[cause.standing]}</span>
                <span className="col-span-2 mt-1 block h-2 bg-rule-faint">
                  <span className="block h-2 bg-resin-light" style={{ width: `${100 * cause.share}%` }} />
                </span>
              </button>
            </li>
          ))}
        </ol>
      )}
      {out.length > 0 && (
        <ul aria-label="Ruled out by the log" className="mt-3 space-y-1">
          {out.map((cause) => (
            <li key={cause.id} className="px-3 text-[0.9375rem] text-ink-soft">
              <s>{cause.name}</s>: {cause.log.join("; ")}.
            </li>
          ))}
        </ul>
      )}
      {begun && chosen && mending && (
        <section aria-label="What mends it" className="mt-4 border-t border-rule pt-3">
          <p className="max-w-[64ch] text-[1.0625rem]">{chosen.says}</p>
          {chosen.standing !== "ruled out" &&
            chosen.log.map((words) => (
              <p key={words} className="mt-1 max-w-[64ch] font-semibold">
                The log: {words}.
              </p>
            ))}
          {chosen.against.length > 0 && (
            <p className="mt-1 max-w-[64ch] text-ink-soft">
              It seldom goes with: {chosen.against.map((words) => `“${words}”`).join(", ")}.
            </p>
          )}
          <h2 className="mt-3 text-[1.1875rem] font-semibold">
            {chosen.standing === "likely" ? "" : "If it is that: "}
            {mending.words}
          </h2>
          <ol className="mt-1 max-w-[68ch] list-decimal space-y-1 pl-6 text-[1rem]">
            {mending.steps.map((step) => (
              <li key={step}>{step}.</li>
            ))}
          </ol>
          <p className="mt-2 max-w-[68ch]">{mending.record}</p>
          <Caught data={data} />
          {known.run_id && <Keep key={chosen.id} runId={known.run_id} name={chosen.name} seen={seen(data, known)} />}
          <p className="lab mt-1">
            Signs: {chosen.source}, how often: memory. Repair: {mending.source}. The data sheets win.
          </p>
        </section>
      )}
      {begun && <MayI data={data} />}
    </div>
  );
}

const seen = (data: WrongFound, known: Known) =>
  data.answered.map((question) => question.answers[known.answers[question.id] ?? ""]).join("; ");

/** Keeps in the log of the run what was found. */
function Keep({ runId, name, seen }: { runId: string; name: string; seen: string }) {
  const whole = `What went wrong: ${name}. Seen: ${seen}`;
  // A note holds no more.
  const words = whole.length > MOST_NOTED ? `${whole.slice(0, MOST_NOTED - 1)}…` : whole;
  const keep = useMutation({
    mutationFn: () =>
      taken(
        client.POST("/api/runs/{run_id}/events", {
          params: { path: { run_id: runId } },
          body: {
            tap_id: newTap(),
            about: "run",
            subject: "",
            device: "",
            kind: "note",
            happened_at: new Date().toISOString(),
            data: { words },
          },
        }),
      ),
  });
  if (keep.isSuccess)
    return (
      <p role="status" className="mt-2">
        Kept in the run's log: “{words}”.
      </p>
    );
  return (
    <div className="mt-2">
      <Button edits className="min-h-11" disabled={keep.isPending} onClick={() => keep.mutate()}>
        Keep this in the run's log
      </Button>
      {keep.isError && (
        <p role="alert" className="mt-1 text-stop">
          {keep.error.message}
        </p>
      )}
    </div>
  );
}

function Caught({ data }: { data: WrongFound }) {
  const { caught } = data;
  if (!caught) return null;
  if (!caught.stood) return <p className="mt-2 max-w-[68ch]">What would have caught it: {caught.looks_for}</p>;
  return (
    <p className="mt-2 max-w-[68ch] font-semibold">
      The plan warned of it: {caught.words}.{caught.override ? ` It was overridden: ${caught.override}.` : ""}
    </p>
  );
}

/** What people would like to do over it, and whether they may. */
function MayI({ data }: { data: WrongFound }) {
  return (
    <section aria-label="May I" className="mt-4 border-t border-rule pt-3">
      <h2 className="text-[1.1875rem] font-semibold">What may be done over it now</h2>
      <dl className="mt-1 grid max-w-[76ch] grid-cols-1 gap-x-4 gap-y-1.5 sm:grid-cols-[14rem_1fr]">
        {data.found.may.map((each) => (
          <div key={each.wish} className="contents">
            <dt className="text-[1rem]">{each.words}</dt>
            <dd className={`text-[1rem] ${each.allowed === false ? "font-semibold text-stop" : ""}`}>
              {each.because}.
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** The repair as a part: how large the place is, what it takes, and where it goes. */
function Mend({
  data,
  known,
  change,
  shopId,
}: {
  data: WrongFound;
  known: Known;
  change: (next: Partial<Known>) => void;
  shopId: string;
}) {
  const { units } = useShop();
  const go = useNavigate();
  const path = { params: { path: { shop_id: shopId } } };
  const body = () => ({ ...known, cause: data.mending?.cause ?? "" });
  const make = useMutation({
    mutationFn: (alone: boolean) =>
      taken(
        alone
          ? client.POST("/api/shops/{shop_id}/jobs/from-wrong", { ...path, body: body() })
          : client.POST("/api/shops/{shop_id}/wrong/added", { ...path, body: body() }),
      ),
    onSuccess: (job) => go(`/jobs/${job.id}/measure`),
  });
  const { mending } = data;
  if (!mending) return null;
  const failed = make.error instanceof Refused ? make.error.faults[0]?.message : null;
  return (
    <section aria-label="How much it takes" className="space-y-3 border-t border-rule pt-3">
      <h2 className="text-[1.1875rem] font-semibold">How much it takes</h2>
      {data.parts.length > 0 && (
        <Pick
          label="Which part is it on?"
          value={known.part_id ?? ""}
          placeholder="choose"
          options={data.parts.map((part) => [part.id, part.name] as const)}
          onChange={(part_id) => change({ part_id })}
        />
      )}
      <QuantityField
        label="How large is the bad place?"
        path="area_m2"
        fieldKey="wrong.area_m2"
        dimension="area"
        value={known.area_m2}
        placeholder="not measured"
        optional
        onCommit={(area_m2) => change({ area_m2 })}
      />
      {mending.hours != null && (mending.hours > 0 || mending.waits_h > 0) && (
        <p className="text-[1.0625rem]">
          {mending.hours > 0 && (
            <>
              <span className="fig text-[1.375rem]">{fixed(mending.hours, 1)}</span> h of one pair of hands (memory)
            </>
          )}
          {mending.resin_g != null && (
            <>
              , <span className="fig text-[1.375rem]">{units.text("mass", mending.resin_g)}</span> of resin
            </>
          )}
          {mending.fabric_m2 != null && (
            <>
              , <span className="fig text-[1.375rem]">{units.text("area", mending.fabric_m2)}</span> of glass
            </>
          )}
          {mending.waits_h > 0 && `${mending.hours > 0 ? "; then wait" : "Wait"} ${mending.waits_h} h`}.
        </p>
      )}
      {mending.can_be_made &&
        (data.job_id ? (
          <div className="flex flex-wrap gap-2.5">
            <Button edits look="main" disabled={make.isPending} onClick={() => make.mutate(true)}>
              Make a job of the repair
            </Button>
            <Button edits className="min-h-11" disabled={make.isPending} onClick={() => make.mutate(false)}>
              Add it to {data.job_name}
            </Button>
          </div>
        ) : (
          <p>
            Open this from a job's log, and the repair can be made of that job's own layers. Or{" "}
            <Link className="link" to="/damage">
              begin a repair
            </Link>{" "}
            from its sizes.
          </p>
        ))}
      {failed && (
        <p role="alert" className="text-stop">
          {failed}
        </p>
      )}
    </section>
  );
}
