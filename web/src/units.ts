import type { Dimension, ScaleTables } from "./api/client";
import { fixed, inParts, type Printed, plain, short } from "./format";

type UnitSet = ScaleTables["metric"];
export type Quantity = keyof UnitSet["quantities"];
type Rung = NonNullable<UnitSet["quantities"][Quantity]>[number];

/** Prints quantities in the unit set that was chosen, with the factors and digits that the server sends. */
export class Units {
  private readonly set: UnitSet;

  constructor(
    tables: ScaleTables,
    us: boolean,
    /** Fields show the words a quantity was typed in. */
    readonly asTyped: boolean,
  ) {
    this.set = us ? tables.us : tables.metric;
  }

  private rung(quantity: Quantity, value: number): Rung {
    const rungs = this.set.quantities[quantity] ?? [];
    return rungs.findLast((rung) => Math.abs(value) >= rung.from_value) ?? (rungs[0] as Rung);
  }

  show(quantity: Quantity, value: number): Printed {
    const rung = this.rung(quantity, value);
    const shown = value * rung.factor + rung.offset;
    return { number: rung.parts > 1 ? inParts(shown, rung.parts) : fixed(shown, rung.digits), unit: rung.unit };
  }

  text(quantity: Quantity, value: number): string {
    const { number, unit } = this.show(quantity, value);
    return `${number} ${unit}`;
  }

  /** As in a sentence: without the digits that say nothing. */
  words(quantity: Quantity, value: number): string {
    const { number, unit } = this.show(quantity, value);
    return `${short(number)} ${unit}`;
  }

  number(quantity: Quantity, value: number): string {
    return this.show(quantity, value).number;
  }

  unit(quantity: Quantity, value = 0): string {
    return this.rung(quantity, value).unit;
  }

  /** The unit that a value is shown in, and what one of it is in the core's. */
  one(quantity: Quantity, value: number): { unit: string; is: number } {
    const { unit, factor } = this.rung(quantity, value);
    return { unit, is: 1 / factor };
  }

  /** A quantity's axis in a drawing: the unit shown, and the way there and back. */
  axis(quantity: Quantity) {
    const rung = this.rung(quantity, 0);
    return {
      unit: rung.unit,
      digits: rung.digits,
      shown: (value: number) => value * rung.factor + rung.offset,
      value: (shown: number) => (shown - rung.offset) / rung.factor,
    };
  }

  /** An example for an empty field: a value of the trade, as round as a person says it. */
  example(dimension: Dimension, value: number): string {
    const field = this.set.fields[dimension];
    if (!field) return plain(value);
    return `${plain(Number((value * field.factor + field.offset).toPrecision(2)))} ${field.shown}`;
  }

  /** A temperature to beware of, as round as a person says it. */
  threshold(celsius: number): string {
    const rung = this.rung("temperature", celsius);
    const shown = celsius * rung.factor + rung.offset;
    return `${rung.factor === 1 ? shown : 5 * Math.round(shown / 5)} ${rung.unit}`;
  }

  fieldUnit(dimension: Dimension): string {
    return this.set.fields[dimension]?.unit ?? "";
  }

  /** What stands in a field for a value in the core's unit. */
  fieldText(dimension: Dimension, value: number): string {
    const field = this.set.fields[dimension];
    if (!field) return plain(value);
    // A value brought over from the core's unit has no more than four figures to say.
    const own = field.factor === 1;
    return `${own ? plain(value) : plain(Number((value * field.factor + field.offset).toPrecision(4)))} ${field.shown}`;
  }
}
