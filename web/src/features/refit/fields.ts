import { t } from "../../language";
import type { Document, Schemas } from "../../api/client";
import { worked } from "../bench";
import { leading, LENGTH_UNITS, options, TORQUE_UNITS, VOLUME_UNITS, type Entries, type Field, type Group } from "../record";

export type Refit = NonNullable<Document["refit"]>;
export type RefitCylinder = NonNullable<Refit["cylinders"]>[number];
export type NewPlug = NonNullable<RefitCylinder["plug"]>;
export type Sheet = Schemas["Refit"];
export type Fitting = Sheet["cylinders"][number];

const PLUG = "/refit/cylinders/{n}/plug";

/** What a new plug is, beside what the old one was. */
export const SHAPES: readonly (readonly [fresh: Field, old: Field])[] = [
  [
    { kind: "text", path: `${PLUG}/part`, label: t("New part number") },
    { kind: "text", path: "/cylinders/{n}/plug/part", label: t("Old part number") },
  ],
  [
    { kind: "quantity", path: `${PLUG}/reach`, label: t("New reach"), units: LENGTH_UNITS },
    { kind: "quantity", path: "/cylinders/{n}/plug/reach", label: t("Old reach"), units: LENGTH_UNITS },
  ],
  [
    { kind: "quantity", path: `${PLUG}/thread_length`, label: t("New thread length"), units: LENGTH_UNITS },
    { kind: "quantity", path: "/cylinders/{n}/plug/thread_length", label: t("Old thread length"), units: LENGTH_UNITS },
  ],
  [
    { kind: "number", path: `${PLUG}/thread_mm`, label: t("New thread, mm") },
    { kind: "number", path: "/cylinders/{n}/plug/thread_mm", label: t("Old thread, mm") },
  ],
  [
    { kind: "choice", path: `${PLUG}/seat`, label: t("New seat"), options: options("gasket", "taper") },
    { kind: "choice", path: "/cylinders/{n}/plug/seat", label: t("Old seat"), options: options("gasket", "taper") },
  ],
];

/** What is looked for on a new plug. */
export const LOOKS: readonly Field[] = [
  { kind: "choice", path: `${PLUG}/ground_electrode`, label: t("Ground electrode"),
    options: options<NonNullable<NewPlug["ground_electrode"]>>("sound", "bent", "peened") },
  { kind: "choice", path: `${PLUG}/ceramic`, label: t("Ceramic"),
    options: options<NonNullable<NewPlug["ceramic"]>>("sound", "cracked", "loose") },
  { kind: "choice", path: `${PLUG}/markings`, label: t("Markings that should be there"),
    options: options<NonNullable<NewPlug["markings"]>>("as-expected", "missing", "doubtful") },
  { kind: "choice", path: `${PLUG}/electrode`, label: t("Electrode"),
    options: options<NonNullable<NewPlug["electrode"]>>("nickel", "platinum", "iridium") },
  { kind: "quantity", path: `${PLUG}/arrived_gap`, label: t("Gap as arrived"), units: LENGTH_UNITS },
];

/** Nothing wrong with a new plug, in one act. */
export const NOTHING_WRONG = [
  ["ground_electrode", "sound"],
  ["ceramic", "sound"],
  ["markings", "as-expected"],
] as const;

/** What is alike on every plug out of one box. */
const OF_THE_BOX = ["part", "seat", "thread_mm", "thread_length", "reach", "electrode"] as const;

/**
 * A box of plugs that are alike, each looked at: the figures of one and nothing wrong, for every cylinder
 * of the job. What was said of one of them by itself stands.
 */
export function forAll(plug: NewPlug, document: Document): Entries {
  const looked = { ...plug, ...Object.fromEntries(NOTHING_WRONG) };
  const fields = [...OF_THE_BOX, ...NOTHING_WRONG.map(([field]) => field)] as const;
  return worked(document).flatMap((number) => {
    const own = document.refit?.cylinders?.find((one) => one.cylinder === number)?.plug;
    return fields
      .filter((field) => looked[field] !== undefined && own?.[field] === undefined)
      .map((field) => [`/refit/cylinders/${number}/plug/${field}`, looked[field]] as const);
  });
}

