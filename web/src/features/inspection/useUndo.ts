import { useCallback, useEffect, useState } from "react";
import type { Document } from "../../api/client";
import { valueAt, type Entries } from "../record";
import { followed, NUMBERING } from "./fold";

/** Something that was said, and what takes it back; in the numbers that the cylinders had then. */
export interface Done {
  said: Entries;
  stood: Entries;
  numbering: readonly number[];
}

interface Kept {
  done: readonly Done[];
  undone: readonly Done[];
}

const PREFIX = "fiacre-undo ";
const MOST = 60;
const NOTHING: Kept = { done: [], undone: [] };

export interface Undo {
  note: (done: Done) => void;
  /** What takes the last thing back, in today's numbers; undefined where there is none. */
  undo: ((document: Document, numbering: readonly number[]) => Entries) | undefined;
  /** What says it again. */
  redo: ((numbering: readonly number[]) => Entries) | undefined;
}

/** What was said here, the last of it first to be taken back: kept on the device, so that a new page knows it too. */
export function useUndo(owner: string | undefined): Undo {
  const [kept, keep] = useState<Kept>(() => read(owner));
  const [of, setOf] = useState(owner);
  if (of !== owner) {
    setOf(owner);
    keep(read(owner));
  }
  useEffect(() => write(owner, kept), [owner, kept]);
  const { done, undone } = kept;
  const last = done.at(-1);
  const again = undone.at(-1);
  return {
    note: useCallback((one: Done) => keep((known) => ({ done: [...known.done, one].slice(-MOST), undone: [] })), []),
    undo:
      last &&
      ((document, numbering) => {
        keep({ done: done.slice(0, -1), undone: [...undone, last] });
        return stillOwn(document, numbering, last);
      }),
    redo:
      again &&
      ((numbering) => {
        keep({ done: [...done, again], undone: undone.slice(0, -1) });
        return now(again.said, again, numbering);
      }),
  };
}

/** What takes back that which stands as it was said, or as before it; what somebody changed since is left to them. */
export function stillOwn(document: Document, numbering: readonly number[], done: Done): Entries {
  const [said, stood] = [now(done.said, done, numbering), now(done.stood, done, numbering)];
  const before = new Map(stood);
  const changed = said
    .filter(([path, value]) => path !== NUMBERING && ![value, before.get(path)].some((one) => same(valueAt(document, path), one)))
    .map(([path]) => path);
  return stood.filter(([path]) => !changed.some((one) => one === path || one.startsWith(`${path}/`)));
}

/** Entries in today's numbers; which numbers there are is said as it was. */
function now(entries: Entries, { numbering }: Done, after: readonly number[]): Entries {
  return entries.map(([path, value]) => (path === NUMBERING ? ([path, value] as const) : followed({ path, value, numbering }, after)));
}

function same(one: unknown, other: unknown): boolean {
  return JSON.stringify(one ?? null) === JSON.stringify(other ?? null);
}

function read(owner: string | undefined): Kept {
  try {
    return owner === undefined ? NOTHING : { ...NOTHING, ...(JSON.parse(localStorage.getItem(PREFIX + owner) ?? "{}") as Partial<Kept>) };
  } catch {
    return NOTHING;
  }
}

function write(owner: string | undefined, kept: Kept): void {
  if (owner === undefined) return;
  try {
    if (kept.done.length + kept.undone.length === 0) localStorage.removeItem(PREFIX + owner);
    else localStorage.setItem(PREFIX + owner, JSON.stringify(kept));
  } catch {
    // A browser that keeps nothing knows it as long as the page.
  }
}
