import type { Plan } from "../api/client";
import { useShop } from "../shop";
import { Figure } from "../ui/Figure";

/** How far the surface is over the dew point: blue where it is safe, red where water settles. */
export function DewFigure({ dew, size, about }: { dew: Plan["dew"]; size: number; about?: string }) {
  const { units } = useShop();
  if (!dew)
    return <Figure name="Over dew point by" number="–" unit={units.unit("temperature_difference")} size={size} />;
  const { number, unit } = units.show("temperature_difference", dew.margin_c);
  return (
    <Figure
      name={dew.frost ? "Over frost point by" : "Over dew point by"}
      number={dew.margin_c >= 0 ? `+${number}` : number.replace("-", "−")}
      unit={unit}
      size={size}
      tone={dew.safe ? "text-cool" : "text-stop"}
      about={about}
    />
  );
}
