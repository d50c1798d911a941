import { useState } from "react";
import { fixed, plain, readNumber } from "../format";
import { useShop } from "../shop";
import { BigButton } from "./BigButton";
import { Keypad } from "./Keypad";
import { useBench } from "./useBench";
import { flowOf } from "./words";

const WIDE = 460;
const TALL = 300;
const EDGE = 30;

/** An infusion at the bench: its valve, the marks its front is ticked at, and when it is full by that. */
export function FlowNowView({ lane }: { lane: string }) {
  const { state, tap, now_min, at } = useBench();
  const { clock } = useShop();
  const card = flowOf(state, lane);
  const flow = state.flows.find((each) => each.id === lane);
  if (!card || !flow) return null;
  const say = (kind: "valve opened" | "valve throttled" | "valve closed") =>
    tap({ about: "flow", subject: lane, kind });
  const there = (mark: number) => tap({ about: "flow", subject: lane, kind: "front there", data: { mark } });
  const until = flow.full_min === null ? null : Math.max(0, flow.full_min - now_min);
  const late = flow.full_min !== null && flow.sets_min !== null && flow.full_min > flow.sets_min;
  return (
    <section aria-label={`The flow of ${card.lane_name}`} className="mt-3">
      {flow.opened_min !== null && (
        <p className={`fig text-[clamp(4rem,9vw,6rem)] leading-[0.95] ${late ? "text-kick" : ""}`}>
          {until === null ? "–" : fixed(until, 0)}{" "}
          <span className="text-[1.5rem] font-normal text-ink-soft">
            {until === null
              ? flow.valve === "shut"
                ? "the valve is shut"
                : "min: by its front it sets before it is full"
              : "min until it is full"}
          </span>
        </p>
      )}
      {flow.opened_min !== null && (
        <p className="text-[1.375rem]">
          {flow.pace === null
            ? "By the plan, until the front is seen at a mark."
            : `The bed is ${plain(Number(flow.pace.toPrecision(2)))} times as open as planned.`}{" "}
          {flow.sets_min !== null && `The first resin sets at ${clock(at(flow.sets_min))}.`}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-start gap-6">
        <Plan lane={lane} onMark={there} />
        <div className="flex flex-col gap-3">
          {flow.valve === "shut" ? (
            <BigButton main onClick={() => say("valve opened")}>
              {flow.opened_min === null ? "The valve is open" : "It is open again"}
            </BigButton>
          ) : (
            <>
              {(card.marks ?? [])
                .filter((mark) => !flow.reached.includes(mark.number))
                .map((mark) => (
                  <BigButton key={mark.number} main={mark.number === flow.next_mark} onClick={() => there(mark.number)}>
                    The front is at mark {mark.number}
                  </BigButton>
                ))}
              {flow.valve === "open" && <BigButton onClick={() => say("valve throttled")}>It is throttled</BigButton>}
              {flow.valve === "throttled" && <BigButton onClick={() => say("valve opened")}>It is wide open</BigButton>}
              <BigButton onClick={() => say("valve closed")}>The valve is closed</BigButton>
            </>
          )}
        </div>
      </div>
      {flow.opened_min !== null && <WeighFlow lane={lane} planned_g={card.draws_g} />}
    </section>
  );
}

const WEIGHED = {
  drawn: { ask: "Weigh what is drawn", words: "All that has left the bucket so far" },
  "in the trap": { ask: "Weigh the trap", words: "What is in the trap, without the trap itself" },
} as const;

/** What has left the bucket, and what came to the trap, weighed by hand: the next shot begins from there. */
function WeighFlow({ lane, planned_g }: { lane: string; planned_g: number }) {
  const { state, tap } = useBench();
  const { units } = useShop();
  const [open, setOpen] = useState<keyof typeof WEIGHED | "">("");
  const [text, setText] = useState("");
  const flow = state.flows.find((each) => each.id === lane);
  const axis = units.axis("mass");
  const typed = readNumber(text);
  const grams = typeof typed === "number" ? axis.value(typed) : null;
  if (open)
    return (
      <div className="mt-4 flex flex-wrap gap-4">
        <Keypad label={`${WEIGHED[open].words}, ${axis.unit}`} text={text} onText={setText} />
        <div className="flex max-w-[26rem] flex-col items-start gap-3">
          <p className="text-[1.25rem] text-ink-soft">{WEIGHED[open].words}</p>
          <p className="fig text-[3rem] leading-none">
            {text || "–"} <span className="text-[1.25rem] font-normal text-ink-soft">{axis.unit}</span>
          </p>
          <BigButton
            main
            disabled={grams === null}
            onClick={() => {
              if (grams === null) return;
              tap({ about: "flow", subject: lane, kind: open, data: { grams: Number(grams.toFixed(1)) } });
              setText("");
              setOpen("");
            }}
          >
            So much it is
          </BigButton>
          <BigButton onClick={() => setOpen("")}>Back</BigButton>
        </div>
      </div>
    );
  return (
    <div className="mt-4 flex flex-wrap items-center gap-4 text-[1.25rem]">
      {(["drawn", "in the trap"] as const).map((kind) => (
        <BigButton key={kind} onClick={() => setOpen(kind)}>
          {WEIGHED[kind].ask}
        </BigButton>
      ))}
      {flow?.drawn_g != null && (
        <span>
          Drawn: <b className="fig">{units.text("mass", flow.drawn_g)}</b> of {units.text("mass", planned_g)}
        </span>
      )}
      {flow?.trap_g != null && (
        <span>
          In the trap: <b className="fig">{units.text("mass", flow.trap_g)}</b>
        </span>
      )}
    </div>
  );
}

/** The part in plan with its feeds, its vents and the marks on its film. */
function Plan({ lane, onMark }: { lane: string; onMark: (mark: number) => void }) {
  const { state } = useBench();
  const card = flowOf(state, lane);
  const flow = state.flows.find((each) => each.id === lane);
  if (!card || !flow) return null;
  const xs = card.outline.map(([x = 0]) => x);
  const ys = card.outline.map(([, y = 0]) => y);
  const [left, low] = [Math.min(...xs), Math.min(...ys)];
  const [wide, tall] = [Math.max(...xs) - left, Math.max(...ys) - low];
  const scale = Math.min((WIDE - 2 * EDGE) / wide, (TALL - 2 * EDGE) / tall);
  const at = ([x = 0, y = 0]: readonly number[]) => `${EDGE + (x - left) * scale} ${EDGE + (y - low) * scale}`;
  const ring = (points: readonly (readonly number[])[]) => `M${points.map(at).join("L")}Z`;
  const line = (points: readonly (readonly number[])[]) => `M${points.map(at).join("L")}`;
  const [width, height] = [wide * scale + 2 * EDGE, tall * scale + 2 * EDGE];
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with marks to press in it
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      className="max-w-full"
      role="group"
      aria-label={`${card.lane_name} in plan`}
    >
      <path
        d={`${ring(card.outline)}${(card.holes ?? []).map(ring).join("")}`}
        fillRule="evenodd"
        fill="var(--color-wetted)"
        stroke="var(--color-ink)"
        strokeWidth="2"
      />
      {(card.feeds ?? []).map((points) => (
        <g key={line(points)}>
          <path
            d={`${line(points)}${points.length > 1 ? "" : "h0.1"}`}
            stroke="var(--color-ink)"
            strokeWidth="9"
            strokeLinecap="round"
          />
        </g>
      ))}
      {(card.vents ?? []).map((points) => (
        <g key={line(points)}>
          <path
            d={`${line(points)}${points.length > 1 ? "" : "h0.1"}`}
            stroke="var(--color-ink)"
            strokeWidth="9"
            strokeLinecap="round"
          />
          <path
            d={`${line(points)}${points.length > 1 ? "" : "h0.1"}`}
            stroke="var(--color-sheet)"
            strokeWidth="4"
            strokeLinecap="round"
          />
        </g>
      ))}
      {(card.marks ?? []).map((mark) => {
        const seen = flow.reached.includes(mark.number);
        const [x = "0", y = "0"] = at([mark.x_m, mark.y_m]).split(" ");
        const may = !seen && flow.valve !== "shut";
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the same stands beside as a button
          <g
            key={mark.number}
            onClick={may ? () => onMark(mark.number) : undefined}
            className={may ? "cursor-pointer" : ""}
          >
            <circle cx={x} cy={y} r="30" fill="transparent" />
            <circle
              cx={x}
              cy={y}
              r="17"
              fill={seen ? "var(--color-cool)" : "var(--color-sheet)"}
              stroke="var(--color-on-resin)"
              strokeWidth="3"
            />
            <text
              x={x}
              y={Number(y) + 7}
              textAnchor="middle"
              fontSize="20"
              fontWeight="700"
              fill={seen ? "var(--color-floor)" : "var(--color-ink)"}
            >
              {mark.number}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
