import { useState } from "react";
import type { Caution, Working } from "../api/client";
import { DewFigure } from "../day/DewFigure";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { Button } from "../ui/Button";
import { CautionLine } from "../ui/Cautions";
import { Choice } from "../ui/Choice";
import { Figure } from "../ui/Figure";
import { FilePick } from "../ui/FilePick";
import { FormContext } from "../ui/form";
import { Menu, MenuChoice, MenuItem, MenuRule } from "../ui/Menu";
import { NumberField } from "../ui/NumberField";
import { Panel } from "../ui/Panel";
import { Pick } from "../ui/Pick";
import { QuantityField } from "../ui/QuantityField";
import { Ruler } from "../ui/Ruler";
import { Sign } from "../ui/Sign";
import { TextField } from "../ui/TextField";
import { Tick } from "../ui/Tick";
import { useLocalForm } from "../ui/useLocalForm";
import { Wide } from "../ui/Wide";
import { Explained } from "../ui/Worked";
import { PlainHeader } from "./PlainHeader";

const caution = (severity: Caution["severity"], message: string, more: Partial<Caution> = {}): Caution => ({
  id: `kit.${severity}`,
  severity,
  message,
  reason: "Why it is so, in one or two sentences.",
  do: "What to do instead.",
  source: "common practice",
  step: "stack",
  path: "parts.0",
  about: "parts/p",
  said: message,
  overridable: true,
  points: [],
  ...more,
});
const working: Working = {
  about: "kit",
  title: "Area of this part",
  formula: "w × l × n",
  givens: [
    { symbol: "w", name: "width", value: 0.62, unit: "m", source: "typed", about: "" },
    { symbol: "l", name: "length", value: 3.9, unit: "m", source: "typed", about: "" },
    { symbol: "n", name: "copies", value: 2, unit: "", source: "typed", about: "" },
  ],
  result: 4.836,
  unit: "m²",
  rule: "Exact geometry.",
};
const explain = async () => working;
const overriding = { give: () => undefined, withdraw: () => undefined };

/** Every piece that screens are made of, in one place, to look at and to try. */
export function Kit() {
  const { shopId } = useSession();
  return (
    <>
      <PlainHeader />
      <ShopProvider shopId={shopId}>
        <Pieces />
      </ShopProvider>
    </>
  );
}

function Piece({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <section className="border-t border-rule pt-3">
      <h2 className="lab mb-3">{name}</h2>
      <div className="flex flex-wrap items-start gap-5">{children}</div>
    </section>
  );
}

