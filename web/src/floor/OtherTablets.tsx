import { useQuery } from "@tanstack/react-query";
import { client, taken } from "../api/client";

/** How tablets and phones reach this server: its addresses, and a code to the page that says how to trust it. */
export function OtherTablets() {
  const lan = useQuery({ queryKey: ["lan"], queryFn: () => taken(client.GET("/api/lan")) });
  if (!lan.data) return null;
  const { on_the_network, by_number, by_name, trust, code, authority } = lan.data;
  return (
    <section className="mt-6 border-t border-rule pt-4" aria-label="Tablets and phones">
      <h2 className="mb-1 text-[1.1875rem] font-semibold">Tablets and phones</h2>
      {!on_the_network && (
        <p className="lab">
          This program answers on its own machine alone. Stop it and start it with <b>make shop</b>: then every tablet
          on the shop's wireless can open it, and prints carry an address that works there.
        </p>
      )}
      {on_the_network && !by_number && (
        <p className="lab">The machine of this program is on no network now. Tablets reach it as soon as it is.</p>
      )}
      {by_number && (
        <div className="flex flex-wrap items-start gap-x-6 gap-y-3">
          <img src={code} alt={`Code of ${trust}`} className="w-44 shrink-0" />
          <div className="min-w-0 flex-1 basis-72">
            <p className="text-[1.375rem] leading-tight font-semibold break-all">{by_number}</p>
            {by_name && <p className="text-[1.0625rem] break-all">or, where the network knows names, {by_name}</p>}
            <p className="mt-2">
              A tablet that comes for the first time scans the code. It opens <b className="break-all">{trust}</b>,
              which says in four pictures how to trust the certificate “{authority}”.
            </p>
            <p className="lab mt-1">
              The certificate is good for local networks only. It renews itself; a tablet is told once.
            </p>
          </div>
        </div>
      )}
    </section>
  );
}
