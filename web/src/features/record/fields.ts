import { t, wordSaid } from "../../language";
import type { Document } from "../../api/client";
import type { Option } from "../../primitives/Choice";

export type CylinderRecord = NonNullable<Document["cylinders"]>[number];
export type Tests = NonNullable<Document["tests"]>;
export type Entries = readonly (readonly [path: string, value: unknown])[];

interface Named {
  /** Where it is kept; `{n}` stands for the chosen cylinder. */
  path: string;
  label: string;
  hint?: string;
}

export interface ChoiceField extends Named {
  kind: "choice";
  options: readonly Option<string>[];
  /** One of them always stands: it can be changed, not taken back. */
  stays?: boolean;
}
export interface DateField extends Named {
  kind: "date";
}
export interface TagsField extends Named {
  kind: "tags";
  options: readonly Option<string>[];
}
export interface FlagField extends Named {
  kind: "flag";
  /** What "yes" is kept as, where the contract has one word and no "no". */
  says?: string;
}
export interface QuantityField extends Named {
  kind: "quantity";
  units: readonly Option<string>[];
}
export interface NumberField extends Named {
  kind: "number";
}
export interface TextField extends Named {
  kind: "text";
}
export interface ListField extends Named {
  kind: "list";
}

/** One thing that can be recorded. What it may say stands in the contract; here is how it is asked. */
export type Field = ChoiceField | DateField | TagsField | FlagField | QuantityField | NumberField | TextField | ListField;

export interface Group {
  title: string;
  /** What to mind before doing it. */
  caution?: string;
  fields: readonly Field[];
}

/** Words of the contract as options, a hyphen read as a space. */
export function options<V extends string>(...words: readonly V[]): readonly Option<V>[] {
  return words.map((value) => ({ value, label: wordSaid(value) }));
}

export const LENGTH_UNITS = options("mm", "in", "thou");
export type LengthUnit = "mm" | "in" | "thou";
const MILLIMETRES: Record<string, number> = { mm: 1, in: 25.4, thou: 0.0254 };

/** A length as it is drawn; what is computed with is the server's. */
export function millimetres(length: { value: number; unit: string }): number {
  return length.value * (MILLIMETRES[length.unit] ?? 1);
}

export const VOLUME_UNITS = [
  { value: "L", label: "L" },
  { value: "mL", label: "mL" },
  { value: "fl-oz", label: "fl oz" },
] as const;
export const PRESSURE_UNITS = [
  { value: "psi", label: "psi" },
  { value: "kPa", label: "kPa" },
  { value: "bar", label: "bar" },
  { value: "kgf/cm2", label: "kgf/cm²" },
] as const;
export const TEMPERATURE_UNITS = [
  { value: "degC", label: "°C" },
  { value: "degF", label: "°F" },
] as const;
export const DISTANCE_UNITS = options("km", "mi", "h");
export const TORQUE_UNITS = [
  { value: "N.m", label: "N·m" },
  { value: "lbf.ft", label: "lbf·ft" },
  { value: "lbf.in", label: "lbf·in" },
  { value: "kgf.m", label: "kgf·m" },
] as const;

/** The same units with one first: the one an empty field starts in. */
export function leading<V extends string>(units: readonly Option<V>[], unit: string | undefined): readonly Option<V>[] {
  return [...units.filter((one) => one.value === unit), ...units.filter((one) => one.value !== unit)];
}

/** The path of a field for one cylinder. */
export function at(path: string, cylinder: number): string {
  return path.replace("{n}", String(cylinder));
}

/** What tells the spark when: asked of the engine, and once more where points would be set. */
export const TRIGGER: Field = {
  kind: "choice",
  path: "/engine/trigger",
  label: t("Triggered by"),
  options: options<NonNullable<Document["engine"]["trigger"]>>("points", "electronic", "cdi"),
};
