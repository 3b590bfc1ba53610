export { column } from "./column";
export { NumberField } from "./NumberField";
export { NumberNote } from "./NumberNote";
export { QuantityEntry } from "./QuantityEntry";
export { doubt, readNumber, usable, writeNumber, type Unit } from "./readNumber";
export { useQuantityEntry, type Quantity } from "./useQuantityEntry";
export type { Finishing } from "./NumberInput";
