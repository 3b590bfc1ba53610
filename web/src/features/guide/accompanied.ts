import { choose, useChoice } from "../../storage/choice";

const STORE = "fiacre-accompany";

/** Whether this device's people are told what to do now, and why; and how to change that. */
export function useAccompanied(): readonly [boolean, (on: boolean) => void] {
  return [useChoice(STORE) === "on", (next) => choose(STORE, next ? "on" : "off")];
}

/** Who has not inspected anything yet is accompanied, until they say that they know their way. */
export function accompanyTheFirst(): void {
  if (localStorage.getItem(STORE) === null) choose(STORE, "on");
}
