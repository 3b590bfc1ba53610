import { t } from "../../language";
import type { Round } from "../round";
import { CUT_OUT, INJECTOR, LISTENING, MISFIRES, PORT_LOOK, REREAD, SPARK } from "./findings";

/** With the engine running, one cylinder after the other. */
export const LISTEN_ROUND: Round = {
  id: "listen",
  title: t("Listen at the plug"),
  caution: t("Hot engine, moving belts, exhaust: keep sleeves and hands clear."),
  answers: [
    { key: "n", label: t("Nothing escapes"), tell: t("no gas felt, heard or smelt at the well"), whole: true, sets: [["/cylinders/{n}/well/combustion_leak", "none"]] },
    { key: "s", label: t("A little gas"), tell: t("a breath on a wet finger"), sets: [["/cylinders/{n}/well/combustion_leak", "slight"]] },
    { key: "h", label: t("Strong gas"), tell: t("it blows: stop, the plug may leave"), sets: [["/cylinders/{n}/well/combustion_leak", "strong"]] },
    { key: "p", label: t("Soft puff"), tell: t("in time with it: gas past the seat"), sets: [["/tests/noise/{n}/kind", "puff"]] },
    { key: "t", label: t("Sharp tap"), tell: t("metal: valve gear, not gas"), sets: [["/tests/noise/{n}/kind", "sharp-tap"]] },
    { key: "w", label: t("Fades when warm"), tell: t("gone once it is hot"), sets: [["/tests/noise/{n}/fades_when_warm", true]] },
  ],
  counts: ["/cylinders/{n}/well/combustion_leak", "/tests/noise/{n}/kind"],
  details: [LISTENING],
};

export const CUT_OUT_ROUND: Round = {
  id: "cut-out",
  title: t("Cut it out: what does the engine say?"),
  caution: t("Cut by the injector where possible: an unplugged coil shocks people and feeds the catalyst raw fuel."),
  answers: [
    { key: "n", label: t("Clear drop"), tell: t("the engine limps: it worked"), whole: true, sets: [["/tests/balance/{n}/felt", "clear"]] },
    { key: "s", label: t("Slight drop"), tell: t("felt, less than at the others"), sets: [["/tests/balance/{n}/felt", "slight"]] },
    { key: "x", label: t("No change"), tell: t("this one does nothing"), sets: [["/tests/balance/{n}/felt", "none"]] },
  ],
  figure: { kind: "number", path: "/tests/balance/{n}/rpm_drop", label: t("Engine speed drops by, rpm") },
  straight: true,
  counts: ["/tests/balance/{n}/felt", "/tests/balance/{n}/rpm_drop"],
  details: [CUT_OUT],
};

export const MISFIRE_ROUND: Round = {
  id: "misfires",
  title: t("Misfires counted"),
  answers: [{ key: "n", label: t("None"), tell: t("watched, and none was counted"), whole: true, sets: [["/tests/misfires/{n}/count", 0]] }],
  figure: { kind: "number", path: "/tests/misfires/{n}/count", label: t("Misfire count") },
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
  title: t("Does it spark?"),
  caution: t("Ignition kills: hand off the tester, plug grounded, no open plug hole with fuel near it."),
  answers: [
    { key: "n", label: t("Strong"), tell: t("on the tester, jumps its gap"), whole: true, sets: spark("strong", "tester") },
    { key: "w", label: t("Weak"), tell: t("on the tester: thin, or it skips"), sets: spark("weak", "tester") },
    { key: "x", label: t("None"), tell: t("on the tester: nothing"), sets: spark("none", "tester") },
    { key: "o", label: t("Open air, strong"), tell: t("proves little: pressure asks for more"), sets: spark("strong", "open-air") },
    { key: "p", label: t("Open air, weak"), tell: t("yellow, thin, wandering"), sets: spark("weak", "open-air") },
    { key: "v", label: t("Open air, none"), tell: t("then it is certain"), sets: spark("none", "open-air") },
  ],
  counts: ["/tests/spark/{n}/result"],
  details: [SPARK],
};

export const INJECTOR_ROUND: Round = {
  id: "injector",
  title: t("The injector"),
  caution: t("Fuel under pressure: eyes covered, no spark near it, rags ready."),
  answers: [
    { key: "n", label: t("Pulses, flows"), tell: t("a pulse there, an even spray"), whole: true,
      sets: [["/tests/injector/{n}/pulse", "present"], ["/tests/injector/{n}/flow", "good"]] },
    { key: "p", label: t("Pulse there"), tell: t("by lamp or meter; flow not seen"), sets: [["/tests/injector/{n}/pulse", "present"]] },
    { key: "x", label: t("No pulse"), tell: t("wire, driver or computer"), sets: [["/tests/injector/{n}/pulse", "absent"]] },
    { key: "r", label: t("Restricted"), tell: t("gives less than the others"), sets: [["/tests/injector/{n}/flow", "restricted"]] },
    { key: "l", label: t("Leaking"), tell: t("drips while it should be shut"), sets: [["/tests/injector/{n}/flow", "leaking"]] },
  ],
  counts: ["/tests/injector/{n}/pulse", "/tests/injector/{n}/flow"],
  details: [INJECTOR],
};

export const REREAD_ROUND: Round = {
  id: "reread",
  title: t("Cleaned, run and read again"),
  answers: [
    { key: "n", label: t("Came back clean"), tell: t("what was there came from before"), whole: true, sets: [["/tests/reread/{n}/result", "clean"]] },
    { key: "s", label: t("The same again"), tell: t("what makes it goes on"), sets: [["/tests/reread/{n}/result", "same"]] },
    { key: "w", label: t("Worse"), tell: t("faster than before"), sets: [["/tests/reread/{n}/result", "worse"]] },
  ],
  counts: ["/tests/reread/{n}/result"],
  details: [REREAD],
};

export const PORT_ROUND: Round = {
  id: "port-look",
  title: t("Through the exhaust port"),
  answers: [
    { key: "n", label: t("Clean skirt"), tell: t("even grey, machining marks to be seen"), whole: true, sets: [["/tests/port_look/{n}/piston", "clean"]] },
    { key: "s", label: t("Scuffed"), tell: t("streaks along its travel"), sets: [["/tests/port_look/{n}/piston", "scuffed"]] },
    { key: "x", label: t("Seized"), tell: t("smeared metal, rings held"), sets: [["/tests/port_look/{n}/piston", "seized"]] },
  ],
  counts: ["/tests/port_look/{n}/piston"],
  details: [PORT_LOOK],
};
