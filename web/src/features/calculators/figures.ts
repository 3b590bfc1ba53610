import type { Quantity } from "../../primitives/number";

/** A number to five figures, with a minus sign of its own. */
export const figure = (value: number) => String(Number(value.toPrecision(5))).replace("-", "−");

/** A quantity with its unit, on one line. */
export const measured = ({ value, unit }: Quantity) => `${figure(value)}\u00a0${unit.replace(".", "·")}`;

/** Blades laid together: the unit once where they share it. */
export function stacked(blades: readonly Quantity[]): string {
  const unit = blades[0]?.unit ?? "";
  return blades.every((one) => one.unit === unit)
    ? `${blades.map((one) => figure(one.value)).join(" + ")}\u00a0${unit}`
    : blades.map(measured).join(" + ");
}
