import { useShop } from "../shop";
import { useJob } from "./context";

/** How much of a mix is told: as weights, or as volumes where all pots are measured by volume. */
export function usePotSize() {
  const { units } = useShop();
  const { plan } = useJob();
  const [first, ...more] = plan.resins;
  const density = more.every((told) => told.by_volume_g_per_ml) ? first?.by_volume_g_per_ml : null;
  const quantity = density ? "volume" : "mass";
  const shown = (grams: number) => (density ? grams / density : grams);
  return {
    dimension: quantity as "volume" | "mass",
    shown,
    grams: (value: number) => (density ? value * density : value),
    show: (grams: number) => units.show(quantity, shown(grams)),
    text: (grams: number) => units.text(quantity, shown(grams)),
    number: (grams: number) => units.number(quantity, shown(grams)),
  };
}
