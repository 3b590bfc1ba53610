import type { Document } from "../../api/client";
import { valueAt, type Entries } from "../record";
import { saidOf, spoken } from "../record/spoken";

/** What a reading would do to a record: what it fills, and what somebody said otherwise. */
export interface Offer {
  adds: Entries;
  changes: readonly { path: string; from: unknown; to: unknown }[];
}

/** Split a reading into what is empty, which it fills, and what stands, which it would change. */
export function offer(document: Document, reading: Entries): Offer {
  const stands = reading.map(([path, to]) => ({ path, from: valueAt(document, path), to }));
  const open = stands.filter(({ from, to }) => from === undefined && to !== undefined);
  return {
    adds: open.map(({ path, to }) => [path, to] as const),
    changes: stands.filter(({ from, to }) => from !== undefined && JSON.stringify(from) !== JSON.stringify(to)),
  };
}

/** "insulator: cracked nose, now sound" for each of them. */
export function changesInWords({ changes }: Offer): string {
  return changes.map(({ path, from, to }) => `${field(path)}: ${saidOf(from)}, now ${saidOf(to)}`).join("; ");
}

/** "deposit colour black, wetness dry". */
export function addsInWords(adds: Entries): string {
  return adds.map(([path, value]) => `${field(path)} ${saidOf(value)}`).join(", ");
}

function field(path: string): string {
  return spoken(path).split(", ").at(-1) ?? path;
}
