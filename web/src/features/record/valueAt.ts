import type { Document } from "../../api/client";

const IDENTITIES = ["number", "cylinder", "id", "name"] as const;

/** Read what stands at a path of the document; undefined where nothing was looked at. */
export function valueAt(document: Document, path: string): unknown {
  let value: unknown = document;
  for (const step of path.split("/").slice(1)) {
    if (Array.isArray(value)) {
      value = value.find((item: Record<string, unknown>) => IDENTITIES.some((id) => String(item[id]) === step));
    } else if (typeof value === "object" && value !== null) {
      value = (value as Record<string, unknown>)[step];
    } else {
      return undefined;
    }
  }
  return value;
}
