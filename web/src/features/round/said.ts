import { t, wordSaid } from "../../language";
import { saidOf } from "../record/spoken";

/** How a word of a cylinder reads in a sentence, where the field's name before it would be one too many. */
const SHAPES: Record<string, string> = {
  look: t("looks {}"),
  deposit_colour: "{}",
  deposit_texture: "{}",
  deposit_amount: t("{} deposit"),
  wetness: "{}",
  wet_with: t("with {}"),
  smell: t("smells of {}"),
  seating: t("came {}"),
  threads: t("threads {}"),
  outside: t("outside {}"),
  oil: t("oil {}"),
  water: t("water {}"),
  debris: t("grit {}"),
  combustion_leak: t("gas at the well {}"),
  centre_electrode: t("centre {}"),
  ground_electrode: t("strap {}"),
  crown: t("crown {}"),
  felt: t("cut out: {}"),
  escapes: t("air goes: {}"),
};
/** What "no" is in words; a value that says nothing is left out. */
const NOT: Record<string, string> = { gap_bridged: t("gap not bridged"), gap_closed: t("gap open"), coolant_trace: t("no coolant") };

/** What stands at a path of a cylinder as a person says it: "came loose", "with fuel", "gap 0.9 mm". */
export function sentence(path: string, value: unknown): string {
  const field = path.slice(path.lastIndexOf("/") + 1);
  if (value === true) return wordSaid(field);
  if (value === false) return NOT[field] ?? t("not {{field}}", { field: wordSaid(field) });
  return (SHAPES[field] ?? `${wordSaid(field)} {}`).replace("{}", saidOf(value));
}
