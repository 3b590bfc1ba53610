import type { Schemas } from "../../api/client";
import { choose } from "../../storage/choice";

/** What a column is taken for. */
export type Column = { holds: string; unit: string };

type Told = readonly Schemas["Column"][];

/** What the columns of a table with these heads held the last time, on this device. */
const keptUnder = (columns: Told) => `table: ${columns.map((one) => one.head).join(" | ")}`;

export function recalledColumns(columns: Told): readonly Column[] | undefined {
  const kept = localStorage.getItem(keptUnder(columns));
  return kept === null ? undefined : (JSON.parse(kept) as Column[]);
}

export function keepColumns(told: Told, columns: readonly Column[]): void {
  choose(keptUnder(told), JSON.stringify(columns));
}
