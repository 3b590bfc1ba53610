import { usable, type Quantity } from "../../primitives/number";
import type { Calculator } from "./calculate";

/** A part of JSON Schema: what the calculators' keys are made of. */
interface KeySchema {
  type?: string;
  enum?: readonly string[];
  anyOf?: readonly KeySchema[];
  properties?: { unit?: { enum: readonly string[] } };
  items?: KeySchema;
}

export type Kind =
  | { kind: "quantity"; units: readonly string[] }
  | { kind: "list"; units: readonly string[] }
  | { kind: "choice"; words: readonly string[] }
  | { kind: "flag" }
  | { kind: "number" };

export interface Key {
  name: string;
  label: string;
  needed: boolean;
  entry: Kind;
}

function kindOf(schema: KeySchema): Kind {
  const units = schema.properties?.unit?.enum;
  if (units) return { kind: "quantity", units };
  if (schema.type === "array" && schema.items) {
    return { kind: "list", units: schema.items.properties?.unit?.enum ?? [] };
  }
  if (schema.enum) return { kind: "choice", words: schema.enum };
  if (schema.type === "boolean") return { kind: "flag" };
  return { kind: "number" };
}

/** The keys of a calculator, as its form asks for them. */
export function keysOf(calculator: Calculator): readonly Key[] {
  const schema = calculator.keys as unknown as { properties: Record<string, KeySchema>; required?: readonly string[] };
  return Object.entries(schema.properties).map(([name, one]) => ({
    name,
    label: calculator.labels[name] ?? name,
    needed: schema.required?.includes(name) ?? false,
    entry: kindOf(one),
  }));
}

/** What stands in a form, as text: one text a key, so that an address can hold it. */
export type Texts = Readonly<Record<string, string>>;

/** "0.8 mm" as a quantity; undefined where it is none. */
function quantity(text: string): Quantity | undefined {
  const [number, unit = ""] = text.trim().split(/\s+/);
  const value = usable(number ?? "");
  return value === undefined ? undefined : { value, unit };
}

/** The texts of a calculator's example. */
export function example(calculator: Calculator): Texts {
  return Object.fromEntries(Object.entries(calculator.example).map(([name, value]) => [name, spelt(value)]));
}

function spelt(value: unknown): string {
  if (Array.isArray(value)) {
    const list = value as readonly Quantity[];
    return `${list.map((one) => one.value).join(" ")} ${list[0]?.unit ?? ""}`;
  }
  if (typeof value === "object" && value !== null) {
    const { value: number, unit } = value as Quantity;
    return `${number} ${unit}`;
  }
  return String(value);
}

/** What is sent: only keys that say something. */
export function sent(keys: readonly Key[], texts: Texts): Record<string, unknown> {
  const made: Record<string, unknown> = {};
  for (const { name, entry } of keys) {
    const text = texts[name]?.trim() ?? "";
    if (text === "") continue;
    switch (entry.kind) {
      case "quantity":
        made[name] = quantity(text) ?? text;
        break;
      case "list": {
        const parts = text.split(/\s+/);
        const unit = parts.at(-1) ?? "";
        made[name] = parts.slice(0, -1).map((one) => ({ value: usable(one) ?? one, unit }));
        break;
      }
      case "flag":
        made[name] = text === "true";
        break;
      case "choice":
        made[name] = text;
        break;
      case "number":
        made[name] = usable(text) ?? text;
    }
  }
  return made;
}
