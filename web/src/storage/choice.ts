import { useSyncExternalStore } from "react";

const listeners = new Set<() => void>();

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Keep a choice of this device; every place that shows it follows. */
export function choose(name: string, value: string): void {
  localStorage.setItem(name, value);
  for (const listener of listeners) listener();
}

/** A choice of this device, null where none was made. */
export function useChoice(name: string): string | null {
  return useSyncExternalStore(subscribe, () => localStorage.getItem(name));
}
