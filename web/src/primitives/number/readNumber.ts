import { t } from "../../language";
/** A number as people type it, and what it may mean. */
export type Reading =
  | { kind: "none" }
  | { kind: "number"; value: number; unit: string | undefined }
  /** A comma or point before exactly three digits: thousands here, a decimal sign there. */
  | { kind: "either"; values: readonly [number, number]; unit: string | undefined }
  | { kind: "wrong"; error: string };

export interface Unit<U extends string = string> {
  value: U;
  label: string;
}

/** Other ways to write a unit, letters only. */
const ALSO: Record<string, readonly string[]> = {
  in: ["inch", "inches", '"', "″"],
  thou: ["th", "thous", "thousandths", "mil", "mils"],
  "kgf/cm2": ["kgcm2", "kgcm", "kgf", "at"],
  "N.m": ["newtonmetre", "newtonmetres"],
  "lbf.ft": ["lbft", "ftlb", "ftlbs", "ftlbf", "footpounds"],
  "lbf.in": ["lbin", "inlb", "inlbs", "inlbf", "inchpounds"],
  "kgf.m": ["kgm", "mkg"],
  km: ["kms", "kilometres", "kilometers"],
  mi: ["mile", "miles"],
  h: ["hour", "hours", "hr", "hrs"],
  mL: ["cc", "cm3"],
  "fl-oz": ["oz", "floz"],
  "%": ["percent"],
};

const NUMBER = /^([-+\u2212]?)([\d.,'\u2019\s\u00a0\u202f]*)(.*)$/su;

/**
 * Read a number, with the unit that may stand behind it. A comma and a point are both taken as a
 * decimal sign; where one could mean thousands, both readings are given and somebody is to be asked.
 */
export function readNumber(text: string, units: readonly Unit[] = []): Reading {
  const trimmed = text.trim();
  if (trimmed === "") return { kind: "none" };
  const [, sign = "", body = "", rest = ""] = NUMBER.exec(trimmed) ?? [];
  const values = valuesOf(body.trim());
  if (!values) return { kind: "wrong", error: t("Not a number: digits, with a point or a comma.") };
  const unit = rest.trim() === "" ? undefined : unitOf(rest, units);
  if (rest.trim() !== "" && unit === undefined) return { kind: "wrong", error: unknownUnit(rest.trim(), units) };
  const signed = values.map((value) => (sign === "" || sign === "+" ? value : -value));
  const [first = 0, second] = signed;
  return second === undefined
    ? { kind: "number", value: first, unit }
    : { kind: "either", values: [first, second], unit };
}

/** The number that some digits and signs make, or the two that they may. */
function valuesOf(body: string): readonly number[] | undefined {
  // A blank or an apostrophe stands before three digits, or it is none of a number's.
  if (/['\u2019\s\u00a0\u202f]/u.test(body)) {
    if (!/^\d{1,3}(['\u2019\s\u00a0\u202f]\d{3})+([.,]\d*)?$/u.test(body)) return undefined;
    return valuesOf(body.replace(/['\u2019\s\u00a0\u202f]/gu, ""))?.slice(0, 1);
  }
  if (!/^\d*([.,]\d+)*[.,]?$/.test(body) || !/\d/.test(body)) return undefined;
  const signs = body.replace(/\d/g, "");
  const last = Math.max(body.lastIndexOf("."), body.lastIndexOf(","));
  const decimal = Number(`${body.slice(0, Math.max(last, 0)).replace(/[.,]/g, "") || "0"}.${body.slice(last + 1) || "0"}`);
  const whole = Number(body.replace(/[.,]/g, ""));
  if (signs.length === 0) return [whole];
  const groups = body.split(/[.,]/);
  const inThousands = groups.slice(1).every((one) => one.length === 3) && /^[1-9]\d{0,2}$/.test(groups[0] ?? "");
  if (signs.length === 1) return inThousands ? [whole, decimal] : [decimal];
  if (new Set(signs).size === 1) return inThousands ? [whole] : undefined;
  // Both signs: the last one is the decimal sign, the others group.
  const front = body.slice(0, last).split(/[.,]/);
  const grouped = front.slice(1).every((one) => one.length === 3) && !signs.slice(0, -1).includes(signs.at(-1) ?? "");
  return grouped ? [decimal] : undefined;
}

function letters(text: string): string {
  return text.toLowerCase().replace(/²/g, "2").replace(/³/g, "3").replace(/[\s.·*/-]/g, "");
}

function unitOf(text: string, units: readonly Unit[]): string | undefined {
  const typed = letters(text);
  const fits = ({ value, label }: Unit) => [value, label, ...(ALSO[value] ?? [])].some((one) => letters(one) === typed);
  return units.find(fits)?.value;
}

function unknownUnit(text: string, units: readonly Unit[]): string {
  if (units.length === 0) return t("Only a number goes here, not “{{text}}”.", { text });
  return t("“{{text}}” is no unit of this: {{units}}.", { text, units: units.map((one) => one.label).join(", ") });
}

/** A number as this person's place writes it, without grouping and with every digit it has. */
export function writeNumber(value: number, locale?: string): string {
  return value.toLocaleString(locale, { useGrouping: false, maximumFractionDigits: 12 });
}

/** The number that a text is, where it can be only one. */
export function usable(text: string): number | undefined {
  const read = readNumber(text);
  return read.kind === "number" ? read.value : undefined;
}

/** What keeps a text from being one number; undefined where nothing does. */
export function doubt(text: string): string | undefined {
  const read = readNumber(text);
  if (read.kind === "wrong") return read.error;
  if (read.kind !== "either") return undefined;
  return t("{{text}} could be two numbers: write {{values}}.", { text: text.trim(), values: read.values.map((one) => writeNumber(one)).join(" or ") });
}
