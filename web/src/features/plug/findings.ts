import { DISTANCE_UNITS, LENGTH_UNITS, options, type CylinderRecord, type Group } from "../record";

export type { CylinderRecord } from "../record";
export type PlugRecord = NonNullable<CylinderRecord["plug"]>;
type Well = NonNullable<CylinderRecord["well"]>;
type Word<K extends keyof PlugRecord> = NonNullable<PlugRecord[K]>;

/** Deposit colours as they are drawn, in light and in dark. */
export const DEPOSIT: Record<Word<"deposit_colour">, string> = {
  white: "#f4f3ee",
  grey: "#a9a9a4",
  tan: "#c79a63",
  brown: "#7d5433",
  black: "#26221f",
  red: "#a1503d",
  yellow: "#d8b84c",
  green: "#6f8f5a",
  blue: "#6d86a8",
};

const COLOURS = (Object.keys(DEPOSIT) as (keyof typeof DEPOSIT)[]).map((value) => ({
  value,
  label: value,
  swatch: DEPOSIT[value],
}));
const STANDING = options<NonNullable<Well["oil"]>>("none", "trace", "pooled");

/** Before the plug moves. */
export const WELL: Group = {
  title: "The well",
  fields: [
    { kind: "choice", path: "/cylinders/{n}/well/oil", label: "Oil in the well", options: STANDING,
      hint: "Oil standing here came from above: tube seal or cover gasket, not the rings." },
    { kind: "choice", path: "/cylinders/{n}/well/water", label: "Water in the well", options: STANDING },
    { kind: "choice", path: "/cylinders/{n}/well/debris", label: "Grit in the well",
      options: options<NonNullable<Well["debris"]>>("none", "light", "heavy") },
  ],
};

export const BOOT: Group = {
  title: "Boot and coil",
  fields: [
    { kind: "tags", path: "/cylinders/{n}/boot", label: "Boot",
      options: options<NonNullable<CylinderRecord["boot"]>[number]>("clean", "oily", "cracked", "exhaust-stained", "tracked", "brittle", "seal-torn") },
    { kind: "tags", path: "/cylinders/{n}/coil", label: "Coil",
      options: options<NonNullable<CylinderRecord["coil"]>[number]>("sound", "cracked", "corroded", "connector-broken") },
  ],
};

/** As it comes out. */
export const TURNING: Group = {
  title: "Turning it out",
  fields: [
    { kind: "choice", path: "/cylinders/{n}/plug/seating", label: "How it came loose",
      options: options<Word<"seating">>("loose", "snug", "tight", "over-tight", "seized") },
    { kind: "tags", path: "/cylinders/{n}/plug/threads", label: "Threads",
      options: options<Word<"threads">[number]>("clean", "oily", "anti-seize-heavy", "exhaust-stained", "corroded", "damaged") },
    { kind: "tags", path: "/cylinders/{n}/plug/outside", label: "Outside of the insulator",
      options: options<Word<"outside">[number]>("clean", "oily", "exhaust-stained", "tracked") },
  ],
};

export const FACE: Group = {
  title: "The face",
  fields: [
    { kind: "flag", path: "/cylinders/{n}/plug/look", label: "Looks fine, not gone through word by word", says: "fine" },
    { kind: "choice", path: "/cylinders/{n}/plug/deposit_colour", label: "Deposit colour", options: COLOURS },
    { kind: "choice", path: "/cylinders/{n}/plug/deposit_texture", label: "Deposit texture",
      options: options<Word<"deposit_texture">>("clean", "powder", "crust", "glaze", "flake", "speckled", "blistered") },
    { kind: "choice", path: "/cylinders/{n}/plug/deposit_amount", label: "Deposit amount",
      options: options<Word<"deposit_amount">>("none", "light", "moderate", "heavy") },
    { kind: "choice", path: "/cylinders/{n}/plug/wetness", label: "Wet or dry",
      options: options<Word<"wetness">>("dry", "damp", "wet") },
    { kind: "choice", path: "/cylinders/{n}/plug/wet_with", label: "Wet with what",
      options: options<Word<"wet_with">>("fuel", "oil", "coolant", "water", "premix", "unknown"),
      hint: "Fuel is thin, smells and dries off. Oil is greasy and stays." },
    { kind: "choice", path: "/cylinders/{n}/plug/smell", label: "Smell",
      options: options<Word<"smell">>("none", "fuel", "stale-fuel", "oil") },
  ],
};

export const CLEANED: Group = {
  title: "And then",
  fields: [
    { kind: "choice", path: "/cylinders/{n}/plug/cleaned", label: "Cleaned after it was read",
      options: options<Word<"cleaned">>("not", "wiped", "solvent", "brushed"),
      hint: "Read it first: what is wiped away is seen once." },
    { kind: "text", path: "/cylinders/{n}/note", label: "Note" },
  ],
};

export const ELECTRODE: Group = {
  title: "Electrodes and insulator",
  fields: [
    { kind: "choice", path: "/cylinders/{n}/plug/centre_electrode", label: "Centre electrode",
      options: options<Word<"centre_electrode">>("square", "rounded", "eroded", "melted") },
    { kind: "choice", path: "/cylinders/{n}/plug/ground_electrode", label: "Ground electrode",
      options: options<Word<"ground_electrode">>("square", "rounded", "thinned", "missing", "bent", "melted"),
      hint: "Missing: find the piece before the engine turns." },
    { kind: "choice", path: "/cylinders/{n}/plug/insulator", label: "Insulator",
      options: options<Word<"insulator">>("sound", "cracked-nose", "cracked-body", "chipped", "blistered", "flashover") },
    { kind: "flag", path: "/cylinders/{n}/plug/gap_bridged", label: "Gap bridged" },
    { kind: "flag", path: "/cylinders/{n}/plug/gap_closed", label: "Gap closed up" },
  ],
};

export const ITSELF: Group = {
  title: "The plug itself",
  fields: [
    { kind: "quantity", path: "/cylinders/{n}/plug/gap_passes", label: "Thickest blade that passes", units: LENGTH_UNITS },
    { kind: "quantity", path: "/cylinders/{n}/plug/gap_refuses", label: "Thinnest that does not", units: LENGTH_UNITS },
    { kind: "choice", path: "/cylinders/{n}/plug/type_match", label: "Type against the specification",
      options: options<Word<"type_match">>("as-specified", "wrong-reach", "wrong-heat-range", "wrong-seat", "mixed-set") },
    { kind: "text", path: "/cylinders/{n}/plug/part", label: "Part number on the shell" },
    { kind: "quantity", path: "/cylinders/{n}/plug/distance", label: "Distance on this plug, if it differs", units: DISTANCE_UNITS },
  ],
};
