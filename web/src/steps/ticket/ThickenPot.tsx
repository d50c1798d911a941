import type { Thickened, Ticket } from "../../api/client";
import { ConsistencyPicture } from "../../drawing/ConsistencyPicture";
import { fixed } from "../../format";
import { useShop } from "../../shop";
import { scaleShows } from "./pours";

/** From mixed resin to paste: some set aside plain, the filler to its consistency, and how it is run. */
export function ThickenPot({ thickened, ticket }: { thickened: Thickened; ticket: Ticket }) {
  const { units } = useShop();
  const scale = ticket.by === "weight";
  return (
    <section aria-label="Thicken it" className="mt-4 border-t border-rule pt-3">
      <h2 className="text-[1.25rem] font-semibold leading-tight">Then thicken it, once it is mixed</h2>
      {thickened.aside_g > 0 && (
        <p className="mt-1 text-[1.0625rem]">
          First pour{" "}
          <span className="fig text-[1.375rem]">
            {scale ? scaleShows(ticket, thickened.aside_g) : units.text("mass", thickened.aside_g)}
          </span>{" "}
          off, plain, into a small cup: it is for the brush, on bare faces first and on the paste after.
        </p>
      )}
      <ul>
        {thickened.fillers.map((filler) => (
          <li
            key={filler.filler_id}
            className="grid grid-cols-[1fr_auto] items-end gap-3 border-b border-rule-faint py-2"
          >
            <div className="min-w-0">
              <div className="text-[1.25rem] font-semibold leading-tight">{filler.name}</div>
              <div className="text-[0.9062rem] text-ink-soft">
                {units.text("mass", filler.grams)}, or {filler.cups}; {fixed(filler.parts, 1)} loose to 1,{" "}
                {filler.told_by}
              </div>
            </div>
            <div className="text-right">
              <div className="lab">loose, about</div>
              <div className="fig text-[clamp(3.25rem,7vw,4.5rem)] leading-[0.92]">
                {units.number("volume", filler.loose_ml)}
                <span className="ml-1 text-[1.5rem] font-normal text-ink-soft">
                  {units.unit("volume", filler.loose_ml)}
                </span>
              </div>
            </div>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex items-center gap-4">
        <ConsistencyPicture consistency={thickened.consistency as "stands"} />
        <p className="text-[1.0625rem]">
          until it <strong>{thickened.consistency}</strong>: {thickened.looks}. The eye decides, the figure only says
          how much to have at hand.{" "}
          {scale && thickened.scale_shows_g != null && (
            <span className="text-ink-soft">
              All of it in, the scale shows about {scaleShows(ticket, thickened.scale_shows_g)}
              {thickened.aside_g > 0 ? ", with the plain resin poured off" : ""}.
            </span>
          )}
        </p>
      </div>
      <p className="caution-care mt-2 px-3 py-1.5 text-[0.9688rem]">
        <strong>Care:</strong> {thickened.dust || "powder floats: particle mask when tipping"}. No fan, tip it low, stir
        it in slowly.
      </p>
      <ol className="mt-3 list-decimal space-y-1.5 pl-6 text-[1.0625rem] marker:text-ink-soft">
        {thickened.load.map((words) => (
          <li key={words}>{words}</li>
        ))}
        {thickened.bead_m > 0 && (
          <li>
            It runs <span className="fig text-[1.25rem]">{units.text("length", thickened.bead_m)}</span>,{" "}
            {units.text("volume", thickened.paste_ml)} of paste
          </li>
        )}
      </ol>
    </section>
  );
}
