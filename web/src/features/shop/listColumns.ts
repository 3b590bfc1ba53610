import { choose, useChoice } from "../../storage/choice";

/** What a list of inspections can say beside the grade and the engine, in the order of its columns. */
export const COLUMNS = [
  { name: "verdict", label: "What was found" },
  { name: "by", label: "Inspector" },
  { name: "date", label: "Day" },
  { name: "follow_up", label: "To look at again" },
  { name: "changed", label: "Last changed" },
  { name: "signed", label: "Signed" },
] as const;

export type Column = (typeof COLUMNS)[number]["name"];

const CHOICE = "shop-columns";
const USUAL: readonly Column[] = ["verdict", "by", "date"];

export function showColumns(columns: readonly Column[]): void {
  choose(CHOICE, columns.join(" "));
}

/** Those of this device; the usual ones where nobody chose. */
export function useColumns(): readonly Column[] {
  const chosen = useChoice(CHOICE)?.split(" ");
  return chosen ? COLUMNS.map((one) => one.name).filter((name) => chosen.includes(name)) : USUAL;
}
