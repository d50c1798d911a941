import { useCallback, useEffect, useRef, useState } from "react";
import { client, type Part, type QuickLine, taken } from "../../api/client";
import { useJob } from "../../job/context";
import { useSession } from "../../session";
import { useShop } from "../../shop";
import { useForm } from "../../ui/form";
import { LineProblems } from "../../ui/LineProblems";
import { lineKey, withPlies } from "./plies";

/** The quick line: read as it is typed. What cannot be read is underlined, and the last whole stack stands till it can. */
export function QuickLineField({ part }: { part: Part }) {
  const { job, document, edit, newest, saving } = useJob();
  const { pending } = useForm();
  const { shop, mayWrite } = useShop();
  const { preferences } = useSession();
  const { fabric_unit, fluid_ounce } = shop.facts;
  const key = lineKey(part.id);
  const [text, setText] = useState(pending.get(key) ?? "");
  const [line, setLine] = useState<QuickLine | null>(null);
  const focused = useRef(false);
  /** The words wanted by now, and whether a reading is under way: one at a time, the newest words next. */
  const wanted = useRef<string | null>(null);
  const reading = useRef(false);
  const fabrics = document.materials.fabrics;

  const read = useCallback(
    async (words: string): Promise<QuickLine> => {
      const answer = await taken(
        client.POST("/api/jobs/{job_id}/parts/{part_id}/quick-line", {
          params: { path: { job_id: job.id, part_id: part.id } },
          // A document that the server refuses cannot be planned: the line is then read for the one it has.
          body: { text: words, document: saving === "refused" ? null : newest() },
        }),
      );
      setLine(answer);
      return answer;
    },
    [job.id, part.id, newest, saving],
  );

  // biome-ignore lint/correctness/useExhaustiveDependencies: it is written in the reader's units
  useEffect(() => {
    // The line as it stands in the document, whenever nobody is typing in it.
    if (focused.current || pending.get(key) !== undefined) return;
    taken(client.POST("/api/quick-line/written", { body: { part, fabrics, fabric_unit, fluid_ounce } })).then(
      (answer) => !focused.current && setText(answer.written ?? ""),
      () => undefined,
    );
  }, [part, fabrics, fabric_unit, fluid_ounce, preferences.units, key, pending]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: words kept from an earlier visit are read once, on arrival
  useEffect(() => {
    const words = pending.get(key);
    if (words !== undefined) void read(words);
  }, []);

  async function take() {
    if (reading.current) return;
    reading.current = true;
    while (wanted.current !== null) {
      const words = wanted.current;
      wanted.current = null;
      const answer = await read(words).catch(() => null);
      if (answer) put(answer, words);
    }
    reading.current = false;
  }

  function put(answer: QuickLine, words: string) {
    if (answer.problems.length) return pending.set(key, words);
    if (wanted.current === null) pending.drop(key);
    edit((before) => withPlies(before, part.id, answer), answer.plan);
  }

  function type(words: string) {
    setText(words);
    pending.set(key, words);
    wanted.current = words;
    void take();
  }

  return (
    <div data-path="quick-line">
      <label htmlFor="quick-line" className="lab mb-1 block">
        Write the stack, {part.substrate === "waxed mould" ? "mould side" : "surface"} first
      </label>
      <input
        id="quick-line"
        value={text}
        readOnly={!mayWrite}
        autoComplete="off"
        spellCheck={false}
        placeholder={
          fabric_unit === "oz" ? "2x 1.5 csm, 18 biax 45, 9 cloth +2in" : "2x 450 csm, 600 biax 45, 300 cloth +50"
        }
        aria-describedby="quick-line-note"
        onFocus={() => {
          focused.current = true;
        }}
        onBlur={() => {
          focused.current = false;
        }}
        onChange={(event) => type(event.target.value)}
        className="min-h-12 w-full rounded-(--radius) border-2 border-ink bg-sheet px-3 text-[1.0625rem]"
      />
      <div id="quick-line-note" aria-live="polite" className="mt-1 min-h-5 text-[0.8125rem]">
        {line && <LineProblems text={text} problems={line.problems} onTake={type} />}
        {line && line.problems.length > 0 && <p>The last whole stack stands until all of the line is understood.</p>}
        {line && !line.problems.length && line.plies.length > 0 && (
          <p className="text-cool">
            {line.plies.length === 1 ? "1 ply read" : `${line.plies.length} plies read`}
            {line.notes.length ? `: ${line.notes.join("; ")}` : ""}
          </p>
        )}
      </div>
    </div>
  );
}
