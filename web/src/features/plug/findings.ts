import { LENGTH_UNITS, options, type CylinderRecord, type Entries, type Group, DISTANCE_UNITS } from "../record";

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
  title: "The well and the boot",
  caution: "Look before the plug moves, then blow the well out: eyes covered, nothing may fall in.",
  fields: [
    { kind: "choice", path: "/cylinders/{n}/well/oil", label: "Oil in the well", options: STANDING,
      hint: "Oil standing here came from above: tube seal or cover gasket, not the rings." },
    { kind: "choice", path: "/cylinders/{n}/well/water", label: "Water in the well", options: STANDING },
    { kind: "choice", path: "/cylinders/{n}/well/debris", label: "Grit in the well",
      options: options<NonNullable<Well["debris"]>>("none", "light", "heavy") },
    { kind: "tags", path: "/cylinders/{n}/boot", label: "Boot",
      options: options<NonNullable<CylinderRecord["boot"]>[number]>("clean", "oily", "cracked", "exhaust-stained", "tracked", "brittle", "seal-torn") },
    { kind: "tags", path: "/cylinders/{n}/coil", label: "Coil",
      options: options<NonNullable<CylinderRecord["coil"]>[number]>("sound", "cracked", "corroded", "connector-broken") },
    { kind: "choice", path: "/cylinders/{n}/plug/seating", label: "How it came loose",
      options: options<Word<"seating">>("loose", "snug", "tight", "over-tight", "seized"),
      hint: "Seized: stop, penetrate, work it both ways." },
    { kind: "tags", path: "/cylinders/{n}/plug/threads", label: "Threads",
      options: options<Word<"threads">[number]>("clean", "oily", "anti-seize-heavy", "exhaust-stained", "corroded", "damaged") },
    { kind: "tags", path: "/cylinders/{n}/plug/outside", label: "Outside of the insulator",
      options: options<Word<"outside">[number]>("clean", "oily", "exhaust-stained", "tracked") },
  ],
};

export const FIRING_END: Group = {
  title: "The firing end",
  fields: [
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
    { kind: "choice", path: "/cylinders/{n}/plug/insulator", label: "Insulator",
      options: options<Word<"insulator">>("sound", "cracked-nose", "cracked-body", "chipped", "blistered", "flashover") },
    { kind: "choice", path: "/cylinders/{n}/plug/centre_electrode", label: "Centre electrode",
      options: options<Word<"centre_electrode">>("square", "rounded", "eroded", "melted") },
    { kind: "choice", path: "/cylinders/{n}/plug/ground_electrode", label: "Ground electrode",
      options: options<Word<"ground_electrode">>("square", "rounded", "thinned", "missing", "bent", "melted"),
      hint: "Missing: find the piece before the engine turns." },
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
    { kind: "text", path: "/cylinders/{n}/note", label: "Note" },
  ],
};

export interface Reading {
  key: string;
  label: string;
  /** What to look for; what tells it from its look-alike. */
  tell: string;
  /** What it records, by path within the cylinder. */
  sets: Entries;
}

const FACE = ["plug/deposit_colour", "plug/deposit_texture", "plug/deposit_amount", "plug/wetness", "plug/wet_with"] as const;

/** What a face says, and nothing that it does not show; undefined leaves a field as it is. */
function face(...values: readonly (string | undefined)[]): Entries {
  return FACE.map((path, index) => [path, values[index]] as const).filter(([, value]) => value !== undefined);
}

/** Whole readings in one act, each with its key: the sound one first, then what is seen most. */
export const READINGS: readonly Reading[] = [
  { key: "n", label: "Looks fine", tell: "nothing remarkable, not gone through word by word", sets: [["plug/look", "fine"]] },
  { key: "t", label: "Tan, dry", tell: "tan to light brown, thin, dry", sets: face("tan", undefined, "light", "dry") },
  { key: "s", label: "Sooty", tell: "black, dry, rubs off as powder", sets: face("black", "powder", "moderate", "dry") },
  { key: "f", label: "Wet with fuel", tell: "thin, smells, dries off while you look", sets: face("black", undefined, "light", "wet", "fuel") },
  { key: "o", label: "Wet with oil", tell: "greasy, stays wet, hardly smells", sets: face("black", undefined, "moderate", "wet", "oil") },
  { key: "q", label: "Wet, with what?", tell: "black and wet and not sure: both stay open", sets: face("black", undefined, "moderate", "wet", "unknown") },
  { key: "a", label: "Ash crust", tell: "right colour, but crusty and pale", sets: face("grey", "crust", "moderate", "dry") },
  { key: "h", label: "Hot", tell: "glazed or blistered white, not merely pale", sets: face("white", "glaze", "none", "dry") },
  { key: "k", label: "Washed clean", tell: "steam-clean among browned ones: coolant?", sets: face("white", "clean", "none", "damp", "coolant") },
  { key: "w", label: "Worn edges", tell: "both electrodes rounded, not melted",
    sets: [["plug/centre_electrode", "rounded"], ["plug/ground_electrode", "rounded"]] },
  { key: "c", label: "Nose cracked", tell: "a hairline that stays when wiped", sets: [["plug/insulator", "cracked-nose"]] },
  { key: "b", label: "Gap bridged", tell: "something lodged across the gap", sets: [["plug/gap_bridged", true]] },
  { key: "m", label: "Strap missing", tell: "then where is the piece?", sets: [["plug/ground_electrode", "missing"]] },
  { key: "l", label: "Came loose", tell: "no effort at all to turn it out", sets: [["plug/seating", "loose"]] },
  { key: "e", label: "Oil in the well", tell: "stood there before the plug moved", sets: [["well/oil", "pooled"]] },
];

/** What "same as the last one" takes over: everything that was seen, nothing that was measured. */
export function sameAs(record: CylinderRecord): Entries {
  const { gap, gap_passes, gap_refuses, distance, part, ...seen } = record.plug ?? {};
  void [gap, gap_passes, gap_refuses, distance, part];
  const plug = Object.entries(seen).map(([field, value]) => [`plug/${field}`, value] as const);
  const well = Object.entries(record.well ?? {}).map(([field, value]) => [`well/${field}`, value] as const);
  return [...well, ...plug];
}

/** A plug that shows nothing but one reading, for drawing it. */
export function drawnAs(reading: Reading): PlugRecord {
  const drawn: Record<string, unknown> = {};
  const shown: Entries = [...face("tan", "powder", "light", "dry"), ["plug/ground_electrode", "square"], ["plug/centre_electrode", "square"], ...reading.sets];
  for (const [path, value] of shown) {
    const [group, field] = path.split("/");
    if (group === "plug" && field) drawn[field] = value;
  }
  return drawn as PlugRecord;
}
