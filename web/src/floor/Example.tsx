import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, taken } from "../api/client";
import { kindNames } from "../bench/AtPlace";
import type { Kind } from "../bench/Instruments";
import { useShop } from "../shop";

/** Three lines as an instrument sends them, and the number among them that is the reading, pressed. */
export function Example({
  kind,
  begins,
  onExample,
}: {
  kind: Kind;
  begins: string[];
  onExample: (example: Schemas["ExampleIn"] | null) => void;
}) {
  const { shop, units } = useShop();
  const [text, setText] = useState(begins.slice(0, 3).join("\n"));
  const [pressed, setPressed] = useState(-1);
  const lines = text.split("\n").slice(0, 12);
  const first = lines.find((line) => line.trim())?.trim() ?? "";
  const tried = useQuery({
    queryKey: ["line example", kind, text, pressed],
    queryFn: () =>
      taken(
        client.POST("/api/shops/{shop_id}/line-examples", {
          params: { path: { shop_id: shop.id } },
          body: { lines, pressed, kind },
        }),
      ),
    enabled: !!first,
    placeholderData: (before) => before,
    retry: false,
  });
  const read = tried.data?.reads ?? [];
  const all = read.length > 0 && read.every((each) => each !== null);
  const choose = (next: number) => {
    setPressed(next);
    onExample(next < 0 ? null : { lines, pressed: next, kind });
  };
  const quantity = kind === "scale" ? "mass" : "temperature";
  const numbers = tried.data?.numbers ?? [];
  return (
    <div className="mt-3">
      <label className="block">
        <span className="lab mb-1 block">Three lines as it sends them, if you have them</span>
        <textarea
          rows={3}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setPressed(-1);
            onExample(null);
          }}
          className="field fig w-full py-2 text-[0.9375rem]"
        />
      </label>
      {first && all && !tried.error && (
        <p className="text-[0.9375rem]">
          It reads as {read.map((each) => units.text(quantity, each ?? 0)).join(", ")}.{" "}
          {pressed < 0 && "If that is right, nothing more is needed."}
        </p>
      )}
      {first && numbers.length > 0 && (pressed >= 0 || !all || numbers.length > 1) && (
        <div className="mt-1">
          <p className="lab">
            {all ? "Or press" : "Press"} the number that is the {kindNames[kind] === "Scale" ? "weight" : "temperature"}
            :
          </p>
          <p className="fig text-[1.125rem] whitespace-pre-wrap">
            {numbers.map(([begin, end], at) => (
              <span key={`${begin}`}>
                {first.slice(at ? (numbers[at - 1]?.[1] ?? 0) : 0, begin)}
                <button
                  type="button"
                  aria-pressed={pressed === at}
                  onClick={() => choose(pressed === at ? -1 : at)}
                  className="min-h-9 rounded-(--radius) border border-rule px-1.5 aria-pressed:bg-ink aria-pressed:text-sheet"
                >
                  {first.slice(begin, end)}
                </button>
              </span>
            ))}
            {first.slice(numbers.at(-1)?.[1] ?? 0)}
          </p>
        </div>
      )}
      {tried.error && (
        <p role="alert" className="text-[0.875rem] text-stop">
          {tried.error.message}
        </p>
      )}
    </div>
  );
}
