import type { Schemas, ShoppingList } from "../api/client";
import { fixed, plural } from "../format";
import { useShop } from "../shop";
import type { Units } from "../units";

type Line = ShoppingList["lines"][number];
type Lead = Schemas["LeadTime"];

const chapters: readonly (readonly [Line["chapter"], string])[] = [
  ["fabric", "Fabrics, off the roll"],
  ["resin", "Resin, and what sets it"],
  ["filler", "Fillers"],
  ["used up", "Used up"],
];

/** How long it took to come, and by when it is to be ordered. */
function LeadWords({ lead, date }: { lead: Lead; date: (iso: string) => string }) {
  const days = lead.least_days === lead.most_days ? "" : `${lead.least_days} to `;
  return (
    <span className="block text-[0.9062rem]">
      took {days}
      {plural(lead.most_days, "day")} to come{lead.count > 1 && `, ${lead.count} times`}
      {lead.order_by && (
        <>
          ; <b className="font-semibold">order by {date(lead.order_by)}</b>
        </>
      )}
    </span>
  );
}

function needed(line: Line, units: Units): string {
  return inUnit(line, line.need, units);
}

function inUnit(line: Line, amount: number, units: Units): string {
  if (line.unit === "m") return units.text("roll_run", amount);
  return line.unit === "kg" ? units.text("mass", 1000 * amount) : fixed(amount, 0);
}

/** What to buy, chapter by chapter: what, how much of it in the sizes it is sold in, what that costs. */
export function BuyLines({ lines: all, leads = {} }: { lines: readonly Line[]; leads?: Record<string, Lead> }) {
  const { units, money, date } = useShop();
  return (
    <>
      {chapters.map(([chapter, title]) => {
        const lines = all.filter((line) => line.chapter === chapter);
        if (!lines.length) return null;
        return (
          <section key={chapter} className="mt-5">
            <h2 className="border-b border-ink pb-1 text-[1.0625rem] font-semibold">{title}</h2>
            <table className="w-full table-fixed">
              <colgroup>
                <col className="w-[46%]" />
                <col className="w-[30%]" />
                <col className="w-[12%] max-sm:hidden" />
                <col className="w-[12%]" />
              </colgroup>
              <thead className="sr-only">
                <tr>
                  <th>What</th>
                  <th>Buy</th>
                  <th className="max-sm:hidden">Needed</th>
                  <th>Cost</th>
                </tr>
              </thead>
              <tbody>
                {lines.map((line) => (
                  <tr key={line.what} className="border-b border-rule-faint align-baseline">
                    <td className="py-2 pr-4">
                      <span className="text-[1rem]">{line.what}</span>
                      {line.variant && <span className="lab block">{line.variant}</span>}
                      {line.free < line.need && line.article && leads[line.article] && (
                        <LeadWords lead={leads[line.article] as Lead} date={date} />
                      )}
                    </td>
                    <td className="fig py-2 pr-4 text-[1.125rem]">
                      {line.free >= line.need ? <span className="text-cool">enough is there</span> : line.buy}
                    </td>
                    <td className="lab py-2 pr-4 text-right whitespace-nowrap max-sm:hidden">
                      needs {needed(line, units)}
                      {line.free > 0 && <span className="block">{inUnit(line, line.free, units)} there</span>}
                    </td>
                    <td className="fig py-2 text-right whitespace-nowrap">
                      {line.free >= line.need ? (
                        <span className="lab">nothing</span>
                      ) : line.cost == null ? (
                        <span className="lab">no price</span>
                      ) : (
                        money(line.cost)
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        );
      })}
    </>
  );
}
