import { t } from "../../language";
import { LENGTH_UNITS, type Entries } from "../record";
import type { Answer, Round } from "../round";
import { BOOT, CLEANED, ELECTRODE, FACE, ITSELF, TURNING, WELL, type PlugRecord } from "./findings";

/** Paths within a cylinder, as answers name them. */
function of(...sets: Entries): Entries {
  return sets.map(([path, value]) => [`/cylinders/{n}/${path}`, value]);
}

const SEEN_ON_A_FACE = ["plug/deposit_colour", "plug/deposit_texture", "plug/deposit_amount", "plug/wetness", "plug/wet_with"] as const;

/** What a face says, and nothing that it does not show; undefined leaves a field as it is. */
function face(...values: readonly (string | undefined)[]): Entries {
  return of(...SEEN_ON_A_FACE.map((path, index) => [path, values[index]] as const).filter(([, value]) => value !== undefined));
}

const paths = (...fields: readonly string[]) => fields.map((field) => `/cylinders/{n}/${field}`);

export const WELLS: Round = {
  id: "wells",
  title: t("The well and the boot, before the plug moves"),
  caution: t("Look first, then blow the well out: eyes covered, nothing may fall in."),
  answers: [
    { key: "n", label: t("Dry and clean"), tell: t("looked into: no oil, no water, no grit"), whole: true,
      sets: of(["well/oil", "none"], ["well/water", "none"], ["well/debris", "none"]) },
    { key: "t", label: t("Trace of oil"), tell: t("a film on the wall or the boot's end"), sets: of(["well/oil", "trace"]) },
    { key: "o", label: t("Oil stands in it"), tell: t("from above: tube seal or cover gasket, not the rings"), sets: of(["well/oil", "pooled"]) },
    { key: "w", label: t("Water stands in it"), tell: t("washed, rained in, or coolant from above"), sets: of(["well/water", "pooled"]) },
    { key: "r", label: t("Trace of water"), tell: t("rust on the shell, a white edge"), sets: of(["well/water", "trace"]) },
    { key: "i", label: t("Some grit"), tell: t("blow it out before the plug turns"), sets: of(["well/debris", "light"]) },
    { key: "h", label: t("Full of grit"), tell: t("suck it out: it ends up in the bore"), sets: of(["well/debris", "heavy"]) },
    { key: "b", label: t("Boot clean"), tell: t("supple, no crack, no track"), sets: of(["boot", ["clean"]]) },
    { key: "l", label: t("Boot oily"), tell: t("swells and lets the spark out"), sets: of(["boot", ["oily"]]) },
    { key: "k", label: t("Boot tracked"), tell: t("a fine burnt line the spark took"), sets: of(["boot", ["tracked"]]) },
    { key: "c", label: t("Boot cracked"), tell: t("opens when it is bent"), sets: of(["boot", ["cracked"]]) },
    { key: "e", label: t("Exhaust-stained"), tell: t("brown ring: gas came past the plug"), sets: of(["boot", ["exhaust-stained"]]) },
  ],
  counts: paths("well/oil", "well/water", "well/debris", "boot"),
  details: [WELL, BOOT],
};

export const LOOSENING: Round = {
  id: "loosening",
  title: t("How it came loose"),
  caution: t("Engine cold enough to touch. Seized: stop, penetrate, work it both ways."),
  answers: [
    { key: "n", label: t("Tight, as fitted"), tell: t("a clear first break, then by hand"), whole: true, sets: of(["plug/seating", "tight"]) },
    { key: "s", label: t("Snug"), tell: t("came with less than normal effort"), sets: of(["plug/seating", "snug"]) },
    { key: "l", label: t("Loose"), tell: t("no effort at all; look for a stain"), sets: of(["plug/seating", "loose"]) },
    { key: "o", label: t("Over-tight"), tell: t("far more than the figure"), sets: of(["plug/seating", "over-tight"]) },
    { key: "x", label: t("Seized"), tell: t("creaks or stops: do not force it"), sets: of(["plug/seating", "seized"]) },
    { key: "c", label: t("Threads clean"), tell: t("bare metal, no smear"), sets: of(["plug/threads", ["clean"]]) },
    { key: "y", label: t("Threads oily"), tell: t("wet with oil up to the seat"), sets: of(["plug/threads", ["oily"]]) },
    { key: "e", label: t("Exhaust-stained"), tell: t("soot past the seat: it did not seal"), sets: of(["plug/threads", ["exhaust-stained"]]) },
    { key: "r", label: t("Corroded"), tell: t("rust or white salt in the thread"), sets: of(["plug/threads", ["corroded"]]) },
    { key: "h", label: t("Thread damaged"), tell: t("pulled or crossed: look into the hole"), sets: of(["plug/threads", ["damaged"]]) },
    { key: "a", label: t("Paste, thick"), tell: t("anti-seize: the last torque was too high"), sets: of(["plug/threads", ["anti-seize-heavy"]]) },
    { key: "f", label: t("Insulator tracked"), tell: t("a burnt line outside on the ceramic"), sets: of(["plug/outside", ["tracked"]]) },
  ],
  counts: paths("plug/seating", "plug/threads", "plug/outside"),
  details: [TURNING],
};

