const STORE = "fiacre-device";
let here: string | undefined;

/** Which device this is: made once, so that its own entries are never taken for somebody else's. */
export function device(): string {
  if (here) return here;
  try {
    here = localStorage.getItem(STORE) ?? undefined;
    if (!here) localStorage.setItem(STORE, (here = crypto.randomUUID()));
  } catch {
    // A browser that keeps nothing is another device each time.
    here ??= crypto.randomUUID();
  }
  return here;
}
