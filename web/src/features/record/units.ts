/** In which unit an empty field starts, and what is asked about a figure before it is kept. */
import { PLAUSIBLE, SCALE } from "../../api/contract.generated";
import type { Document } from "../../api/client";
import type { Quantity } from "../../primitives/number";
import type { Option } from "../../primitives/Choice";

import { at } from "./fields";
import { valueAt } from "./valueAt";

type Specification = NonNullable<Document["engine"]["specification"]>;

/** What is printed of a kind of figure says in which unit it is read. */
const PRINTED: readonly (readonly [path: RegExp, of: (printed: Specification) => { unit: string } | undefined])[] = [
  [/\/points_?.*gap/, (printed) => printed.points_gap_min ?? printed.points_gap_max],
  [/gap/, (printed) => printed.gap_max ?? printed.gap_min],
  [/pressure|compression/, (printed) => printed.compression_min ?? printed.compression_max],
  [/torque/, (printed) => printed.torque_new ?? printed.torque_reused],
];
const GAP = /\/(arrived_)?gap(_min|_max|_passes|_refuses)?$/;
const TORQUE = /\/torque[a-z_]*$/;

/**
 * The unit that an empty field starts in: the one in which the same was said of another cylinder, the
 * printed specification's, what its person measures in, the first. Lengths that nobody measures with
 * blades are drawn in millimetres everywhere.
 */
export function startingUnit(document: Document, path: string, units: readonly Option<string>[], measures: Record<string, string> | undefined): string {
  const said = sameOfOthers(document, path);
  const printed = PRINTED.find(([named]) => named.test(path))?.[1](document.engine.specification ?? {})?.unit;
  const own = /gap/.test(path) || units[0]?.value !== "mm" ? Object.values(measures ?? {}) : [];
  const fits = (unit: string | undefined) => units.some((one) => one.value === unit);
  return [said, printed, ...own, units[0]?.value].find(fits) ?? "";
}

function sameOfOthers(document: Document, path: string): string | undefined {
  if (!path.includes("{n}")) return undefined;
  const numbers = Array.from({ length: document.engine.cylinders }, (_, index) => index + 1);
  return numbers.map((number) => (valueAt(document, at(path, number)) as Quantity | undefined)?.unit).find(Boolean);
}

/** What may have been meant by a figure that cannot be, itself at the end; nothing where it can. */
export function meant(path: string, typed: Quantity, units: readonly Option<string>[]): readonly Quantity[] {
  const limits = GAP.test(path) && !path.includes("points") ? PLAUSIBLE.gap : TORQUE.test(path) ? PLAUSIBLE.torque : undefined;
  if (!limits) return [];
  const [low, high] = limits;
  const fits = ({ value, unit }: Quantity) => value * (SCALE[unit] ?? 1) >= low && value * (SCALE[unit] ?? 1) <= high;
  if (fits(typed)) return [];
  return [...units.map(({ value: unit }) => ({ ...typed, unit })).filter(fits), typed];
}
