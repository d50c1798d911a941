import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { client, type Library, type PlyResult, type Product, type ProductKind, taken } from "../api/client";
import { Hatch } from "../drawing/hatches";
import { PlainHeader } from "../floor/PlainHeader";
import { plural } from "../format";
import { useSession } from "../session";
import { ShopProvider, useShop } from "../shop";
import { Pick } from "../ui/Pick";
import { useTitle } from "../ui/useTitle";
import type { Units } from "../units";
import { BringStock } from "./BringStock";
import type { Written } from "./document";
import { LotPage } from "./LotPage";
import { ProductForm } from "./ProductForm";
import { ReceiveLot } from "./ReceiveLot";
import { StockShelf } from "./StockShelf";

const chapters: readonly (readonly [ProductKind, string])[] = [
  ["fabric", "Fabrics"],
  ["resin", "Resins"],
  ["filler", "Fillers"],
  ["vessel", "Vessels"],
  ["tool", "Tools"],
  ["consumable", "Used up"],
];

/** The shop's own products: what is on hand, as its tins, rolls and sheets say. */
export function ShelfPage() {
  useTitle("Shelf");
  const { shopId } = useSession();
  return (
    <>
      <PlainHeader />
      <ShopProvider key={shopId} shopId={shopId}>
        <Shelf />
      </ShopProvider>
    </>
  );
}

