const STORE = "fiacre-device";

/** Which device this is: made once, so that its own entries are never taken for somebody else's. */
export function device(): string {
  const known = localStorage.getItem(STORE);
  if (known) return known;
  const made = crypto.randomUUID();
  localStorage.setItem(STORE, made);
  return made;
}
