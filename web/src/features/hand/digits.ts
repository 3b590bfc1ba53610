const TWO_WITHIN_MS = 600;

/** A digit that may still become the first of two. */
export interface Pending {
  digit: number;
  at: number;
}

/** Which cylinder a digit chooses; one right after another makes a number of two, where there is such a one. */
export function chosenBy(digit: number, at: number, cylinders: number, pending: Pending | undefined): number | undefined {
  const both = pending && pending.digit > 0 && at - pending.at < TWO_WITHIN_MS ? pending.digit * 10 + digit : 0;
  if (both > 0 && both <= cylinders) return both;
  return digit >= 1 && digit <= cylinders ? digit : undefined;
}
