import { createContext, useContext, useMemo, useRef, useState, useSyncExternalStore } from "react";

/**
 * What was half typed: kept on the device field by field, until it is said or emptied, so that neither
 * a change of step nor the end of the page takes it. Keyed by the person and the record it belongs to.
 */
const PREFIX = "fiacre-draft ";
const memory = new Map<string, string>();
const listeners = new Set<() => void>();

try {
  for (const key of Object.keys(localStorage)) {
    if (key.startsWith(PREFIX)) memory.set(key.slice(PREFIX.length), localStorage.getItem(key) ?? "");
  }
} catch {
  // A browser that keeps nothing keeps drafts as long as the page.
}

function keepDraft(key: string, text: string | undefined): void {
  if (memory.get(key) === text) return;
  if (text === undefined) memory.delete(key);
  else memory.set(key, text);
  try {
    if (text === undefined) localStorage.removeItem(PREFIX + key);
    else localStorage.setItem(PREFIX + key, text);
  } catch {
    // As above.
  }
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Whose drafts, and of what: "person record". Outside of one, drafts live as long as their field. */
export const DraftScope = createContext<string | undefined>(undefined);

export interface Draft {
  /** What is half typed; undefined while the field shows what is recorded. */
  text: string | undefined;
  /** The same at this very moment, whatever was drawn last. */
  now: () => string | undefined;
  set: (text: string | undefined) => void;
}

/** What is half typed in the field of a name. */
export function useDraft(name: string): Draft {
  const scope = useContext(DraftScope);
  const key = scope === undefined ? undefined : `${scope} ${name}`;
  const [own, setOwn] = useState<string | undefined>();
  const latest = useRef<string | undefined>(undefined);
  const kept = useSyncExternalStore(subscribe, () => (key === undefined ? undefined : memory.get(key)));
  return useMemo(
    () => ({
      text: key === undefined ? own : kept,
      now: () => (key === undefined ? latest.current : memory.get(key)),
      set: (text) => {
        if (key !== undefined) return keepDraft(key, text);
        latest.current = text;
        setOwn(text);
      },
    }),
    [key, own, kept],
  );
}

/** How many fields of a record are half typed. */
export function useDrafts(): number {
  const scope = useContext(DraftScope);
  return useSyncExternalStore(subscribe, () =>
    scope === undefined ? 0 : [...memory.keys()].filter((key) => key.startsWith(`${scope} `)).length,
  );
}
