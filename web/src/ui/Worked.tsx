import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import {
  createContext,
  type ReactNode,
  type RefObject,
  useCallback,
  useContext,
  useId,
  useMemo,
  useRef,
  useState,
} from "react";
import type { Working } from "../api/client";
import { fixed } from "../format";
import { Button } from "./Button";
import { Told } from "./Told";

export type Explain = (about: string) => Promise<Working>;

interface Held {
  explain: Explain;
  show: (about: string, from: HTMLElement) => void;
}

const HeldContext = createContext<Held | null>(null);

/** How to ask for a working, as the numbers around here do. */
export const useExplain = () => useContext(HeldContext)?.explain;

/** Lets the numbers within open their workings: one sheet for all of them, so that a number costs next to nothing. */
export function Explained({ explain, children }: { explain: Explain; children: ReactNode }) {
  const [asked, ask] = useState<{ about: string; from: HTMLElement } | null>(null);
  const show = useCallback((about: string, from: HTMLElement) => ask({ about, from }), []);
  const held = useMemo(() => ({ explain, show }), [explain, show]);
  const anchor = useRef<HTMLElement | null>(null);
  if (asked) anchor.current = asked.from;
  return (
    <HeldContext.Provider value={held}>
      {children}
      <Popover.Root open={!!asked} onOpenChange={(open) => !open && ask(null)}>
        <Popover.Anchor virtualRef={anchor as RefObject<HTMLElement>} />
        <Popover.Portal>
          <Popover.Content
            aria-label="How it was worked out"
            align="start"
            sideOffset={6}
            collisionPadding={10}
            onCloseAutoFocus={(event) => {
              event.preventDefault();
              anchor.current?.focus();
            }}
            className="z-50 max-h-[80dvh] w-[min(460px,94vw)] overflow-auto rounded-(--radius) border border-ink bg-sheet p-4"
          >
            {asked && <Sheet key={asked.about} about={asked.about} explain={explain} />}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </HeldContext.Provider>
  );
}

/** A number that opens how it was worked out. */
export function Worked({ about, children }: { about: string | undefined; children: ReactNode }) {
  const held = useContext(HeldContext);
  if (!held || !about) return children;
  return (
    <button
      type="button"
      aria-haspopup="dialog"
      title="How was this worked out?"
      onClick={(event) => held.show(about, event.currentTarget)}
      className="-mx-1 rounded-(--radius) px-1 text-left underline decoration-ink-soft/60 decoration-dotted decoration-1 underline-offset-4 hover:bg-rule-faint hover:decoration-ink"
    >
      {children}
    </button>
  );
}

function Sheet({ about, explain }: { about: string; explain: Explain }) {
  const id = useId();
  const [path, setPath] = useState([about]);
  const at = path.at(-1) ?? about;
  const working = useQuery({ queryKey: ["working", at, id], queryFn: () => explain(at), gcTime: 0 });
  if (working.isError) return <p>{working.error.message}</p>;
  if (!working.data) return <p className="min-h-40" />;
  return (
    <>
      <WorkingSheet working={working.data} onOpen={(next) => setPath([...path, next])} />
      {path.length > 1 && (
        <Button look="text" className="mt-1" onClick={() => setPath(path.slice(0, -1))}>
          Back
        </Button>
      )}
    </>
  );
}

/** Five figures are enough to follow it by hand. */
function shown(value: number): string {
  const size = Math.abs(value);
  return fixed(value, size === 0 ? 0 : Math.max(0, Math.min(5, 4 - Math.floor(Math.log10(size))))).replace(
    /(\.\d*?)0+$/,
    (_, kept: string) => (kept === "." ? "" : kept),
  );
}

/** The formula, the numbers put in with their sources, the result. */
export function WorkingSheet({ working, onOpen }: { working: Working; onOpen?: (about: string) => void }) {
  return (
    <div>
      <h2 className="text-[1rem] font-semibold">{working.title}</h2>
      <p className="fig mt-1 text-[1.1875rem]">
        = {working.formula}
        <span className="ml-3 whitespace-nowrap">
          = {shown(working.result)} <span className="font-normal text-ink-soft">{working.unit}</span>
        </span>
      </p>
      <table className="mt-3 w-full text-[0.875rem]">
        <caption className="sr-only">The numbers put in</caption>
        <thead className="sr-only">
          <tr>
            <th>symbol</th>
            <th>what it is</th>
            <th>value</th>
            <th>source</th>
          </tr>
        </thead>
        <tbody>
          {working.givens.map((given) => (
            <tr key={given.symbol} className="border-t border-rule-faint align-baseline">
              <td className="fig w-6 py-1 text-[1rem]">{given.symbol}</td>
              <td className="py-1 pr-2">
                {given.about && onOpen ? (
                  <button
                    type="button"
                    className="text-left underline decoration-ink-soft/60 decoration-dotted underline-offset-4 hover:decoration-ink"
                    onClick={() => onOpen(given.about)}
                  >
                    {given.name}
                  </button>
                ) : (
                  given.name
                )}
              </td>
              <td className="fig py-1 text-right text-[0.9375rem] whitespace-nowrap">
                {shown(given.value)} <span className="font-normal text-ink-soft">{given.unit}</span>
              </td>
              <td className="lab w-[104px] py-1 pl-3">{given.source}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="lab mt-2 border-t border-rule pt-2">
        <Told>{working.rule}</Told>
      </p>
    </div>
  );
}
