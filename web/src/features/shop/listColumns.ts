import { t } from "../../language";
import { choose, useChoice } from "../../storage/choice";

/** What a list of inspections can say beside the grade and the engine, in the order of its columns. */
export const COLUMNS = [
  { name: "verdict", label: t("What was found") },
  { name: "by", label: t("Inspector") },
  { name: "date", label: t("Day") },
  { name: "follow_up", label: t("To look at again") },
  { name: "changed", label: t("Last changed") },
  { name: "signed", label: t("Signed") },
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
