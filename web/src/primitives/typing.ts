const NOT_TYPED = ["checkbox", "radio", "button", "submit", "reset", "file", "range", "color"];

/** Whether a key goes into a text or a number: only there are digits and letters not the page's. */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement) return !NOT_TYPED.includes(target.type);
  return target.isContentEditable || target.matches("select, textarea");
}

/** Leave a field: the keyboard goes back to the step it stands in, never to nowhere. */
export function leave(field: HTMLElement): void {
  const step = field.closest<HTMLElement>("[role=tabpanel], form, main");
  if (step && step.tabIndex >= -1 && step.hasAttribute("tabindex")) step.focus({ preventScroll: true });
  else field.blur();
}
