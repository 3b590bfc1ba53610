import { t } from "../../language";
import type { Document } from "../../api/client";
import type { Entries } from "./fields";

const CODE = /[PBCU][0-3][0-9A-F]{3}/g;
/** Typed code by code, as far as they go: what is wrong with one is the field's to say. */
const TYPED = /^\s*([A-Z]?[0-9A-F]{1,5}[\s,;]*)*$/;
const COUNT = /CYL(?:INDER)?\.?\s*#?\s*(\d{1,2})\s*:?\s*MISFIRES?\s*(?:COUNTS?|COUNTER)?\s*[:=]?\s*(\d{1,9})(?!\w)/g;
const MOST_NOTE = 4000;

/**
 * A scan tool's text as it was pasted: its codes, misfires counted by cylinder, and the rest of it kept
 * in the note, so that nothing of it is lost.
 */
export function fromScanTool(document: Document, path: string, text: string): Entries {
  const said = text.toUpperCase();
  if (TYPED.test(said)) return [[path, said.trim() === "" ? undefined : said.trim().split(/[\s,;]+/)]];
  const codes = [...new Set(said.match(CODE))];
  const counts = [...said.matchAll(COUNT)].map((found) => [Number(found[1]), Number(found[2])] as const);
  const note = [document.inspection?.note, t("Scan tool: {{text}}", { text: text.trim() })].filter(Boolean).join("\n").slice(0, MOST_NOTE);
  return [
    ...(codes.length > 0 ? [[path, codes] as const] : []),
    ...counts
      .filter(([cylinder]) => cylinder >= 1 && cylinder <= document.engine.cylinders)
      .map(([cylinder, count]) => [`/tests/misfires/${cylinder}/count`, count] as const),
    ["/inspection/note", note] as const,
  ];
}
