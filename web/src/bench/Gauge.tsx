import { useState } from "react";
import type { CardLayer } from "../api/client";
import { fixed, readNumber } from "../format";
import { useShop } from "../shop";
import { BigButton } from "./BigButton";
import { Keypad } from "./Keypad";
import { useBench } from "./useBench";

/** What a wet-film gauge shows of a coat against what was wanted: the rest is weighed by it. */
export function Gauge({ layer }: { layer: CardLayer }) {
  const { state, tap } = useBench();
  const { units } = useShop();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const read_um = state.layers.find((each) => each.id === layer.id)?.film_um ?? null;
  const wanted_um = layer.wet_um;
  if (wanted_um == null) return null;
  const axis = units.axis("film");
  const typed = readNumber(text);
  const wet_um = typeof typed === "number" ? axis.value(typed) : null;
  const impossible = wet_um !== null && (wet_um < LEAST_UM || wet_um > MOST_UM);
  return (
    <section aria-label="Wet-film gauge" className="mt-4">
      <p className="text-[1.25rem]">
        Wet film: <b className="fig">{units.text("film", wanted_um)}</b> wanted
        {read_um !== null && (
          <>
            , <b className="fig">{units.text("film", read_um)}</b> on it. {advice(read_um, wanted_um)}
          </>
        )}
      </p>
      {open ? (
        <div className="mt-3 flex flex-wrap gap-4">
          <Keypad label={`The gauge shows, ${axis.unit}`} text={text} onText={setText} />
          <div className="flex max-w-[26rem] flex-col items-start gap-3">
            <p className="text-[1.25rem] text-ink-soft">The last tooth that is wet</p>
            <p className="fig text-[3rem] leading-none">
              {text || "–"} <span className="text-[1.25rem] font-normal text-ink-soft">{axis.unit}</span>
            </p>
            {impossible && (
              <p role="alert" className="text-[1.25rem] text-stop">
                No wet film is so: type {units.words("film", LEAST_UM)} to {units.words("film", MOST_UM)}.
              </p>
            )}
            <BigButton
              main
              disabled={wet_um === null || impossible}
              onClick={() => {
                if (wet_um === null) return;
                tap({
                  about: "layer",
                  subject: layer.id,
                  kind: "film read",
                  data: { wet_um: Number(wet_um.toFixed(1)) },
                });
                setText("");
                setOpen(false);
              }}
            >
              So thick it is
            </BigButton>
            <BigButton onClick={() => setOpen(false)}>Back</BigButton>
          </div>
        </div>
      ) : (
        <BigButton className="mt-3" onClick={() => setOpen(true)}>
          Read the gauge
        </BigButton>
      )}
    </section>
  );
}

const LEAST_UM = 5;
const MOST_UM = 10_000;
/** Within this a film is as wanted: a gauge has no finer teeth. */
const AS_WANTED = 0.1;

function advice(read_um: number, wanted_um: number): string {
  const off = read_um / wanted_um - 1;
  if (Math.abs(off) <= AS_WANTED) return "That is right.";
  if (off < 0) return `Too thin: put on ${fixed(-100 * off, 0)} % of its weight again, while it is wet.`;
  return `Too thick by ${fixed(100 * off, 0)} %: spread it further. The plan of the rest goes by it.`;
}
