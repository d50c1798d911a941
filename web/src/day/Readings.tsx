import type { Conditions } from "../api/client";
import { NumberField } from "../ui/NumberField";
import { QuantityField } from "../ui/QuantityField";

/** The readings of the room, typed in any unit. Stands in a form. */
export function Readings({
  conditions,
  fieldKey,
  onSet,
}: {
  conditions: Partial<Conditions>;
  fieldKey: string;
  onSet: (change: Partial<Conditions>) => void;
}) {
  return (
    <div className="grid flex-1 grid-cols-3 gap-3 sm:max-w-[440px]">
      <QuantityField
        label="Room air"
        path="room_c"
        fieldKey={`${fieldKey}.room`}
        dimension="temperature"
        value={conditions.room_c}
        onCommit={(value) => value != null && onSet({ room_c: value })}
      />
      <QuantityField
        label="Surface"
        path="surface_c"
        fieldKey={`${fieldKey}.surface`}
        dimension="temperature"
        value={conditions.surface_c}
        optional
        placeholder="as the room"
        onCommit={(value) => onSet({ surface_c: value })}
      />
      <NumberField
        label="Humidity, %"
        path="humidity_pct"
        value={conditions.humidity_pct}
        placeholder="60"
        onCommit={(humidity_pct) => onSet({ humidity_pct })}
      />
    </div>
  );
}
