import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Refused, type Schemas, taken } from "../api/client";
import { plural } from "../format";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { Pick } from "../ui/Pick";
import { Wide } from "../ui/Wide";
import { amountText, unitOf } from "./stock";

type Table = Schemas["ReadTable"];
type Column = Table["taken_for"][number];

const columns: readonly (readonly [Column, string])[] = [
  ["product", "the product"],
  ["amount", "how much"],
  ["lot", "lot number"],
  ["made", "made on"],
  ["opened", "opened on"],
  ["use by", "use by"],
  ["came", "came on"],
  ["place", "where it stands"],
  ["price", "price of a unit"],
  ["left out", "left out"],
];
const SHOWN = 12;

/** A list of stock out of another program: its columns are shown with what they are taken for, and then its rows. */
export function BringStock({ onDone }: { onDone: () => void }) {
  const { shop, units } = useShop();
  const queries = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const [table, setTable] = useState<Table | null>(null);
  const [said, say] = useState("");
  const [busy, setBusy] = useState(false);
  const send = async (chosen: File, taken_for: readonly Column[], keep: boolean) => {
    setBusy(true);
    say("");
    const body = new FormData();
    body.append("table", chosen);
    body.append("taken_for", taken_for.join("\n"));
    body.append("keep", String(keep));
    try {
      const answer = await taken(
        client.POST("/api/shops/{shop_id}/stock/table", {
          params: { path: { shop_id: shop.id } },
          body: body as never,
          bodySerializer: (form: unknown) => form as FormData,
        }),
      );
      setFile(chosen);
      setTable(answer.table);
      if (answer.lots != null) {
        await queries.invalidateQueries({ queryKey: ["stock", shop.id] });
        onDone();
      }
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      say(error.message);
    } finally {
      setBusy(false);
    }
  };
  const troubles = table?.rows.filter((row) => row.trouble) ?? [];
  const shown = table ? [...troubles, ...table.rows.filter((row) => !row.trouble)].slice(0, SHOWN) : [];
  return (
    <section aria-label="A list brought in" className="mb-6 border-l-4 border-ink pl-4">
      <h2 className="text-[1.375rem] font-semibold">Bring a list</h2>
      <p className="lab mb-2 max-w-[62ch]">
        CSV or XLSX, its first row the heads. It is read first and shown; nothing is kept before you say so.
      </p>
      <div className="flex flex-wrap items-center gap-3">
        <FilePick
          label="The list"
          accept=".csv,.xlsx,.txt"
          className="min-h-11"
          onFile={(chosen) => void send(chosen, [], false)}
        >
          Choose the file
        </FilePick>
        <Button className="min-h-11" onClick={onDone}>
          Not now
        </Button>
        <p role="alert" className="text-[0.875rem] text-stop">
          {said}
        </p>
      </div>
      {table && file && (
        <>
          <h3 className="mt-4 mb-1 font-semibold">What the columns are taken for</h3>
          <div className="grid gap-3 sm:grid-cols-3">
            {table.heads.map((head, at) => (
              <Pick
                // biome-ignore lint/suspicious/noArrayIndexKey: two columns may have one name
                key={at}
                label={head || `column ${at + 1}`}
                value={table.taken_for[at] ?? "left out"}
                placeholder="left out"
                options={columns}
                onChange={(column) => void send(file, table.taken_for.with(at, column as Column), false)}
              />
            ))}
          </div>
          <Wide label="Rows of the list" className="mt-4">
            <table className="w-full min-w-[620px]">
              <thead className="lab text-left">
                <tr className="border-b border-ink">
                  <th className="py-1 font-normal">Row</th>
                  <th className="font-normal">Product</th>
                  <th className="font-normal">Lot</th>
                  <th className="text-right font-normal">How much</th>
                </tr>
              </thead>
              <tbody>
                {shown.map((row) => (
                  <tr key={row.line} className="border-b border-rule-faint align-baseline">
                    <td className="lab py-1.5 pr-3">{row.line}</td>
                    <td className="py-1.5 pr-3">
                      {row.cells.product}
                      {row.trouble && <span className="block text-[0.875rem] text-stop">{row.trouble}</span>}
                    </td>
                    <td className="py-1.5 pr-3">{row.cells.lot}</td>
                    <td className="fig py-1.5 text-right">
                      {row.trouble ? row.cells.amount : amountText(units, unitOf(row.article), row.amount)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Wide>
          <div className="mt-3 flex flex-wrap items-center gap-3">
            <Button
              edits
              look="main"
              disabled={busy || troubles.length > 0}
              onClick={() => void send(file, table.taken_for, true)}
            >
              Put {plural(table.rows.length, "lot")} in the stock
            </Button>
            {troubles.length > 0 && (
              <p className="text-[0.875rem] text-stop">
                {plural(troubles.length, "row")} cannot be taken as {troubles.length === 1 ? "it is" : "they are"}: mend
                the file, or put the product on the shelf, and choose it again.
              </p>
            )}
          </div>
        </>
      )}
    </section>
  );
}
