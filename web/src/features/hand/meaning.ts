import { t } from "../../language";
import { isTyping } from "../../primitives/typing";
import { RESERVED } from "../round";
import { STEPS } from "./steps";

/** What a key asks for. */
export type Meaning =
  | { do: "digit"; digit: number }
  | { do: "step"; key: string }
  | { do: "turn"; by: 1 | -1 }
  | { do: "walk"; by: 1 | -1 }
  | { do: "answer"; key: string }
  | { do: "next" | "same" | "alike" | "figure" | "details" | "undo" | "redo" | "leave" | "help" | "say" | "aloud" };

/** A key as the browser tells it. */
export type Key = Pick<KeyboardEvent, "key" | "shiftKey" | "ctrlKey" | "metaKey" | "altKey">;

/** Where the keyboard is when a key comes. */
export type Where = "typing" | "elsewhere" | "words" | "button" | "page";

/** What stands in a place of its own: the header's buttons, links, questions. */
export function whereOf(target: EventTarget | null): Where {
  if (isTyping(target)) return "typing";
  if (!(target instanceof HTMLElement)) return "page";
  if (target.closest("header, footer, a, dialog, summary")) return "elsewhere";
  if (target.closest("[role=radiogroup], [role=group], [role=tablist], [role=toolbar]")) return "words";
  return target.matches("button, input, [role=button]") ? "button" : "page";
}

const NAMED: Record<string, Meaning> = {
  "=": { do: "same" },
  "+": { do: "alike" },
  "?": { do: "help" },
  "/": { do: "say" },
  ",": { do: "aloud" },
  [RESERVED.figure]: { do: "figure" },
  [RESERVED.details]: { do: "details" },
  [RESERVED.undo]: { do: "undo" },
};
const ARROWS: Record<string, 1 | -1> = { ArrowRight: 1, ArrowLeft: -1 };

/**
 * The one table of what keys mean. Into a text or number field every key is typed; digits choose a
 * cylinder everywhere else; letters act in the step alone, and only where single keys are on.
 */
export function meaningOf(key: Key, where: Where, singleKeys: boolean): Meaning | undefined {
  if (where === "typing") return undefined;
  if ((key.ctrlKey || key.metaKey) && !key.altKey && key.key.toLowerCase() === RESERVED.undo) return { do: key.shiftKey ? "redo" : "undo" };
  if (key.ctrlKey || key.metaKey || key.altKey) return undefined;
  const by = ARROWS[key.key];
  if (by && key.shiftKey && where !== "elsewhere") return { do: "turn", by };
  if (by && (where === "page" || where === "button")) return { do: "walk", by };
  if (key.key === "Backspace" && where !== "elsewhere") return { do: "walk", by: -1 };
  if (key.key === "Enter" && where === "page") return { do: "next" };
  if (key.key === "Escape") return { do: "leave" };
  if (!singleKeys) return undefined;
  if (/^\d$/.test(key.key)) return { do: "digit", digit: Number(key.key) };
  if (where === "elsewhere") return key.key === "?" ? { do: "help" } : undefined;
  // A locked Shift turns letters round: what counts is the key that is held.
  const letter = key.key.toLowerCase();
  if (letter === RESERVED.undo && key.shiftKey) return { do: "redo" };
  if (/^[a-z]$/.test(letter) && key.shiftKey) return STEPS.some((step) => step.key === letter) ? { do: "step", key: letter } : undefined;
  return NAMED[letter] ?? (/^[a-z]$/.test(letter) ? { do: "answer", key: letter } : undefined);
}

/** The keys that mean the same everywhere, as the page of keys tells them. */
export const GENERAL_KEYS: readonly (readonly [keys: string, what: string])[] = [
  ["1 to 9", t("that cylinder; two digits in quick succession from ten up. Not while you type into a field")],
  ["Enter", t("finish a field and go on; in a round, the next cylinder; where all were seen, the next step")],
  ["→ ←", t("one cylinder on, or back, in the order of this job; Backspace goes back too")],
  ["Esc", t("leave a field, or leave what a key would change as it stands")],
  ["=", t("as the last one: what this round shows of the cylinder before")],
  ["+", t("the rest alike: I looked at each")],
  ["g", t("into the round's number")],
  ["d", t("word by word: every other word of this round")],
  ["z", t("undo, also after the page was loaded again; Ctrl and z does the same")],
  [t("Shift and z"), t("what was undone, once more")],
  [t("Shift and → ←"), t("to the next step or part, or the one before")],
  ["/", t("say it: a line of plain English, typed or dictated")],
  [",", t("read back aloud what is entered, where the hand is, and what surprises; once more: be still")],
  ["?", t("this page")],
];
