import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, type Product, Refused, taken } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";

/** The data sheets kept with a product: a PDF, or a photograph of the tin. */
export function Sheets({ product }: { product: Product }) {
  const { shop, day } = useShop();
  const queries = useQueryClient();
  const path = { product_id: product.id };
  const settle = { onSuccess: () => queries.invalidateQueries({ queryKey: ["shelf", shop.id] }) };
  const add = useMutation({
    mutationFn: async (file: File) => {
      const body = new FormData();
      body.append("sheet", file);
      return taken(
        client.POST("/api/shelf/{product_id}/sheets", {
          params: { path },
          body: body as never,
          bodySerializer: (form: unknown) => form as FormData,
        }),
      );
    },
    ...settle,
  });
  const remove = useMutation({
    mutationFn: (sheet_id: string) =>
      taken(client.DELETE("/api/shelf/{product_id}/sheets/{sheet_id}", { params: { path: { ...path, sheet_id } } })),
    ...settle,
  });
  return (
    <section className="mt-5 border-t border-rule pt-3">
      <h3 className="font-semibold">Data sheets</h3>
      {product.sheets.length === 0 && (
        <p className="lab">None kept. Its sheet wins over every figure here: keep it where the bench finds it.</p>
      )}
      <ul>
        {product.sheets.map((sheet) => (
          <li key={sheet.id} className="flex flex-wrap items-baseline gap-x-3 py-1">
            <a className="link" href={`/api/shelf/${product.id}/sheets/${sheet.id}`} download>
              {sheet.name}
            </a>
            <span className="lab">
              {fixed(sheet.size_bytes / 1e6, 1)} MB, {day(sheet.added_at)}
            </span>
            <Button edits look="text" className="ml-auto" onClick={() => remove.mutate(sheet.id)}>
              remove
            </Button>
          </li>
        ))}
      </ul>
      <FilePick
        label="A data sheet"
        accept="application/pdf,image/*"
        className="mt-1.5 min-h-11"
        onFile={(file) => add.mutate(file)}
      >
        Add a PDF or a picture
      </FilePick>
      {add.isPending && <p className="lab">taking it in</p>}
      {add.error instanceof Refused && (
        <p role="alert" className="mt-1 text-[0.8125rem] text-stop">
          the file {add.error.message}
        </p>
      )}
    </section>
  );
}
