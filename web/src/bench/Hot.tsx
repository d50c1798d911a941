import { useEffect } from "react";
import { useShop } from "../shop";
import { BigButton } from "./BigButton";
import { ReadSurface } from "./Surface";
import { liveOf } from "./toDo";
import { useBench } from "./useBench";
import { potOf, potWhere } from "./words";

/** What to do with a pot that gets hot, over everything else. */
export function Hot({ onClose }: { onClose: () => void }) {
  const { bench, state, tap } = useBench();
  const { units } = useShop();
  const live = liveOf(state);
  const said = bench.runaway?.points ?? [];
  const limit = units.threshold(bench.card.too_hot_c);
  const heads = [`Under ${limit} and no smoke`, `Over ${limit}, or it smokes`, "Always"];
  useEffect(() => {
    const press = (event: KeyboardEvent) => event.key === "Escape" && onClose();
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [onClose]);
  return (
    <div
      role="dialog"
      aria-modal="true"
      aria-labelledby="hot"
      className="fixed inset-0 z-50 overflow-auto bg-floor px-4 py-5 text-ink sm:px-8"
    >
      <div className="flex items-start justify-between gap-4">
        <h2 id="hot" className="text-[clamp(2rem,5vw,3rem)] leading-none font-semibold text-kick">
          Pot getting hot
        </h2>
        <BigButton edits={false} onClick={onClose}>
          Back
        </BigButton>
      </div>
      <div className="mt-5 grid gap-5 lg:grid-cols-2">
        {said.map((words, at) => (
          <section key={words} className={at === 2 ? "lg:col-span-2" : ""}>
            <h3 className={`text-[1.75rem] font-semibold ${at === 1 ? "text-kick" : ""}`}>{heads[at]}</h3>
            {words.split(/(?<=\.) /).map((sentence) => (
              <p key={sentence} className="mt-1 text-[1.5rem] leading-snug first-letter:uppercase">
                {sentence}
              </p>
            ))}
          </section>
        ))}
      </div>
      <div className="mt-7 space-y-3 border-t border-rule pt-4">
        {live.map((pot) => {
          const subject = String(pot.number);
          const card = potOf(state, subject);
          return (
            <div key={pot.number} className="flex flex-wrap items-center gap-3">
              <p className="min-w-[12rem] flex-1 text-[1.5rem] font-semibold">
                Pot {pot.number}
                <span className="block text-[1.125rem] font-normal text-ink-soft">{card && potWhere(card)}</span>
              </p>
              <ReadSurface pot={pot.number} />
              {!pot.hot && (
                <BigButton onClick={() => tap({ about: "pot", subject, kind: "too hot" })}>It is too hot</BigButton>
              )}
              <BigButton
                onClick={() => {
                  tap({ about: "pot", subject, kind: "dumped", data: { words: "it got hot: outdoors" } });
                  onClose();
                }}
              >
                It is outdoors
              </BigButton>
            </div>
          );
        })}
        {live.length === 0 && <p className="text-[1.25rem] text-ink-soft">No pot is open in this run.</p>}
      </div>
    </div>
  );
}
