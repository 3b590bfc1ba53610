import { t } from "../../language";
import type { Document } from "../../api/client";
import { ALONE } from "../../primitives/alone";
import { valueAt, type Entries } from "../record";
import { saidOf, spoken } from "../record/spoken";
import { sentence } from "./said";

/** What a reading would do to a record: what it fills, and what somebody said otherwise. */
export interface Offer {
  adds: Entries;
  changes: readonly { path: string; from: unknown; to: unknown }[];
}

/** Split a reading into what is empty, which it fills, and what stands, which it would change. */
export function offer(document: Document, reading: Entries): Offer {
  const adds: (readonly [string, unknown])[] = [];
  const changes: Offer["changes"][number][] = [];
  for (const [path, to] of reading) {
    const from = valueAt(document, path);
    if (to === undefined || JSON.stringify(from) === JSON.stringify(to)) continue;
    const joined = joins(from, to);
    if (from === undefined) adds.push([path, to]);
    else if (joined === undefined) changes.push({ path, from, to });
    else if (joined.length > (from as readonly string[]).length) adds.push([path, joined]);
  }
  return { adds, changes };
}

/** A list with the words that join it; undefined where they cannot stand together. */
function joins(from: unknown, to: unknown): readonly string[] | undefined {
  if (!Array.isArray(from) || !Array.isArray(to)) return undefined;
  const stand = from as readonly string[];
  const come = (to as readonly string[]).filter((word) => !stand.includes(word));
  return [...stand, ...come].some((word) => ALONE.has(word)) && come.length > 0 ? undefined : [...stand, ...come];
}

/** "insulator: cracked nose, now sound" for each of them. */
export function changesInWords({ changes }: Offer): string {
  return changes.map(({ path, from, to }) => t("{{path}}: {{from}}, now {{to}}", { path: field(path), from: saidOf(from), to: saidOf(to) })).join("; ");
}

/** "black, dry, strap missing". */
export function addsInWords(adds: Entries): string {
  return adds.map(([path, value]) => sentence(path, value)).join(", ");
}

function field(path: string): string {
  return spoken(path).split(", ").at(-1) ?? path;
}
