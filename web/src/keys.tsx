import { useCallback, useEffect, useRef, useState } from "react";
import { useSession } from "./session";
import { Choice } from "./ui/Choice";
import { Panel } from "./ui/Panel";

/** What a key does; a two-key one is written with a space, such as `g 3`. */
export interface KeyAction {
  keys: string;
  words: string;
  act: () => void;
}

const CHAIN_MS = 1200;
const busyWith =
  "input, textarea, select, [contenteditable], [role=listbox], [role=menu], [role=dialog], [role=alertdialog]";

/** Listens for single keys outside fields, where the person wants them at all. Answers with the list to show. */
export function useKeys(actions: KeyAction[]) {
  const { preferences } = useSession();
  const [listed, setListed] = useState(false);
  const latest = useRef(actions);
  latest.current = actions;
  const list = useCallback(() => setListed(true), []);
  useEffect(() => {
    if (!preferences.single_keys) return;
    let before = "";
    let timer = 0;
    function press(event: KeyboardEvent) {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.target instanceof HTMLElement && event.target.closest(busyWith)) return;
      const chord = before ? `${before} ${event.key}` : event.key;
      before = "";
      if (event.key === "?") return list();
      const found = latest.current.find((action) => action.keys === chord);
      if (found) {
        event.preventDefault();
        return found.act();
      }
      if (latest.current.some((action) => action.keys.startsWith(`${event.key} `))) {
        before = event.key;
        clearTimeout(timer);
        timer = window.setTimeout(() => {
          before = "";
        }, CHAIN_MS);
      }
    }
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [preferences.single_keys, list]);
  const panel = <KeysPanel actions={actions} open={listed} onClose={() => setListed(false)} />;
  return { list, panel };
}

function KeysPanel({ actions, open, onClose }: { actions: KeyAction[]; open: boolean; onClose: () => void }) {
  const { preferences, prefer } = useSession();
  const always: [string, string][] = [
    ["?", "this list"],
    ["Ctrl Z", "undo, and with Shift redo"],
    ["Esc", "put a sheet away"],
  ];
  const rows: [string, string][] = [...actions.map((one): [string, string] => [one.keys, one.words]), ...always];
  return (
    <Panel title="Keyboard shortcuts" open={open} onClose={onClose}>
      <dl className="grid grid-cols-[86px_1fr] gap-y-1.5 text-[0.9375rem] sm:grid-cols-[86px_1fr_86px_1fr]">
        {rows.map(([keys, words]) => (
          <div key={keys} className="contents">
            <dt>
              {keys.split(" ").map((key) => (
                <kbd key={key} className="fig mr-1 inline-block min-w-7 border border-rule bg-floor px-1.5 text-center">
                  {key}
                </kbd>
              ))}
            </dt>
            <dd className="pr-3">{words}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-4 border-t border-rule pt-3">
        <Choice
          looks
          label="Single keys, outside fields"
          value={preferences.single_keys ? "on" : "off"}
          options={[
            ["on", "on"],
            ["off", "off"],
          ]}
          onChange={(choice) => prefer({ single_keys: choice === "on" })}
        />
      </div>
    </Panel>
  );
}