function Pieces() {
  const { units } = useShop();
  const { form } = useLocalForm("kit");
  const [word, setWord] = useState("weight");
  const [resin, setResin] = useState("");
  const [celsius, setCelsius] = useState(19);
  const [open, setOpen] = useState(false);
  const [ticked, setTicked] = useState(true);
  const [grams, setGrams] = useState<number | null>(182);
  const dew = { point_c: 11.5, frost: false };
  return (
    <FormContext.Provider value={form}>
      <Explained explain={explain}>
        <main className="mx-auto grid max-w-[1180px] gap-x-12 gap-y-6 px-4 py-6 md:grid-cols-2">
          <h1 className="text-[1.625rem] font-semibold md:col-span-2">The kit</h1>
          <Piece name="Sign and type">
            <Sign size={56} />
            <div>
              <p className="text-[1.375rem] font-semibold">A verdict is a sentence</p>
              <p>Prose for what has to be read.</p>
              <p className="lab">A label, never under 12.5 px</p>
            </div>
          </Piece>
          <Piece name="Figure: the number is the hero; a dotted line opens its working">
            <Figure name="Thickness" {...units.show("thickness", 4.04)} size={44} about="kit" />
            <Figure name="To mix" {...units.show("mass", 1840)} />
            <DewFigure dew={{ ...dew, margin_c: 6, safe: true }} size={34} />
            <DewFigure dew={{ ...dew, margin_c: 1.4, safe: false }} size={34} />
          </Piece>
          <Piece name="Buttons">
            <Button look="main">The one thing to do</Button>
            <Button>Another</Button>
            <Button look="text">In a line</Button>
            <Button disabled>Not yet</Button>
          </Piece>
          <Piece name="Choice: a few words, all in sight">
            <Choice
              label="Measured by"
              value={word}
              options={[
                ["weight", "weight"],
                ["volume", "volume"],
              ]}
              onChange={setWord}
            />
            <Choice
              label="Small"
              small
              value={word}
              options={[
                ["weight", "weight"],
                ["volume", "volume"],
              ]}
              onChange={setWord}
            />
          </Piece>
          <Piece name="Pick: one of a list">
            <div className="w-64">
              <Pick
                label="Resin"
                value={resin}
                placeholder="choose the resin you hold"
                options={[
                  ["a", "Laminating epoxy"],
                  ["b", "General-purpose polyester"],
                ]}
                onChange={setResin}
                fault="choose the resin you hold"
              />
            </div>
          </Piece>
          <Piece name="Fields take a quantity in whatever unit, and say beneath what was understood">
            <div className="w-40">
              <QuantityField
                label="Mass"
                path="mass"
                fieldKey="kit.mass"
                dimension="mass"
                value={grams}
                onCommit={setGrams}
              />
            </div>
            <div className="w-32">
              <NumberField label="Humidity, %" path="pct" value={62} hint="a bare number" onCommit={() => undefined} />
            </div>
            <div className="w-40">
              <TextField label="Words" path="words" value="Transom" onCommit={() => undefined} />
            </div>
          </Piece>
          <Piece name="Ruler: a quantity to scrub, its good stretch marked">
            <Ruler
              label="Try a temperature"
              value={celsius}
              low={5}
              high={35}
              step={0.5}
              good={[15.6, 21.1]}
              axis={units.axis("temperature")}
              words={units.text("temperature", celsius)}
              onScrub={setCelsius}
            />
            <Figure {...units.show("temperature", celsius)} />
          </Piece>
          <Piece name="Tick, a file, something wide">
            <Tick label="washed and abraded" checked={ticked} onChange={setTicked} />
            <FilePick label="A file of the kit" accept=".json" onFile={() => undefined}>
              From a file
            </FilePick>
            <Wide label="A wide table" className="w-44 border border-rule">
              <p className="w-80 p-2">Wider than its place: it scrolls on its own, with the keys as well.</p>
            </Wide>
          </Piece>
          <Piece name="Menu and panel">
            <Menu label="A menu" face="W">
              <MenuChoice
                label="Look"
                value="light"
                options={[
                  ["light", "light"],
                  ["night", "night"],
                ]}
                onChange={() => undefined}
              />
              <MenuRule />
              <MenuItem onSelect={() => setOpen(true)}>Open the panel</MenuItem>
            </Menu>
            <Button onClick={() => setOpen(true)}>Open the panel</Button>
            <Panel title="A panel" open={open} onClose={() => setOpen(false)}>
              <p>It holds the focus until it is put away.</p>
            </Panel>
          </Piece>
          <section className="space-y-2 border-t border-rule pt-3 md:col-span-2">
            <h2 className="lab">Cautions: the severity is a word first, then an edge</h2>
            <CautionLine
              caution={caution("stop", "This mat's binder does not dissolve")}
              overriding={overriding}
              open
            />
            <CautionLine caution={caution("care", "One step faster than the room asks for")} />
            <CautionLine caution={caution("note", "A pot left in its cup can run away")} />
            <CautionLine
              caution={caution("stop", "The room is too cold", {
                override: { reason: "winter grade by its sheet", by: "wren", at: "2026-01-09T09:30:00Z" },
              })}
              overriding={overriding}
              open
            />
          </section>
        </main>
      </Explained>
    </FormContext.Provider>
  );
}
