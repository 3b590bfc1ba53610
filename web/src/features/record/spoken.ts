/** `/cylinders/3/plug/gap` as "cylinder 3, plug, gap". */
export function spoken(path: string): string {
  if (path === "/numbering") return "the cylinders' numbers";
  return path
    .replace(/^\/cylinders\/(\d+)/, "/cylinder $1")
    .replace(/\/readings\/(\d+)/, "/cylinder $1")
    .replace(/^\//, "")
    .split("/")
    .map((step) => step.replaceAll("~1", "/").replaceAll("~0", "~").replaceAll("_", " "))
    .join(", ");
}

/** A value of the log as a person would say it. */
export function saidOf(value: unknown): string {
  if (value === null || value === undefined) return "not looked at";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) return value.map(saidOf).join(", ");
  if (typeof value === "object" && "value" in value && "unit" in value) return `${value.value} ${value.unit}`;
  // A word of the contract; what a person wrote stays as it is.
  if (typeof value === "string" && /^[a-z]+(-[a-z]+)+$/.test(value)) return value.replaceAll("-", " ");
  return String(value as string | number);
}
