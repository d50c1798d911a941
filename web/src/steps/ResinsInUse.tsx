import { minutes } from "../format";
import { newId, useJob } from "../job/context";
import { toldOf, useNameOf, useResinInHand, withAnotherUse, withoutUse } from "../job/resins";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { TextField } from "../ui/TextField";

const MOST = 8;

/** The job's resins in a row, each with what it is for and how long it lives; the one in hand is what the step is about. */
export function ResinsInUse() {
  const { document, plan, edit } = useJob();
  const { mayWrite } = useShop();
  const { at, use: inHand, path, take, change } = useResinInHand();
  const nameOf = useNameOf();
  const several = document.resins.length > 1;
  const add = () => {
    const id = newId();
    edit((before) => withAnotherUse(before, id));
    take(id);
  };
  return (
    <div className="space-y-3">
      {several && (
        <ul aria-label="Resins in use" className="flex flex-wrap gap-2">
          {document.resins.map((use) => {
            const chemistry = toldOf(plan, use.id)?.chemistry;
            const life = chemistry?.dose?.gel_min ?? chemistry?.workable_min;
            return (
              <li key={use.id} className="min-w-32 flex-1">
                <button
                  type="button"
                  aria-pressed={use.id === inHand.id}
                  onClick={() => take(use.id)}
                  className="h-full min-h-[60px] w-full rounded-(--radius) border border-rule px-3 py-1.5 text-left hover:border-ink aria-pressed:border-2 aria-pressed:border-ink aria-pressed:bg-resin-pale"
                >
                  <span className="block font-semibold">{nameOf(use)}</span>
                  <span className="lab block">{chemistry?.resin_name ?? "no resin yet"}</span>
                  {life != null && <span className="fig text-[1.125rem]">{minutes(life)} min</span>}
                </button>
              </li>
            );
          })}
        </ul>
      )}
      {several && (
        <TextField
          label="What it is for"
          path={`${path}.word`}
          value={inHand.word}
          placeholder="gel coat, glue, coating"
          onCommit={(word) => change({ word })}
        />
      )}
      {mayWrite && (
        <div className="flex flex-wrap gap-4">
          {document.resins.length < MOST && (
            <Button edits look="text" onClick={add}>
              Add another resin
            </Button>
          )}
          {/* What names no resin is laid in the first: taken out, all of it would be laid in another. */}
          {at > 0 && (
            <Button edits look="text" onClick={() => edit((before) => withoutUse(before, inHand.id))}>
              Take {nameOf(inHand)} out of the job
            </Button>
          )}
        </div>
      )}
    </div>
  );
}
