import { useSyncExternalStore } from "react";

const WIDE = matchMedia("(min-width: 64rem)");

function subscribe(listener: () => void): () => void {
  WIDE.addEventListener("change", listener);
  return () => WIDE.removeEventListener("change", listener);
}

/** Whether there is room for two columns: the same border as the styles' `lg`. */
export function useWide(): boolean {
  return useSyncExternalStore(subscribe, () => WIDE.matches);
}
