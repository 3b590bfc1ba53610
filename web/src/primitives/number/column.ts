import { readNumber, type Unit } from "./readNumber";
import type { Quantity } from "./useQuantityEntry";

const NOT_READ = /^[-\u2013\u2014.?]?$/;

/**
 * A column or a row of a table as it was pasted, a figure a cell, a dash where none was read. Undefined
 * where it is one figure, or where one of them is none or could be two.
 */
export function column<U extends string>(text: string, units: readonly Unit<U>[], unit: U): readonly (Quantity<U> | undefined)[] | undefined {
  const lines = text.replace(/[\r\n]+$/, "").split(/\r\n|[\r\n\t;]/);
  const cells = lines.length > 1 ? lines : (lines[0] ?? "").trim().split(/\s+/);
  if (cells.length < 2) return undefined;
  const read = cells.map((cell) => (NOT_READ.test(cell.trim()) ? undefined : readNumber(cell, units)));
  if (read.some((one) => one && one.kind !== "number")) return undefined;
  return read.map((one) => (one?.kind === "number" ? { value: one.value, unit: (one.unit as U | undefined) ?? unit } : undefined));
}
