import type { Document } from "../../api/client";
import type { Option } from "../../primitives/Choice";

export type CylinderRecord = NonNullable<Document["cylinders"]>[number];
export type PlugRecord = NonNullable<CylinderRecord["plug"]>;
type Well = NonNullable<CylinderRecord["well"]>;

/** Deposit colours as they are drawn, in light and in dark. */
export const DEPOSIT: Record<NonNullable<PlugRecord["deposit_colour"]>, string> = {
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

function options<V extends string>(...words: readonly V[]): readonly Option<V>[] {
  return words.map((value) => ({ value, label: value.replaceAll("-", " ") }));
}

export const WELL_OIL = options<NonNullable<Well["oil"]>>("none", "trace", "pooled");
export const SEATING = options<NonNullable<PlugRecord["seating"]>>(
  "loose", "snug", "tight", "over-tight", "seized",
);
export const COLOUR = (Object.keys(DEPOSIT) as (keyof typeof DEPOSIT)[]).map((value) => ({
  value,
  label: value,
  swatch: DEPOSIT[value],
}));
export const TEXTURE = options<NonNullable<PlugRecord["deposit_texture"]>>(
  "clean", "powder", "crust", "glaze", "flake", "speckled", "blistered",
);
export const AMOUNT = options<NonNullable<PlugRecord["deposit_amount"]>>(
  "none", "light", "moderate", "heavy",
);
export const WETNESS = options<NonNullable<PlugRecord["wetness"]>>("dry", "damp", "wet");
export const WET_WITH = options<NonNullable<PlugRecord["wet_with"]>>(
  "fuel", "oil", "coolant", "water", "premix", "unknown",
);
export const INSULATOR = options<NonNullable<PlugRecord["insulator"]>>(
  "sound", "cracked-nose", "cracked-body", "chipped", "blistered", "flashover",
);
export const CENTRE = options<NonNullable<PlugRecord["centre_electrode"]>>(
  "square", "rounded", "eroded", "melted",
);
export const GROUND = options<NonNullable<PlugRecord["ground_electrode"]>>(
  "square", "rounded", "thinned", "missing", "bent", "melted",
);
export const YES_NO = [
  { value: "no", label: "no" },
  { value: "yes", label: "yes" },
] as const;
export const LENGTH_UNITS = options<"mm" | "in" | "thou">("mm", "in", "thou");

/** The sound reading, set in one act; exceptions after. */
export const NORMAL: readonly (readonly [string, unknown])[] = [
  ["well/oil", "none"],
  ["plug/seating", "tight"],
  ["plug/deposit_colour", "tan"],
  ["plug/deposit_texture", "powder"],
  ["plug/deposit_amount", "light"],
  ["plug/wetness", "dry"],
  ["plug/insulator", "sound"],
  ["plug/centre_electrode", "square"],
  ["plug/ground_electrode", "square"],
  ["plug/gap_bridged", false],
];

const MILLIMETRES = { mm: 1, in: 25.4, thou: 0.0254 };

/** For drawing only; the core converts what is computed with. */
export function drawnMillimetres(gap: { value: number; unit: string }): number {
  return gap.value * (MILLIMETRES[gap.unit as keyof typeof MILLIMETRES] ?? 1);
}
