import { useSyncExternalStore } from "react";

const STORE = "fiacre-single-keys";
const listeners = new Set<() => void>();

function on(): boolean {
  return localStorage.getItem(STORE) !== "off";
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Whether a letter or digit alone does something (WCAG 2.1.4): on, unless a person switched it off here. */
export function useSingleKeys(): readonly [boolean, (on: boolean) => void] {
  const now = useSyncExternalStore(subscribe, on);
  return [
    now,
    (next) => {
      if (next) localStorage.removeItem(STORE);
      else localStorage.setItem(STORE, "off");
      for (const listener of listeners) listener();
    },
  ];
}
