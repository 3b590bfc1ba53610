import type { Document } from "../../api/client";
import { leading, options, PRESSURE_UNITS, type Group } from "../record";
import type { Round } from "../round";

type ProofCylinder = NonNullable<NonNullable<Document["proof"]>["cylinders"]>[number];
const BASE = "/proof/cylinders/{n}";

const DETAILS: readonly Group[] = [
  {
    title: "By instrument, after",
    fields: [
      { kind: "quantity", path: `${BASE}/wet_pressure`, label: "Wet compression, after", units: PRESSURE_UNITS },
      { kind: "number", path: `${BASE}/percent`, label: "Leak-down loss after, %" },
      { kind: "number", path: `${BASE}/rpm_drop`, label: "Cut out, speed drop after" },
      { kind: "number", path: `${BASE}/misfires`, label: "Misfire count, after" },
    ],
  },
  {
    title: "Seen and heard, after",
    fields: [
      { kind: "choice", path: `${BASE}/felt`, label: "Cut out, what is felt after", options: options<NonNullable<ProofCylinder["felt"]>>("none", "slight", "clear") },
      { kind: "choice", path: `${BASE}/deposit_colour`, label: "Colour of the plug, after",
        options: options<NonNullable<ProofCylinder["deposit_colour"]>>("white", "grey", "tan", "brown", "black", "red", "yellow", "green", "blue") },
    ],
  },
];

/** What is read again, in the unit in which it was read before. */
export function againRound(document: Document): Round {
  const readings = document.tests?.compression?.flatMap((test) => test.readings ?? []);
  const unit = readings?.find((one) => one.pressure)?.pressure?.unit;
  return { ...AGAIN_ROUND, figure: { kind: "quantity", path: `${BASE}/pressure`, label: "Dry compression, after", units: leading(PRESSURE_UNITS, unit) } };
}

const AGAIN_ROUND: Round = {
  id: "again",
  title: "Read again, after the work",
  answers: [
    { key: "n", label: "Plug looks fine", tell: "nothing remarkable any more", whole: true, sets: [[`${BASE}/look`, "fine"]] },
    { key: "y", label: "Plug dry", tell: "after the run", sets: [[`${BASE}/wetness`, "dry"]] },
    { key: "p", label: "Plug damp", tell: "a film again", sets: [[`${BASE}/wetness`, "damp"]] },
    { key: "w", label: "Plug wet", tell: "as it was, or worse", sets: [[`${BASE}/wetness`, "wet"]] },
    { key: "q", label: "Noise gone", tell: "listened at the same place", sets: [[`${BASE}/noise`, "gone"]] },
    { key: "s", label: "Noise the same", tell: "it stayed", sets: [[`${BASE}/noise`, "same"]] },
    { key: "x", label: "Noise worse", tell: "stop and look again", sets: [[`${BASE}/noise`, "worse"]] },
    { key: "k", label: "No gas", tell: "nothing escapes at the well", sets: [[`${BASE}/combustion_leak`, "none"]] },
    { key: "i", label: "A little gas", tell: "a breath on a wet finger", sets: [[`${BASE}/combustion_leak`, "slight"]] },
    { key: "h", label: "Strong gas", tell: "it blows: stop", sets: [[`${BASE}/combustion_leak`, "strong"]] },
    { key: "c", label: "Cut out: clear", tell: "it works like the others", sets: [[`${BASE}/felt`, "clear"]] },
    { key: "e", label: "Cut out: nothing", tell: "it still does nothing", sets: [[`${BASE}/felt`, "none"]] },
  ],
  straight: true,
  counts: ["pressure", "wet_pressure", "percent", "rpm_drop", "misfires", "look", "noise", "combustion_leak", "felt", "wetness"].map((field) => `${BASE}/${field}`),
  details: DETAILS,
};
