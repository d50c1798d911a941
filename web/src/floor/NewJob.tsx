import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useDeferredValue, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, type JobSpec, type JobStrip, Refused, type Schemas, type Step, taken } from "../api/client";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { LineProblems } from "../ui/LineProblems";
import { Pick } from "../ui/Pick";

type JobLine = Schemas["JobLineOut"];

const NOTHING = "nothing";
const KIND = "kind: ";
/** Of what a line comes to, what one looks at before one begins. */
const TOLD: readonly Step[] = ["measure", "stack", "chemistry", "joints", "pours", "pots"];

/** Whether it says more than a name. */
const isLine = (text: string) => text.includes(":");

/** A new job: from nothing, from one line, from a copy of another, or from a file. */
export function NewJob({ shopId, jobs }: { shopId: string; jobs: JobStrip[] }) {
  const [text, setText] = useState("");
  const [from, setFrom] = useState(NOTHING);
  const [refused, setRefused] = useState<{ text: string; line: JobLine } | null>(null);
  const field = useRef<HTMLTextAreaElement>(null);
  const toType = useRef(false);
  const go = useNavigate();
  const path = { params: { path: { shop_id: shopId } } };
  const templates = useQuery({
    queryKey: ["templates", shopId],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/templates", path)),
  });
  const kinds = useQuery({
    queryKey: ["job lines", shopId],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/job-lines", path)),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const anew = from === NOTHING;
  const said = (words: string) =>
    taken(client.POST("/api/shops/{shop_id}/job-line", { ...path, body: { text: words } }));
  const late = useDeferredValue(text);
  const line = useQuery({
    queryKey: ["job line", shopId, late],
    queryFn: () => said(late),
    enabled: anew && isLine(late),
    placeholderData: keepPreviousData,
  });
  const start = useMutation({
    mutationFn: async (words: string) => {
      if (!anew)
        return taken(
          client.POST("/api/jobs/{job_id}/copy", { params: { path: { job_id: from } }, body: { name: words } }),
        );
      // What is pressed is what stands there, whether it has been read by now or not.
      const read = isLine(words) ? await said(words) : null;
      if (read?.problems.length) {
        setRefused({ text: words, line: read });
        return null;
      }
      const body = read?.document ?? ({ name: words } as JobSpec);
      return taken(client.POST("/api/shops/{shop_id}/jobs", { ...path, body }));
    },
    onSuccess: (job) => job && go(`/jobs/${job.id}/measure`),
  });
  function begin(event: FormEvent) {
    event.preventDefault();
    start.mutate(isLine(text) ? text : text.trim());
  }
  function pick(choice: string) {
    const kind = kinds.data?.find(({ name }) => choice === KIND + name);
    setFrom(kind ? NOTHING : choice);
    if (kind) setText(kind.line);
    toType.current = !!kind;
  }
  /** The sizes of an example are typed over: the first stands ready for it. */
  function closed(event: Event) {
    if (!toType.current) return;
    toType.current = false;
    event.preventDefault();
    const size = /\d[\d.,/]*/.exec(text);
    field.current?.focus();
    if (size) field.current?.setSelectionRange(size.index, size.index + size[0].length);
  }
  const told = anew && isLine(text) ? (refused?.text === text ? refused.line : line.data) : undefined;
  return (
    <section aria-label="Begin a job">
      <form onSubmit={begin}>
        <label htmlFor="new-job" className="lab mb-1 block">
          New job
        </label>
        <textarea
          id="new-job"
          ref={field}
          value={text}
          rows={1}
          maxLength={4000}
          autoComplete="off"
          spellCheck={false}
          placeholder={kinds.data ? `its name, or all of it: ${kinds.data[1]?.line}` : "its name"}
          aria-describedby="new-job-line"
          onChange={(event) => setText(event.target.value.replaceAll("\n", " "))}
          onKeyDown={(event) => {
            if (event.key !== "Enter" || event.nativeEvent.isComposing) return;
            event.preventDefault();
            event.currentTarget.form?.requestSubmit();
          }}
          className="field-sizing-content block min-h-12 w-full resize-none rounded-(--radius) border-2 border-ink bg-sheet px-3 py-2.5 text-[1.0625rem]"
        />
        <div id="new-job-line" aria-live="polite" className="mt-1 text-[0.8125rem]">
          {told && <Said line={told} text={text} onTake={setText} />}
        </div>
        <div className="mt-1.5 flex flex-wrap items-end gap-2.5">
          <Button edits look="main" type="submit">
            Start
          </Button>
          <div className="min-w-[190px] flex-1">
            <Pick
              label="Begin from"
              value={from}
              placeholder="nothing"
              options={[
                [NOTHING, "nothing"],
                ...(templates.data ?? []).map((template) => [template.id, template.name] as const),
                ...(kinds.data ?? []).map(({ name }) => [KIND + name, name] as const),
                ...jobs.map((job) => [job.id, `a copy of ${job.name}`] as const),
              ]}
              onChange={pick}
              onClosed={closed}
            />
          </div>
        </div>
        <div className="mt-2.5 flex flex-wrap gap-2.5">
          <FromFile shopId={shopId} />
          <Link
            to="/damage"
            className="inline-flex min-h-11 items-center rounded-(--radius) border border-rule bg-sheet px-3 hover:border-ink"
          >
            Begin a repair
          </Link>
          <Link
            to="/wrong"
            className="inline-flex min-h-11 items-center rounded-(--radius) border border-rule bg-sheet px-3 hover:border-ink"
          >
            What went wrong?
          </Link>
        </div>
        {start.isError && (
          <p role="alert" className="mt-1 text-[0.8125rem] text-stop">
            the name {start.error.message}
          </p>
        )}
      </form>
    </section>
  );
}

/** What a line comes to, step by step, or what of it could not be taken. */
function Said({ line, text, onTake }: { line: JobLine; text: string; onTake: (text: string) => void }) {
  if (line.problems.length) return <LineProblems text={text} problems={line.problems} onTake={onTake} />;
  return (
    <ul aria-label="What it comes to" className="flex flex-wrap gap-x-4 gap-y-0.5 text-cool">
      {line.steps
        .filter(({ step, headline }) => headline && TOLD.includes(step))
        .map(({ step, headline }) => (
          <li key={step}>{headline}</li>
        ))}
    </ul>
  );
}

function FromFile({ shopId }: { shopId: string }) {
  const go = useNavigate();
  const load = useMutation({
    mutationFn: async (file: File) =>
      taken(
        client.POST("/api/shops/{shop_id}/jobs/from-file", {
          params: { path: { shop_id: shopId } },
          body: (await file.arrayBuffer()) as never,
          bodySerializer: (bytes: unknown) => bytes as ArrayBuffer,
          headers: { "Content-Type": "application/json" },
        }),
      ),
    onSuccess: (job) => go(`/jobs/${job.id}/measure`),
  });
  return (
    <div>
      <FilePick
        label="A job file"
        accept=".json,application/json"
        className="min-h-11"
        onFile={(file) => load.mutate(file)}
      >
        From a file
      </FilePick>
      {load.error instanceof Refused && (
        <div role="alert" className="mt-1 max-w-[340px] text-[0.8125rem] text-stop">
          {load.error.faults.slice(0, 4).map((fault) => (
            <p key={fault.path + fault.message}>
              {fault.path || "the file"} {fault.message}
            </p>
          ))}
          {load.error.faults.length > 4 && <p>and {load.error.faults.length - 4} more faults</p>}
        </div>
      )}
    </div>
  );
}
