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

/** The document as it will be once these are saved; the server's own fold has the last word. */
export function fold(document: Document, observations: readonly Observation[]): Document {
  const said = (folded: Item, { path, value }: Observation) => put(folded, path.split("/").slice(1), 0, value);
  return observations.reduce(said, document as unknown as Item) as unknown as Document;
}

/** The same with one value put in; what the path does not touch stays the very same object. */
function put(target: Item, steps: readonly string[], at: number, value: unknown): Item {
  const step = steps[at] ?? "";
  const key = keyOf(steps, at);
  if (key && at < steps.length - 1) {
    return { ...target, [step]: putItem((target[step] ?? []) as Item[], key, steps, at + 1, value) };
  }
  if (at < steps.length - 1) return { ...target, [step]: put((target[step] ?? {}) as Item, steps, at + 1, value) };
  const made = { ...target, [step]: value };
  if (value === null) Reflect.deleteProperty(made, step);
  return made;
}

function putItem(
  list: readonly Item[],
  { key, number }: { key: string; number: boolean },
  steps: readonly string[],
  at: number,
  value: unknown,
): Item[] {
  const step = steps[at] ?? "";
  const identity = number ? Number(step) : step;
  const known = list.find((one) => one[key] === identity);
  const item = known ?? { [key]: identity };
  const made = at < steps.length - 1 ? put(item, steps, at + 1, value) : item;
  if (known) return list.map((one) => (one === known ? made : one));
  const longer = [...list, made];
  return number ? longer.sort((a, b) => Number(a[key]) - Number(b[key])) : longer;
}