function Shelf() {
  const { shop } = useShop();
  const { product: chosen = "", lot = "" } = useParams();
  const [search] = useSearchParams();
  const [adds, add] = useState<"" | "lot" | "list">("");
  const shelf = useQuery({
    queryKey: ["shelf", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/shelf", { params: { path: { shop_id: shop.id } } })),
  });
  const library = useQuery({
    queryKey: ["library", shop.id],
    queryFn: () => taken(client.GET("/api/shops/{shop_id}/library", { params: { path: { shop_id: shop.id } } })),
  });
  const forms = useQuery({
    queryKey: ["shelf-forms"],
    queryFn: () => taken(client.GET("/api/shelf-forms")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (!shelf.data || !library.data || !forms.data) return null;
  const product = shelf.data.find((other) => other.id === chosen) ?? null;
  const kind = (product?.kind ?? search.get("kind")) as ProductKind | null;
  const open = product || (chosen === "new" && kind);
  const aside = open || lot || adds;
  return (
    <main className="mx-auto grid max-w-[1280px] gap-x-8 px-4 py-4 lg:grid-cols-[340px_1fr]">
      <div className={aside ? "max-lg:hidden" : "max-lg:mb-8"}>
        <h1 className="text-[1.625rem] font-semibold">Shelf</h1>
        <p className="lab">Products, as their tins and sheets say. Jobs carry copies.</p>
        {chapters.map(([each, title]) => (
          <Chapter
            key={each}
            kind={each}
            title={title}
            products={shelf.data.filter((other) => other.kind === each)}
            library={library.data}
            chosen={chosen}
          />
        ))}
      </div>
      <div className="min-w-0">
        {adds === "lot" && <ReceiveLot onDone={() => add("")} />}
        {adds === "list" && <BringStock onDone={() => add("")} />}
        {lot ? (
          <>
            <Link to="/shelf" className="link mb-2 inline-block">
              All of the stock
            </Link>
            <LotPage key={lot} lotId={lot} library={library.data} />
          </>
        ) : open && kind ? (
          <>
            <Link to="/shelf" className="link mb-2 inline-block">
              All of the stock
            </Link>
            <ProductForm
              key={product?.id ?? `${kind}-${search.get("like")}`}
              kind={kind}
              fields={forms.data.kinds[kind] ?? []}
              sources={forms.data.sources}
              product={product}
              like={likeOf(library.data, kind, search.get("like"))}
            />
          </>
        ) : (
          <StockShelf library={library.data} onReceive={() => add("lot")} onBring={() => add("list")} />
        )}
      </div>
    </main>
  );
}

/** A library product as the start of one of the shop's own. */
function likeOf(library: Library, kind: ProductKind, id: string | null): Written | undefined {
  const found = listOf(library, kind).find((other) => other.id === id);
  if (!found) return undefined;
  const { id: _id, ...like } = found as unknown as Written;
  if (!Array.isArray(like.hardeners)) return like;
  return { ...like, hardeners: like.hardeners.map(({ id: _own, ...hardener }: Written) => hardener) };
}

const listOf = (library: Library, kind: ProductKind): { id: string; name: string }[] => library[`${kind}s`] ?? [];

function Chapter({
  kind,
  title,
  products,
  library,
  chosen,
}: {
  kind: ProductKind;
  title: string;
  products: Product[];
  library: Library;
  chosen: string;
}) {
  const go = useNavigate();
  const { units } = useShop();
  const begin: [string, string][] = listOf(library, kind).map((like) => [like.id, `like ${like.name}`]);
  begin.push(["nothing", "from nothing"]);
  return (
    <section className="mt-4">
      <div className="flex items-end justify-between gap-3 border-b border-ink pb-1">
        <h2 className="text-[1.0625rem] font-semibold">{title}</h2>
        <div className="w-40">
          <Pick
            hideLabel
            label={`Add to ${title.toLowerCase()}`}
            value=""
            placeholder="add"
            options={begin}
            onChange={(like) => void go(`/shelf/new?kind=${kind}${like === "nothing" ? "" : `&like=${like}`}`)}
          />
        </div>
      </div>
      {products.length === 0 && <p className="lab py-1.5">none of your own yet: the generic ones serve</p>}
      <ul aria-label={title}>
        {products.map((product) => (
          <li key={product.id} className="border-b border-rule-faint">
            <Link
              to={`/shelf/${product.id}`}
              aria-current={product.id === chosen ? "true" : undefined}
              className={`flex min-h-12 items-center gap-3 py-1.5 pr-1 pl-2.5 hover:bg-sheet aria-[current]:bg-sheet aria-[current]:shadow-[inset_3px_0_0_var(--color-ink)] ${product.retired ? "opacity-60" : ""}`}
            >
              <Swatch product={product} />
              <span className="min-w-0">
                <span className="block truncate leading-tight font-medium">{product.name}</span>
                <span className="lab block truncate">
                  {product.retired ? "retired" : summary(product, units)}
                  {product.sheets.length > 0 && ` · ${plural(product.sheets.length, "sheet")}`}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What a product is, in a line, from its own document. */
function summary({ kind, document }: Product, units: Units): string {
  const told = document as Record<string, never>;
  const hardeners = (told.hardeners as { name: string }[] | undefined)?.map((each) => each.name);
  switch (kind) {
    case "fabric":
      return `${units.text("areal_weight", told.areal_weight_gsm ?? 0)} ${told.architecture}, ${units.text("cut", told.roll_width_mm ?? 0)} wide`;
    case "resin":
      return hardeners?.length ? `${told.family}: ${hardeners.join(", ")}` : `${told.family}, catalysed`;
    case "filler":
      return told.structural ? "structural" : "not structural";
    case "vessel":
      return `holds ${units.words("volume", told.holds_ml ?? 0)}, ${told.made_of}`;
    case "tool":
      return `${told.kind}, reads to ${told.reads_to} ${told.unit}`;
    default:
      return String(told.kind);
  }
}

function Swatch({ product }: { product: Product }) {
  const told = product.document as unknown as PlyResult;
  const id = `swatch-${product.id}`;
  if (product.kind !== "fabric" && product.kind !== "resin") return null;
  return (
    <svg viewBox="0 0 34 34" width="34" height="34" className="shrink-0" aria-hidden="true">
      {product.kind === "fabric" && (
        <defs>
          <Hatch id={id} architecture={told.architecture} fibre={told.fibre} />
        </defs>
      )}
      <rect
        x=".5"
        y=".5"
        width="33"
        height="33"
        fill={product.kind === "fabric" ? "var(--color-sheet)" : "var(--color-fresh)"}
        stroke="var(--color-ink)"
      />
      {product.kind === "fabric" && <rect x=".5" y=".5" width="33" height="33" fill={`url(#${id})`} />}
    </svg>
  );
}
