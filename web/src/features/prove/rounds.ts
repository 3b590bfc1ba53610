import { t } from "../../language";
import type { Document } from "../../api/client";
import { leading, options, PRESSURE_UNITS, type Group } from "../record";
import type { Round } from "../round";

type ProofCylinder = NonNullable<NonNullable<Document["proof"]>["cylinders"]>[number];
const BASE = "/proof/cylinders/{n}";

const DETAILS: readonly Group[] = [
  {
    title: t("By instrument, after"),
    fields: [
      { kind: "quantity", path: `${BASE}/wet_pressure`, label: t("Wet compression, after"), units: PRESSURE_UNITS },
      { kind: "number", path: `${BASE}/percent`, label: t("Leak-down loss after, %") },
      { kind: "number", path: `${BASE}/rpm_drop`, label: t("Cut out, speed drop after") },
      { kind: "number", path: `${BASE}/misfires`, label: t("Misfire count, after") },
    ],
  },
  {
    title: t("Seen and heard, after"),
    fields: [
      { kind: "choice", path: `${BASE}/felt`, label: t("Cut out, what is felt after"), options: options<NonNullable<ProofCylinder["felt"]>>("none", "slight", "clear") },
      { kind: "choice", path: `${BASE}/deposit_colour`, label: t("Colour of the plug, after"),
        options: options<NonNullable<ProofCylinder["deposit_colour"]>>("white", "grey", "tan", "brown", "black", "red", "yellow", "green", "blue") },
    ],
  },
];

/** What is read again, in the unit in which it was read before. */
export function againRound(document: Document): Round {
  const readings = document.tests?.compression?.flatMap((test) => test.readings ?? []);
  const unit = readings?.find((one) => one.pressure)?.pressure?.unit;
  return { ...AGAIN_ROUND, figure: { kind: "quantity", path: `${BASE}/pressure`, label: t("Dry compression, after"), units: leading(PRESSURE_UNITS, unit) } };
}

const AGAIN_ROUND: Round = {
  id: "again",
  title: t("Read again, after the work"),
  answers: [
    { key: "n", label: t("Plug looks fine"), tell: t("nothing remarkable any more"), whole: true, sets: [[`${BASE}/look`, "fine"]] },
    { key: "y", label: t("Plug dry"), tell: t("after the run"), sets: [[`${BASE}/wetness`, "dry"]] },
    { key: "p", label: t("Plug damp"), tell: t("a film again"), sets: [[`${BASE}/wetness`, "damp"]] },
    { key: "w", label: t("Plug wet"), tell: t("as it was, or worse"), sets: [[`${BASE}/wetness`, "wet"]] },
    { key: "q", label: t("Noise gone"), tell: t("listened at the same place"), sets: [[`${BASE}/noise`, "gone"]] },
    { key: "s", label: t("Noise the same"), tell: t("it stayed"), sets: [[`${BASE}/noise`, "same"]] },
    { key: "x", label: t("Noise worse"), tell: t("stop and look again"), sets: [[`${BASE}/noise`, "worse"]] },
    { key: "k", label: t("No gas"), tell: t("nothing escapes at the well"), sets: [[`${BASE}/combustion_leak`, "none"]] },
    { key: "i", label: t("A little gas"), tell: t("a breath on a wet finger"), sets: [[`${BASE}/combustion_leak`, "slight"]] },
    { key: "h", label: t("Strong gas"), tell: t("it blows: stop"), sets: [[`${BASE}/combustion_leak`, "strong"]] },
    { key: "c", label: t("Cut out: clear"), tell: t("it works like the others"), sets: [[`${BASE}/felt`, "clear"]] },
    { key: "e", label: t("Cut out: nothing"), tell: t("it still does nothing"), sets: [[`${BASE}/felt`, "none"]] },
  ],
  straight: true,
  counts: ["pressure", "wet_pressure", "percent", "rpm_drop", "misfires", "look", "noise", "combustion_leak", "felt", "wetness"].map((field) => `${BASE}/${field}`),
  details: DETAILS,
};
