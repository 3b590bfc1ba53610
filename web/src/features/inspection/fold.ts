import type { Document } from "../../api/client";

export interface Observation {
  client_id: string;
  path: string;
  /** null takes the field back to "not looked at". */
  value: unknown;
  device: string;
  seen: number;
}

type Item = Record<string, unknown>;

/** What tells the items of a list apart, by the list's name; as the contract's schema marks it. */
const KEYS: Record<string, { key: string; number: boolean }> = {
  refused: { key: "id", number: false },
  readings: { key: "cylinder", number: true },
  compression: { key: "id", number: false },
  leakdown: { key: "id", number: false },
  swap: { key: "id", number: false },
  relative: { key: "cylinder", number: true },
  spark: { key: "cylinder", number: true },
  injector: { key: "cylinder", number: true },
  balance: { key: "cylinder", number: true },
  misfires: { key: "cylinder", number: true },
  noise: { key: "cylinder", number: true },
  reread: { key: "cylinder", number: true },
  port_look: { key: "cylinder", number: true },
  steps: { key: "id", number: false },
  removed: { key: "id", number: false },
  damage: { key: "id", number: false },
  banks: { key: "name", number: false },
  feeds: { key: "name", number: false },
};

/** The record of a cylinder is known by its number; what other parts say of one, by `cylinder`. */
function keyOf(steps: readonly string[], at: number) {
  if (steps[at] === "cylinders" && steps[0] !== "engine") return { key: at === 0 ? "number" : "cylinder", number: true };
  return KEYS[steps[at] ?? ""];
}

function itemOf(list: Item[], { key, number }: { key: string; number: boolean }, step: string): Item {
  const identity = number ? Number(step) : step;
  let item = list.find((one) => one[key] === identity);
  if (!item) {
    item = { [key]: identity };
    list.push(item);
    if (number) list.sort((a, b) => Number(a[key]) - Number(b[key]));
  }
  return item;
}

/** The document as it will be once these are saved; the server's own fold has the last word. */
export function fold(document: Document, observations: readonly Observation[]): Document {
  if (observations.length === 0) return document;
  const folded = structuredClone(document);
  for (const { path, value } of observations) set(folded as unknown as Item, path, value);
  return folded;
}

function set(document: Item, path: string, value: unknown): void {
  const steps = path.split("/").slice(1);
  let target: Item = document;
  for (let at = 0; at < steps.length - 1; at += 1) {
    const step = steps[at] ?? "";
    const key = keyOf(steps, at);
    if (key) {
      const list = (target[step] ??= []) as Item[];
      target = itemOf(list, key, steps[at + 1] ?? "");
      at += 1;
      if (at === steps.length - 1) return;
    } else {
      target = (target[step] ??= {}) as Item;
    }
  }
  const field = steps.at(-1) ?? "";
  if (value === null) Reflect.deleteProperty(target, field);
  else target[field] = value;
}
