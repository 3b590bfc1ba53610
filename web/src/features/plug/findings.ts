import { t } from "../../language";
import { PLUG_TONES, PLUG_WORDS } from "../../api/contract.generated";
import type { Option } from "../../primitives/Choice";
import { DISTANCE_UNITS, LENGTH_UNITS, options, type CylinderRecord, type Group } from "../record";

export type { CylinderRecord } from "../record";
export type PlugRecord = NonNullable<CylinderRecord["plug"]>;
type Well = NonNullable<CylinderRecord["well"]>;

/** A field's words, as its answers are offered. */
function words(field: keyof typeof PLUG_WORDS): readonly Option<string>[] {
  const tones: Record<string, string> = field === "deposit_colour" ? PLUG_TONES.deposit_colour : {};
  return Object.entries(PLUG_WORDS[field]).map(([value, label]) => ({ value, label, swatch: tones[value] }));
}

const STANDING = options<NonNullable<Well["oil"]>>("none", "trace", "pooled");

/** Before the plug moves. */
export const WELL: Group = {
  title: t("The well"),
  fields: [
    { kind: "choice", path: "/cylinders/{n}/well/oil", label: t("Oil in the well"), options: STANDING,
      hint: t("Oil standing here came from above: tube seal or cover gasket, not the rings.") },
    { kind: "choice", path: "/cylinders/{n}/well/water", label: t("Water in the well"), options: STANDING },
    { kind: "choice", path: "/cylinders/{n}/well/debris", label: t("Grit in the well"),
      options: options<NonNullable<Well["debris"]>>("none", "light", "heavy") },
  ],
};

export const BOOT: Group = {
  title: t("Boot and coil"),
  fields: [
    { kind: "tags", path: "/cylinders/{n}/boot", label: t("Boot"),
      options: options<NonNullable<CylinderRecord["boot"]>[number]>("clean", "oily", "cracked", "exhaust-stained", "tracked", "brittle", "seal-torn") },
    { kind: "tags", path: "/cylinders/{n}/coil", label: t("Coil"),
      options: options<NonNullable<CylinderRecord["coil"]>[number]>("sound", "cracked", "corroded", "connector-broken") },
  ],
};

/** As it comes out. */
export const TURNING: Group = {
  title: t("Turning it out"),
  fields: [
    { kind: "choice", path: "/cylinders/{n}/plug/seating", label: t("How it came loose"),
      options: words("seating") },
    { kind: "tags", path: "/cylinders/{n}/plug/threads", label: t("Threads"),
      options: words("threads") },
    { kind: "tags", path: "/cylinders/{n}/plug/outside", label: t("Outside of the insulator"),
      options: words("outside") },
  ],
};

export const FACE: Group = {
  title: t("The face"),
  fields: [
    { kind: "flag", path: "/cylinders/{n}/plug/look", label: t("Looks fine, not gone through word by word"), says: t("fine") },
    { kind: "choice", path: "/cylinders/{n}/plug/deposit_colour", label: t("Deposit colour"), options: words("deposit_colour") },
    { kind: "choice", path: "/cylinders/{n}/plug/deposit_texture", label: t("Deposit texture"),
      options: words("deposit_texture") },
    { kind: "choice", path: "/cylinders/{n}/plug/deposit_amount", label: t("Deposit amount"),
      options: words("deposit_amount") },
    { kind: "choice", path: "/cylinders/{n}/plug/wetness", label: t("Wet or dry"),
      options: words("wetness") },
    { kind: "choice", path: "/cylinders/{n}/plug/wet_with", label: t("Wet with what"),
      options: words("wet_with"),
      hint: t("Fuel is thin, smells and dries off. Oil is greasy and stays.") },
    { kind: "choice", path: "/cylinders/{n}/plug/smell", label: t("Smell"),
      options: words("smell") },
  ],
};

export const CLEANED: Group = {
  title: t("And then"),
  fields: [
    { kind: "choice", path: "/cylinders/{n}/plug/cleaned", label: t("Cleaned after it was read"),
      options: words("cleaned"),
      hint: t("Read it first: what is wiped away is seen once.") },
    { kind: "text", path: "/cylinders/{n}/note", label: t("Note") },
  ],
};

export const ELECTRODE: Group = {
  title: t("Electrodes and insulator"),
  fields: [
    { kind: "choice", path: "/cylinders/{n}/plug/centre_electrode", label: t("Centre electrode"),
      options: words("centre_electrode") },
    { kind: "choice", path: "/cylinders/{n}/plug/ground_electrode", label: t("Ground electrode"),
      options: words("ground_electrode"),
      hint: t("Missing: find the piece before the engine turns.") },
    { kind: "choice", path: "/cylinders/{n}/plug/insulator", label: t("Insulator"),
      options: words("insulator") },
    { kind: "flag", path: "/cylinders/{n}/plug/gap_bridged", label: t("Gap bridged") },
    { kind: "flag", path: "/cylinders/{n}/plug/gap_closed", label: t("Gap closed up") },
  ],
};

export const ITSELF: Group = {
  title: t("The plug itself"),
  fields: [
    { kind: "quantity", path: "/cylinders/{n}/plug/gap_passes", label: t("Thickest blade that passes"), units: LENGTH_UNITS },
    { kind: "quantity", path: "/cylinders/{n}/plug/gap_refuses", label: t("Thinnest that does not"), units: LENGTH_UNITS },
    { kind: "choice", path: "/cylinders/{n}/plug/type_match", label: t("Type against the specification"),
      options: words("type_match") },
    { kind: "text", path: "/cylinders/{n}/plug/part", label: t("Part number on the shell") },
    { kind: "quantity", path: "/cylinders/{n}/plug/distance", label: t("Distance on this plug, if it differs"), units: DISTANCE_UNITS },
  ],
};
