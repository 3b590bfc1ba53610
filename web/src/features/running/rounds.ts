import type { Round } from "../round";
import { CUT_OUT, INJECTOR, LISTENING, MISFIRES, PORT_LOOK, REREAD, SPARK } from "./findings";

/** With the engine running, one cylinder after the other. */
export const LISTEN_ROUND: Round = {
  id: "listen",
  title: "Listen at the plug",
  caution: "Hot engine, moving belts, exhaust: keep sleeves and hands clear.",
  answers: [
    { key: "n", label: "Nothing escapes", tell: "no gas felt, heard or smelt at the well", whole: true, sets: [["/cylinders/{n}/well/combustion_leak", "none"]] },
    { key: "s", label: "A little gas", tell: "a breath on a wet finger", sets: [["/cylinders/{n}/well/combustion_leak", "slight"]] },
    { key: "h", label: "Strong gas", tell: "it blows: stop, the plug may leave", sets: [["/cylinders/{n}/well/combustion_leak", "strong"]] },
    { key: "p", label: "Soft puff", tell: "in time with it: gas past the seat", sets: [["/tests/noise/{n}/kind", "puff"]] },
    { key: "t", label: "Sharp tap", tell: "metal: valve gear, not gas", sets: [["/tests/noise/{n}/kind", "sharp-tap"]] },
    { key: "w", label: "Fades when warm", tell: "gone once it is hot", sets: [["/tests/noise/{n}/fades_when_warm", true]] },
  ],
  counts: ["/cylinders/{n}/well/combustion_leak", "/tests/noise/{n}/kind"],
  details: [LISTENING],
};

export const CUT_OUT_ROUND: Round = {
  id: "cut-out",
  title: "Cut it out: what does the engine say?",
  caution: "Cut by the injector where possible: an unplugged coil shocks people and feeds the catalyst raw fuel.",
  answers: [
    { key: "n", label: "Clear drop", tell: "the engine limps: it worked", whole: true, sets: [["/tests/balance/{n}/felt", "clear"]] },
    { key: "s", label: "Slight drop", tell: "felt, less than at the others", sets: [["/tests/balance/{n}/felt", "slight"]] },
    { key: "x", label: "No change", tell: "this one does nothing", sets: [["/tests/balance/{n}/felt", "none"]] },
  ],
  figure: { kind: "number", path: "/tests/balance/{n}/rpm_drop", label: "Engine speed drops by, rpm" },
  straight: true,
  counts: ["/tests/balance/{n}/felt", "/tests/balance/{n}/rpm_drop"],
  details: [CUT_OUT],
};

export const MISFIRE_ROUND: Round = {
  id: "misfires",
  title: "Misfires counted",
  answers: [{ key: "n", label: "None", tell: "watched, and none was counted", whole: true, sets: [["/tests/misfires/{n}/count", 0]] }],
  figure: { kind: "number", path: "/tests/misfires/{n}/count", label: "Misfire count" },
  straight: true,
  typed: true,
  counts: ["/tests/misfires/{n}/count"],
  details: [MISFIRES],
};

const spark = (result: string, condition: string): Round["answers"][number]["sets"] => [
  ["/tests/spark/{n}/result", result],
  ["/tests/spark/{n}/condition", condition],
];

export const SPARK_ROUND: Round = {
  id: "spark",
  title: "Does it spark?",
  caution: "Ignition kills: hand off the tester, plug grounded, no open plug hole with fuel near it.",
  answers: [
    { key: "n", label: "Strong", tell: "on the tester, jumps its gap", whole: true, sets: spark("strong", "tester") },
    { key: "w", label: "Weak", tell: "on the tester: thin, or it skips", sets: spark("weak", "tester") },
    { key: "x", label: "None", tell: "on the tester: nothing", sets: spark("none", "tester") },
    { key: "o", label: "Open air, strong", tell: "proves little: pressure asks for more", sets: spark("strong", "open-air") },
    { key: "p", label: "Open air, weak", tell: "yellow, thin, wandering", sets: spark("weak", "open-air") },
    { key: "v", label: "Open air, none", tell: "then it is certain", sets: spark("none", "open-air") },
  ],
  counts: ["/tests/spark/{n}/result"],
  details: [SPARK],
};

export const INJECTOR_ROUND: Round = {
  id: "injector",
  title: "The injector",
  caution: "Fuel under pressure: eyes covered, no spark near it, rags ready.",
  answers: [
    { key: "n", label: "Pulses, flows", tell: "a pulse there, an even spray", whole: true,
      sets: [["/tests/injector/{n}/pulse", "present"], ["/tests/injector/{n}/flow", "good"]] },
    { key: "p", label: "Pulse there", tell: "by lamp or meter; flow not seen", sets: [["/tests/injector/{n}/pulse", "present"]] },
    { key: "x", label: "No pulse", tell: "wire, driver or computer", sets: [["/tests/injector/{n}/pulse", "absent"]] },
    { key: "r", label: "Restricted", tell: "gives less than the others", sets: [["/tests/injector/{n}/flow", "restricted"]] },
    { key: "l", label: "Leaking", tell: "drips while it should be shut", sets: [["/tests/injector/{n}/flow", "leaking"]] },
  ],
  counts: ["/tests/injector/{n}/pulse", "/tests/injector/{n}/flow"],
  details: [INJECTOR],
};

export const REREAD_ROUND: Round = {
  id: "reread",
  title: "Cleaned, run and read again",
  answers: [
    { key: "n", label: "Came back clean", tell: "what was there came from before", whole: true, sets: [["/tests/reread/{n}/result", "clean"]] },
    { key: "s", label: "The same again", tell: "what makes it goes on", sets: [["/tests/reread/{n}/result", "same"]] },
    { key: "w", label: "Worse", tell: "faster than before", sets: [["/tests/reread/{n}/result", "worse"]] },
  ],
  counts: ["/tests/reread/{n}/result"],
  details: [REREAD],
};

export const PORT_ROUND: Round = {
  id: "port-look",
  title: "Through the exhaust port",
  answers: [
    { key: "n", label: "Clean skirt", tell: "even grey, machining marks to be seen", whole: true, sets: [["/tests/port_look/{n}/piston", "clean"]] },
    { key: "s", label: "Scuffed", tell: "streaks along its travel", sets: [["/tests/port_look/{n}/piston", "scuffed"]] },
    { key: "x", label: "Seized", tell: "smeared metal, rings held", sets: [["/tests/port_look/{n}/piston", "seized"]] },
  ],
  counts: ["/tests/port_look/{n}/piston"],
  details: [PORT_LOOK],
};