export const FACES: Round = {
  id: "faces",
  title: t("The face of the plug"),
  answers: [
    { key: "n", label: t("Looks fine"), tell: t("nothing remarkable; not word by word"), whole: true, alone: true, sets: of(["plug/look", "fine"]) },
    { key: "t", label: t("Tan, dry"), tell: t("tan to light brown, thin, dry"), whole: true, sets: face("tan", undefined, "light", "dry") },
    { key: "s", label: t("Sooty"), tell: t("black, dry, rubs off as powder"), sets: face("black", "powder", "moderate", "dry") },
    { key: "f", label: t("Wet with fuel"), tell: t("thin, smells, dries while you look"), sets: face("black", undefined, "light", "wet", "fuel") },
    { key: "o", label: t("Wet with oil"), tell: t("greasy, stays wet, hardly smells"), sets: face("black", undefined, "moderate", "wet", "oil") },
    { key: "q", label: t("Wet, with what?"), tell: t("not sure: both stay open"), sets: face("black", undefined, "moderate", "wet", "unknown") },
    { key: "a", label: t("Ash crust"), tell: t("right colour, but crusty and pale"), sets: face("grey", "crust", "moderate", "dry") },
    { key: "h", label: t("Hot"), tell: t("glazed or blistered white, not pale"), sets: face("white", "glaze", "none", "dry") },
    { key: "k", label: t("Washed clean"), tell: t("steam-clean among brown: coolant?"), sets: face("white", "clean", "none", "damp", "coolant") },
    { key: "w", label: t("Worn edges"), tell: t("both rounded, not melted"),
      sets: of(["plug/centre_electrode", "rounded"], ["plug/ground_electrode", "rounded"]) },
    { key: "c", label: t("Nose cracked"), tell: t("a hairline that stays when wiped"), sets: of(["plug/insulator", "cracked-nose"]) },
    { key: "m", label: t("Strap missing"), tell: t("then where is the piece?"), sets: of(["plug/ground_electrode", "missing"]) },
  ],
  figure: { kind: "quantity", path: "/cylinders/{n}/plug/gap", label: t("Gap"), units: LENGTH_UNITS },
  counts: paths("plug/look", "plug/deposit_colour", "plug/deposit_texture", "plug/wetness", "plug/smell"),
  details: [FACE, ELECTRODE, CLEANED],
};

export const ELECTRODES: Round = {
  id: "electrodes",
  title: t("Electrodes and gap"),
  answers: [
    { key: "n", label: t("Square, nose whole"), tell: t("both edges sharp, no crack seen"), whole: true,
      sets: of(["plug/centre_electrode", "square"], ["plug/ground_electrode", "square"], ["plug/insulator", "sound"]) },
    { key: "w", label: t("Worn edges"), tell: t("both rounded, not melted"),
      sets: of(["plug/centre_electrode", "rounded"], ["plug/ground_electrode", "rounded"]) },
    { key: "e", label: t("Centre eroded"), tell: t("eaten down into the nose"), sets: of(["plug/centre_electrode", "eroded"]) },
    { key: "t", label: t("Strap thinned"), tell: t("waisted; breaks next"), sets: of(["plug/ground_electrode", "thinned"]) },
    { key: "x", label: t("Melted"), tell: t("beads, a blunt stump: stop and ask why"),
      sets: of(["plug/centre_electrode", "melted"], ["plug/ground_electrode", "melted"]) },
    { key: "m", label: t("Strap missing"), tell: t("then where is the piece?"), sets: of(["plug/ground_electrode", "missing"]) },
    { key: "p", label: t("Strap bent"), tell: t("dropped, or hit in the chamber"), sets: of(["plug/ground_electrode", "bent"]) },
    { key: "b", label: t("Gap bridged"), tell: t("something lodged across it"), sets: of(["plug/gap_bridged", true]) },
    { key: "s", label: t("Gap closed up"), tell: t("hammered shut: wrong reach?"), sets: of(["plug/gap_closed", true]) },
    { key: "c", label: t("Nose cracked"), tell: t("a hairline that stays when wiped"), sets: of(["plug/insulator", "cracked-nose"]) },
    { key: "i", label: t("Nose chipped"), tell: t("a piece gone: from a tool or from knock"), sets: of(["plug/insulator", "chipped"]) },
    { key: "f", label: t("Flashover"), tell: t("burnt lines along the ceramic"), sets: of(["plug/insulator", "flashover"]) },
  ],
  figure: { kind: "quantity", path: "/cylinders/{n}/plug/gap", label: t("Gap"), units: LENGTH_UNITS },
  straight: true,
  counts: paths("plug/gap", "plug/gap_passes", "plug/gap_refuses", "plug/centre_electrode", "plug/ground_electrode", "plug/gap_bridged", "plug/gap_closed"),
  details: [ITSELF, ELECTRODE],
};

/** A plug that shows nothing but one answer, for drawing it. */
export function drawnAs(sets: Answer["sets"]): PlugRecord {
  const shown = [...face("tan", "powder", "light", "dry"), ...of(["plug/ground_electrode", "square"], ["plug/centre_electrode", "square"]), ...sets];
  const drawn = shown.map(([path, value]) => [path.split("/"), value] as const).filter(([[, , , group]]) => group === "plug");
  return Object.fromEntries(drawn.map(([steps, value]) => [steps.at(-1), value])) as PlugRecord;
}
