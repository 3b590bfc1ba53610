import { t } from "../../language";
import type { Document, Schemas } from "../../api/client";
import { pressureRound } from "../compression/rounds";
import { INSIDE_ROUND, leakdownRound } from "../inside/rounds";
import { ELECTRODES, FACES, LOOSENING, WELLS } from "../plug/rounds";
import { FIT_ROUND } from "../refit/rounds";
import { againRound } from "../prove/rounds";
import type { Round } from "../round";
import {
  CUT_OUT_ROUND,
  INJECTOR_ROUND,
  LISTEN_ROUND,
  MISFIRE_ROUND,
  PORT_ROUND,
  REREAD_ROUND,
  SPARK_ROUND,
} from "../running/rounds";

/** One page of a step; the address names it. */
export interface Part {
  id: string;
  label: string;
  /** What is asked of every cylinder on it; of a test, in the test that stands. */
  round?: Round | ((document: Document) => Round);
  /** Whether an engine has it. */
  only?: (document: Document) => boolean;
}

/** A step of the job. */
export interface Step {
  id: string;
  label: string;
  /** With Shift, the letter that goes there; once more, to its next part. */
  key: string;
  parts: readonly Part[];
  /** What a spoken line is about there; faces, where nothing is said. */
  spoken?: SpokenRound;
}

export type SpokenRound = NonNullable<Schemas["SpokenRequest"]["round"]>;

/** A step of one page, called as itself. */
function single(id: string, label: string, key: string, round?: Part["round"], spoken?: SpokenRound): Step {
  return { id, label, key, parts: [{ id, label, ...(round && { round }) }], ...(spoken && { spoken }) };
}

const isTwoStroke = (document: Document) => document.engine.cycle === "two-stroke";
const hasPoints = ({ engine, distributor }: Document) =>
  engine.trigger === "points" || distributor?.points !== undefined || engine.ignition === "distributor" || engine.ignition === "magneto";

/** In the order in which the job is worked. */
export const STEPS: readonly Step[] = [
  {
    id: "story",
    spoken: "running",
    label: t("Story"),
    key: "s",
    parts: [
      { id: "job", label: t("This job") },
      { id: "past", label: t("Its past") },
      { id: "figures", label: t("Maker's figures") },
      { id: "engine", label: t("The engine") },
      { id: "distributor", label: t("Distributor"), only: hasPoints },
      { id: "notes", label: t("Notes") },
      { id: "earlier", label: t("Earlier") },
    ],
  },
  single("plan", t("Plan"), "p", undefined, "plan"),
  {
    id: "running",
    spoken: "running",
    label: t("Running"),
    key: "r",
    parts: [
      { id: "guess", label: t("First guess") },
      { id: "listen", label: t("Listen"), round: LISTEN_ROUND },
      { id: "cut-out", label: t("Cut out"), round: CUT_OUT_ROUND },
      { id: "misfires", label: t("Misfires"), round: MISFIRE_ROUND },
      { id: "spark", label: t("Spark"), round: SPARK_ROUND },
      { id: "injector", label: t("Injector"), round: INJECTOR_ROUND, only: ({ engine }) => engine.fuel_system !== "carburettor" },
      { id: "swap", label: t("Swap") },
      { id: "reread", label: t("Read again"), round: REREAD_ROUND },
      { id: "port-look", label: t("Port look"), round: PORT_ROUND, only: isTwoStroke },
    ],
  },
  single("wells", t("Wells"), "w", WELLS, "wells"),
  single("loosening", t("Loosening"), "l", LOOSENING, "loosening"),
  single("faces", t("Faces"), "f", FACES),
  single("electrodes", t("Electrodes"), "e", ELECTRODES, "gaps"),
  {
    id: "compression",
    spoken: "pressures",
    label: t("Compression"),
    key: "c",
    parts: [
      { id: "dry", label: t("Dry"), round: (document) => pressureRound(document, "dry") },
      { id: "wet", label: t("Wet"), round: (document) => pressureRound(document, "wet") },
      { id: "cranking", label: t("Cranking current") },
    ],
  },
  single("leak-down", "Leak-down", "d", leakdownRound, "leakdown"),
  single("inside", t("Inside"), "i", INSIDE_ROUND),
  single("compare", t("Compare"), "m"),
  {
    id: "refit",
    spoken: "fitting",
    label: t("Refit"),
    key: "t",
    parts: [
      { id: "arrival", label: t("New plugs") },
      { id: "gaps", label: t("Gaps") },
      { id: "fit", label: t("Fit and torque"), round: FIT_ROUND },
      { id: "points", label: t("Points"), only: hasPoints },
      { id: "premix", label: t("Premix"), only: isTwoStroke },
      { id: "repairs", label: t("Renewed and set") },
    ],
  },
  {
    id: "prove",
    label: t("Prove"),
    key: "v",
    parts: [
      { id: "run", label: t("Start and drive") },
      { id: "again", label: t("Read again"), round: againRound },
      { id: "later", label: t("Later") },
      { id: "outcome", label: t("What it was") },
    ],
  },
  single("hand-over", t("Hand over"), "h"),
];

/** What an engine is read by: some of the steps, and of those some parts. */
export function someOf(wanted: Readonly<Record<string, readonly string[]>>): readonly Step[] {
  return STEPS.filter((step) => wanted[step.id]).map((step) => {
    const parts = wanted[step.id] ?? [];
    return { ...step, parts: parts.length > 0 ? step.parts.filter((part) => parts.includes(part.id)) : step.parts };
  });
}

/** The parts of a step that an engine has. */
export function partsOf(step: Step, document: Document): readonly Part[] {
  return step.parts.filter((part) => part.only?.(document) ?? true);
}

/** The step and the part that an address names; the first part where it names a step alone. */
export function placeOf(id: string | undefined, steps: readonly Step[] = STEPS): { step: Step; part: Part } {
  for (const step of steps) {
    const part = step.parts.find((one) => one.id === id) ?? (step.id === id ? step.parts[0] : undefined);
    if (part) return { step, part };
  }
  return placeOf("faces", steps);
}

/** What a part asks of every cylinder, in this document. */
export function roundOf(part: Part, document: Document | undefined): Round | undefined {
  if (typeof part.round !== "function") return part.round;
  return document && part.round(document);
}
