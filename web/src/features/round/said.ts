import { saidOf } from "../record/spoken";

/** How a word of a cylinder reads in a sentence, where the field's name before it would be one too many. */
const SHAPES: Record<string, string> = {
  look: "looks {}",
  deposit_colour: "{}",
  deposit_texture: "{}",
  deposit_amount: "{} deposit",
  wetness: "{}",
  wet_with: "with {}",
  smell: "smells of {}",
  seating: "came {}",
  threads: "threads {}",
  outside: "outside {}",
  oil: "oil {}",
  water: "water {}",
  debris: "grit {}",
  combustion_leak: "gas at the well {}",
  centre_electrode: "centre {}",
  ground_electrode: "strap {}",
  crown: "crown {}",
  felt: "cut out: {}",
  escapes: "air goes: {}",
};
/** What "no" is in words; a value that says nothing is left out. */
const NOT: Record<string, string> = { gap_bridged: "gap not bridged", gap_closed: "gap open", coolant_trace: "no coolant" };

/** What stands at a path of a cylinder as a person says it: "came loose", "with fuel", "gap 0.9 mm". */
export function sentence(path: string, value: unknown): string {
  const field = path.slice(path.lastIndexOf("/") + 1);
  if (value === true) return field.replaceAll("_", " ");
  if (value === false) return NOT[field] ?? `not ${field.replaceAll("_", " ")}`;
  return (SHAPES[field] ?? `${field.replaceAll("_", " ")} {}`).replace("{}", saidOf(value));
}
