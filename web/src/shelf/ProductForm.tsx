import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { client, type Product, type ProductField, type ProductKind, taken } from "../api/client";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { FormContext } from "../ui/form";
import { useLocalForm } from "../ui/useLocalForm";
import { blank, type Written } from "./document";
import { ProductFields } from "./ProductFields";
import { Sheets } from "./Sheets";

interface Props {
  kind: ProductKind;
  fields: ProductField[];
  sources: string[];
  /** The product as kept, or none for a new one. */
  product: Product | null;
  /** What a new one begins from. */
  like?: Written;
}

/** What is written stays in this device until it is kept: closing the page loses nothing. */
function useWritten(place: string, start: Written) {
  const [written, setWritten] = useState<Written>(() => {
    const left = localStorage.getItem(place);
    return left ? (JSON.parse(left) as Written) : start;
  });
  const change = (next: (before: Written) => Written) =>
    setWritten((before) => {
      const after = next(before);
      localStorage.setItem(place, JSON.stringify(after));
      return after;
    });
  const drop = (then: Written) => {
    localStorage.removeItem(place);
    setWritten(then);
  };
  return { written, change, drop };
}

/** One product, field by field. */
export function ProductForm({ kind, fields, sources, product, like }: Props) {
  const { shop } = useShop();
  const queries = useQueryClient();
  const go = useNavigate();
  const place = `inch-cradle.shelf.${shop.id}.${product?.id ?? `new.${kind}`}`;
  const kept = useMemo(() => product?.document ?? like ?? blank(fields), [product, like, fields]);
  const { written, change, drop } = useWritten(place, kept as Written);
  const { form, attempt, faults, loose } = useLocalForm(place);
  const [said, say] = useState("");
  const changed = JSON.stringify(written) !== JSON.stringify(kept);
  const settle = (saved: Product) => {
    queries.setQueryData<Product[]>(["shelf", shop.id], (before = []) =>
      product ? before.map((other) => (other.id === saved.id ? saved : other)) : [...before, saved],
    );
    void queries.invalidateQueries({ queryKey: ["library", shop.id] });
    drop(saved.document as Written);
    say("kept");
    if (!product) void go(`/shelf/${saved.id}`, { replace: true });
  };
  const keep = () =>
    attempt(async () => {
      say("");
      settle(
        await taken(
          product
            ? client.PUT("/api/shelf/{product_id}", {
                params: { path: { product_id: product.id } },
                body: { number: product.number, document: written },
              })
            : client.POST("/api/shops/{shop_id}/shelf", {
                params: { path: { shop_id: shop.id } },
                body: { kind, document: written },
              }),
        ),
      );
    });
  const retire = (retired: boolean) =>
    attempt(async () => {
      if (!product) return;
      const path = { params: { path: { product_id: product.id } } };
      settle(await taken(client.PUT("/api/shelf/{product_id}/retired", { ...path, body: { retired } })));
      say(retired ? "retired: jobs that use it keep their copy" : "back on the shelf");
    });
  const title = (written.name as string) || `A new ${kind}`;
  return (
    <FormContext.Provider value={form}>
      <section aria-label="Product" className="min-w-0">
        <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-4">
          <h2 className="text-[1.375rem] font-semibold">{title}</h2>
          {product && (
            <span className="lab">
              {product.retired ? "retired · " : ""}
              {product.number === 1 ? "as first written" : `corrected ${product.number - 1} times`}
            </span>
          )}
        </div>
        <ProductFields fields={fields} written={written} sources={sources} onChange={change} />
        <div className="sticky bottom-0 z-10 mt-4 flex flex-wrap items-center gap-3 border-t border-rule bg-floor py-2.5">
          <Button edits look="main" onClick={() => void keep()}>
            {product ? "Keep the changes" : "Put it on the shelf"}
          </Button>
          {changed && (
            <Button edits className="min-h-11" onClick={() => drop(kept as Written)}>
              {product ? "As it was" : "Begin again"}
            </Button>
          )}
          {product && (
            <Button edits className="min-h-11" onClick={() => void retire(!product.retired)}>
              {product.retired ? "Put back on the shelf" : "Retire"}
            </Button>
          )}
          <output className={faults.length ? "text-[0.8125rem] text-stop" : "text-[0.8125rem] text-cool"}>
            {loose[0] ??
              (faults.length
                ? `not kept: ${faults.length === 1 ? "one field" : `${faults.length} fields`} to mend`
                : said)}
          </output>
        </div>
        {product && <Sheets product={product} />}
      </section>
    </FormContext.Provider>
  );
}
