import { t, wordSaid } from "../../language";
/** `/cylinders/3/plug/gap` as "cylinder 3, plug, gap". */
export function spoken(path: string): string {
  if (path === "/numbering") return t("the cylinders' numbers");
  return path
    .replace(/^\/cylinders\/(\d+)/, "/=$1")
    .replace(/\/readings\/(\d+)/, "/=$1")
    .replace(/^\//, "")
    .split("/")
    .map((step) => step.replaceAll("~1", "/").replaceAll("~0", "~"))
    .map((step) => (step.startsWith("=") ? t("cylinder {{number}}", { number: step.slice(1) }) : t(step.replaceAll("_", " "))))
    .join(", ");
}

/** A value of the log as a person would say it. */
export function saidOf(value: unknown): string {
  if (value === null || value === undefined) return t("not looked at");
  if (typeof value === "boolean") return value ? t("yes") : t("no");
  if (Array.isArray(value)) return value.map(saidOf).join(", ");
  if (typeof value === "object" && "value" in value && "unit" in value) return `${value.value} ${value.unit}`;
  // A word of the contract; what a person wrote stays as it is.
  if (typeof value === "string" && /^[a-z]+(-[a-z]+)+$/.test(value)) return wordSaid(value);
  return String(value as string | number);
}
