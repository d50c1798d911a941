import type { PotResult, RunSheet } from "../api/client";
import { usePotSize } from "../job/potSize";
import { useSheetClock } from "../job/useSheetClock";
import { Told, useGlossary } from "../ui/Told";

interface Line {
  key: string;
  from: number;
  to: number | null;
  where: string;
  what: string;
  kind: string;
  strong?: boolean;
}

/** The run sheet in words, in the order of the clock. */
export function DayList({ sheet, kinds: pots }: { sheet: RunSheet; kinds: PotResult[] }) {
  const size = usePotSize();
  const glossary = useGlossary();
  const { say } = useSheetClock(sheet);
  // What tells copies of a part apart stands first beneath its name.
  const lane = new Map(
    sheet.lanes.map((each) => [
      each.id,
      each.id === each.owner_id ? each.name : `${each.name}, ${each.under.split(", ")[0]}`,
    ]),
  );
  const kinds = new Map(pots.map((kind) => [kind.id, kind]));
  const lines: Line[] = [
    ...sheet.busy.map((busy) => ({
      key: `busy${busy.from_min}`,
      from: busy.from_min,
      to: busy.to_min,
      where: "",
      what: busy.words,
      kind: busy.waits ? "wait" : "busy",
    })),
    ...(sheet.stretches ?? []).map((stretch) => ({
      key: `bay${stretch.lane}${stretch.from_min}`,
      from: stretch.from_min,
      to: stretch.to_min,
      where: lane.get(stretch.lane) ?? "",
      what: stretch.words,
      kind: "bay",
      strong: true,
    })),
    ...sheet.pots.map((pot) => ({
      key: `pot${pot.number}`,
      from: pot.weigh_min,
      to: pot.use_by_min,
      where: lane.get(pot.lane) ?? "",
      what: `weigh pot ${pot.number}, ${size.text(pot.mass_g)}, for ${kinds.get(pot.about)?.labels.join(", ")}; on the work by ${say(pot.use_by_min)}, kicks ${say(pot.kick_min)}`,
      kind: "pot",
    })),
    ...sheet.layers
      .filter((layer) => layer.watched)
      .map((layer) => ({
        key: `window${layer.lane}${layer.from_min}`,
        from: layer.opens_min,
        to: layer.closes_min,
        where: lane.get(layer.lane) ?? "",
        what: `the next layer bonds to ${layer.words}${layer.peel_ply ? "; peel ply on it for the night" : ""}`,
        kind: "window",
      })),
    ...sheet.stops.map((stop) => ({
      key: `stop${stop.lane}${stop.from_min}`,
      from: stop.from_min,
      to: stop.to_min,
      where: lane.get(stop.lane) ?? "",
      what: `stop point: ${stop.words}`,
      kind: "stop",
    })),
    ...sheet.marks.map((mark) => ({
      key: `mark${mark.lane}${mark.kind}${mark.at_min}`,
      from: mark.at_min,
      to: null,
      where: lane.get(mark.lane) ?? "",
      what: mark.words,
      kind: mark.kind,
    })),
  ].sort((a, b) => a.from - b.from);
  // A reason stands beside the first of its kind: said again at each pot it would be in the way.
  const why = (line: Line) =>
    lines.find(({ kind }) => kind === line.kind) === line ? glossary?.run_sheet[line.kind]?.words : undefined;
  return (
    <table className="w-full text-[0.9062rem]">
      <caption className="sr-only">The run sheet in the order of the clock</caption>
      <thead className="lab text-left">
        <tr className="border-b border-rule">
          <th className="py-1 pr-4 font-normal">from</th>
          <th className="pr-4 font-normal">to</th>
          <th className="pr-4 font-normal">where</th>
          <th className="pr-4 font-normal">what</th>
          <th className="font-normal max-lg:hidden">why</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.key} className="border-b border-rule-faint align-baseline">
            <td className="fig py-1 pr-4 text-[1.0625rem] whitespace-nowrap">{say(line.from)}</td>
            <td className="fig pr-4 whitespace-nowrap">{line.to === null ? "" : say(line.to)}</td>
            <td className="pr-4">{line.where}</td>
            <td className={`pr-4 ${line.strong ? "font-semibold" : ""}`}>{line.what}</td>
            <td className="w-[30%] text-[0.8438rem] text-ink-soft max-lg:hidden">
              <Told>{why(line) ?? ""}</Told>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
