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

const ORDER = "fiacre-order";
let last = 0;

/** Greater than any that a page of this device got before, also where its clock was set back. */
export function nextInOrder(): number {
  try {
    last = Math.max(last, Number(localStorage.getItem(ORDER)) || 0);
  } catch {
    // Without its storage the page counts for itself.
  }
  last = Math.max(last + 1, Date.now());
  try {
    localStorage.setItem(ORDER, String(last));
  } catch {
    // As above.
  }
  return last;
}
