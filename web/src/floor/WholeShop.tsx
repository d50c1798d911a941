import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, taken } from "../api/client";
import { useSession } from "../session";
import { useShop } from "../shop";
import { Button } from "../ui/Button";
import { Download } from "../ui/Download";
import { FilePick } from "../ui/FilePick";

/** All of the shop out as one archive, and a shop in from one. */
export function WholeShop() {
  const { shop } = useShop();
  const { chooseShop } = useSession();
  const queries = useQueryClient();
  const bring = useMutation({
    mutationFn: (file: File) => {
      const body = new FormData();
      body.append("archive", file);
      return taken(
        client.POST("/api/archive", { body: body as never, bodySerializer: (form: unknown) => form as FormData }),
      );
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["session"] }),
  });
  return (
    <section className="mt-6 border-t border-rule pt-4">
      <h2 className="mb-1 text-[1.1875rem] font-semibold">The whole shop as one file</h2>
      <p className="lab max-w-[68ch]">
        Jobs with their runs and photos, the shelf, the stock and the log, as plain JSON, CSV, PDF and JPEG in one ZIP.
        No passwords and no tablets. Brought in, it becomes a shop of its own, beside this one.
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-x-6 gap-y-2">
        <Download href={`/api/shops/${shop.id}/archive.zip`} name="shop.zip">
          Take it all out
        </Download>
        <FilePick label="An archive of a shop" accept=".zip,application/zip" onFile={(file) => bring.mutate(file)}>
          Bring in a shop
        </FilePick>
        {bring.isPending && <output>It is being brought in …</output>}
        {bring.data && (
          <output className="text-cool">
            {bring.data.name} is there, as a shop of its own.{" "}
            <Button look="text" onClick={() => bring.data && chooseShop(bring.data.id)}>
              Open it
            </Button>
          </output>
        )}
      </div>
      {bring.isError && (
        <p role="alert" className="mt-2 text-[0.9375rem] text-stop">
          {bring.error.message}
        </p>
      )}
    </section>
  );
}