/** A plug sent back: kept with its reason, its place empty for the next one. */
export function refusal(cylinder: number, plug: NewPlug, reason: string): Entries {
  const base = `/refit/refused/refused-${Date.now().toString(36)}`;
  return [
    [`${base}/cylinder`, cylinder],
    [`${base}/reason`, reason],
    ...Object.entries(plug).map(([field, value]) => [`${base}/plug/${field}`, value] as const),
    ...Object.keys(plug).map((field) => [`/refit/cylinders/${cylinder}/plug/${field}`, undefined] as const),
  ];
}

export const WRENCH: readonly Field[] = [
  { kind: "choice", path: "/refit/wrench/unit", label: t("The wrench reads"), options: TORQUE_UNITS },
  { kind: "number", path: "/refit/wrench/step", label: t("One step of its scale") },
  { kind: "number", path: "/refit/wrench/minimum", label: t("Scale from") },
  { kind: "number", path: "/refit/wrench/maximum", label: t("Scale to") },
  { kind: "quantity", path: "/refit/wrench/offset", label: t("Offset of an adaptor"), units: LENGTH_UNITS },
  { kind: "quantity", path: "/refit/wrench/length", label: t("Head to grip"), units: LENGTH_UNITS },
  { kind: "flag", path: "/refit/wrench/joint", label: t("Through a joint") },
];

/** What is recorded of one plug going in; its torque in the wrench's unit. */
export const fit = (unit: string | undefined): readonly Field[] => [
  { kind: "choice", path: "/refit/cylinders/{n}/threads", label: t("Threads"),
    options: options<NonNullable<RefitCylinder["threads"]>>("dry", "plated", "anti-seize", "oil", "old-lubricant") },
  { kind: "flag", path: "/refit/cylinders/{n}/reused", label: t("Tightened before (gasket already crushed)") },
  { kind: "number", path: "/refit/cylinders/{n}/turns_by_hand", label: t("Turns by hand before any tool") },
  { kind: "flag", path: "/refit/cylinders/{n}/through_hose", label: t("Started through a hose") },
  { kind: "quantity", path: "/refit/cylinders/{n}/torque", label: t("Torque as set"), units: leading(TORQUE_UNITS, unit) },
  { kind: "number", path: "/refit/cylinders/{n}/turn_deg", label: t("Or turned from finger-tight, degrees") },
  { kind: "flag", path: "/refit/cylinders/{n}/boot_greased", label: t("Boot greased thinly inside") },
  { kind: "flag", path: "/refit/cylinders/{n}/coil_back", label: t("Its own coil or lead back on it") },
];

export const POINTS: readonly Group[] = [
  {
    title: t("What its maker says"),
    fields: [
      { kind: "quantity", path: "/engine/specification/points_gap_min", label: t("Points gap from"), units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/specification/points_gap_max", label: t("Points gap to"), units: LENGTH_UNITS },
      { kind: "number", path: "/engine/specification/dwell_min_deg", label: t("Dwell from, degrees") },
      { kind: "number", path: "/engine/specification/dwell_max_deg", label: t("Dwell to, degrees") },
      { kind: "number", path: "/engine/specification/timing_deg_btdc", label: t("Static timing, degrees before top") },
      { kind: "number", path: "/engine/specification/cam_lobes", label: t("Lobes of the cam, if not one a cylinder") },
      { kind: "quantity", path: "/engine/specification/pulley_diameter", label: t("Diameter of the pulley"), units: LENGTH_UNITS },
    ],
  },
];

export const PREMIX: readonly Field[] = [
  { kind: "number", path: "/engine/specification/premix_ratio", label: t("Its maker's ratio, fuel to 1 of oil") },
  { kind: "number", path: "/refit/premix/ratio", label: t("Ratio mixed") },
  { kind: "quantity", path: "/refit/premix/fuel", label: t("Fuel"), units: VOLUME_UNITS },
  { kind: "quantity", path: "/refit/premix/oil", label: t("Oil poured in"), units: VOLUME_UNITS },
];
