import { choose, useChoice } from "../../storage/choice";

const STORE = "fiacre-single-keys";

/** Whether a letter or digit alone does something (WCAG 2.1.4): on, unless a person switched it off here. */
export function useSingleKeys(): readonly [boolean, (on: boolean) => void] {
  return [useChoice(STORE) !== "off", (next) => choose(STORE, next ? "on" : "off")];
}
