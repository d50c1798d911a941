import { Link } from "react-router";
import type { Article, Fabric, Library, Lot } from "../api/client";
import { LotPicture } from "../drawing/LotPicture";
import { plural } from "../format";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Download } from "../ui/Download";
import { amountText, called, dateWords, useStock } from "./stock";

const chapters: readonly (readonly [string, readonly Article["kind"][]])[] = [
  ["Resins and what sets them", ["resin", "hardener", "catalyst"]],
  ["Fabrics", ["fabric"]],
  ["Fillers", ["filler"]],
  ["Cups and what is used up", ["vessel", "consumable"]],
];

/** What stands in the shop, board by board: each tin with what is left in it, the first to be taken first. */
export function StockShelf({
  library,
  onReceive,
  onBring,
}: {
  library: Library;
  onReceive: () => void;
  onBring: () => void;
}) {
  const { shop, mayWrite } = useShop();
  const { data } = useStock();
  if (!data) return null;
  const doubtful = data.articles.flatMap(({ lots }) => lots).filter((lot) => lot.asks_for_a_trial || lot.bad);
  return (
    <section aria-label="Stock">
      <div className="mb-1 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div>
          <h2 className="text-[1.375rem] font-semibold">Stock</h2>
          <p className="lab">
            {data.articles.length === 0
              ? "No tin is written down yet."
              : doubtful.length
                ? `${plural(doubtful.length, "lot")} to look at: past ${doubtful.length === 1 ? "its" : "their"} date, without one, or bad.`
                : "All of it keeps. What is poured and cut comes off by itself."}
          </p>
        </div>
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          {data.articles.length > 0 && (
            <>
              <Download href={`/api/shops/${shop.id}/stock.csv`} name="stock.csv">
                CSV
              </Download>
              <Download href={`/api/shops/${shop.id}/stock.xlsx`} name="stock.xlsx">
                XLSX
              </Download>
            </>
          )}
          {mayWrite && (
            <>
              <Button edits className="min-h-11" onClick={onBring}>
                Bring a list
              </Button>
              <Button edits look="main" onClick={onReceive}>
                Something came
              </Button>
            </>
          )}
        </div>
      </div>
      {data.articles.length === 0 && (
        <p className="mt-6 max-w-[52ch]">
          Write down a tin, a roll or a box when it comes: what it is, how much, and the dates on its label. From then
          on a pot that is poured draws from it, the first to expire first; a piece that is cut comes off its roll; a
          job says what is still to buy; and an old tin is told before it is mixed.
        </p>
      )}
      {chapters.map(([title, kinds]) => {
        const articles = data.articles.filter(({ kind }) => kinds.includes(kind)).sort(byPart);
        if (!articles.length) return null;
        return (
          <section key={title} className="mt-5" aria-label={title}>
            <h3 className="lab">{title}</h3>
            <div className="flex flex-wrap items-stretch">
              {articles.map((article) => (
                <Board
                  key={article.key}
                  article={article}
                  today={data.today}
                  fabric={library.fabrics?.find(({ id }) => article.key === `fabric ${id}`)}
                />
              ))}
            </div>
          </section>
        );
      })}
    </section>
  );
}

/** A hardener stands after its resin. */
const byPart = (one: Article, other: Article) => order(one).localeCompare(order(other));
const order = (article: Article) => `${article.part_of || article.name} ${article.part_of ? 1 : 0} ${article.name}`;

/** The lots of one article side by side on the board, the one to be taken first at the left; what it is stands under them. */
function Board({ article, today, fabric }: { article: Article; today: string; fabric?: Fabric }) {
  const { units, date } = useShop();
  return (
    <div className="flex min-w-[176px] flex-col pt-4 max-sm:w-full">
      <ul className="flex flex-1 flex-wrap items-end gap-x-1 gap-y-3 border-b-2 border-ink px-1">
        {article.lots.map((lot) => (
          <li key={lot.id}>
            <Link
              to={`/shelf/lot/${lot.id}`}
              className="group flex min-h-11 min-w-24 flex-col items-center px-1.5 pt-1 hover:bg-sheet"
            >
              <Told lot={lot} words={amountText(units, article.unit, lot.left)} when={dateWords(lot, date)} />
              <LotPicture lot={lot} article={article} today={today} fabric={fabric} />
            </Link>
          </li>
        ))}
      </ul>
      <div className="min-h-[5.25rem] px-1.5 pt-1 pr-4">
        <p className="fig text-[1.5rem] leading-tight">{amountText(units, article.unit, article.there)}</p>
        <p className="line-clamp-2 w-0 min-w-full text-[0.875rem] leading-tight">{called(article)}</p>
        {article.aside > 0 && (
          <p className="lab w-0 min-w-full">{amountText(units, article.unit, article.aside)} put aside for jobs</p>
        )}
      </div>
    </div>
  );
}

function Told({ lot, words, when }: { lot: Lot; words: string; when: string }) {
  const { units } = useShop();
  const late = lot.bad || lot.keeping === "past";
  return (
    <span className="mb-1 block text-center leading-tight">
      <span className="fig block text-[1rem] group-hover:underline">{words}</span>
      <span className="lab block">{lot.batch || "no lot number"}</span>
      {lot.width_mm != null && <span className="lab block">offcut, {units.words("cut", lot.width_mm)} wide</span>}
      <span className={`block text-[0.7969rem] ${late ? "font-semibold text-stop" : "text-ink-soft"}`}>
        {lot.bad ? "not to be used" : when}
      </span>
    </span>
  );
}
