import { t } from "../../language";
import type { Document } from "../../api/client";
import type { Answer, Round } from "../round";
import { INSIDE, leakdown, testId, type Escape } from "./findings";

const look = (key: string, label: string, tell: string, field: string, value: unknown): Answer => ({
  key, label, tell, sets: [[`/cylinders/{n}/borescope/${field}`, value]],
});

/** What the borescope shows, after the plug and before anything is poured in. */
export const INSIDE_ROUND: Round = {
  id: "inside",
  title: t("Inside, through the plug hole"),
  answers: [
    { key: "n", label: t("Nothing wrong"), tell: t("hatch in the bore, dry crown, even valves"), whole: true,
      sets: [["/cylinders/{n}/borescope/bore", "cross-hatched"], ["/cylinders/{n}/borescope/crown", "dry-carbon"], ["/cylinders/{n}/borescope/valves", "even"]] },
    look("p", t("Bore polished"), t("the hatch is gone, it shines"), "bore", "polished"),
    look("s", t("Bore scored"), t("lines that a nail would feel"), "bore", "scored"),
    look("w", t("Bore washed"), t("bare and dry: fuel took the oil"), "bore", "washed"),
    look("r", t("Bore rusted"), t("it stood, or water came in"), "bore", "rusted"),
    look("o", t("Crown oily"), t("wet black at its edge"), "crown", "oily"),
    look("k", t("Crown washed clean"), t("bare metal among carbon: coolant?"), "crown", "washed-clean"),
    look("h", t("Crown damaged"), t("pitted, holed or hit"), "crown", "damaged"),
    look("b", t("Valve edge burnt"), t("a notch in its rim"), "valves", "burnt-edge"),
    look("y", t("Oily stems"), t("wet carbon behind the head"), "valves", "oily-stems"),
    look("x", t("Heavy on the valves"), t("carbon that holds them open"), "valves", "heavy-deposit"),
    look("c", t("Coolant seen"), t("drops, a green or white edge"), "coolant_trace", true),
  ],
  counts: ["bore", "crown", "crown_carbon", "valves", "coolant_trace"].map((field) => `/cylinders/{n}/borescope/${field}`),
  details: INSIDE,
};

const escape = (base: string, key: string, label: string, tell: string, where: Escape): Answer => ({
  key, label, tell, sets: [[`${base}/readings/{n}/escapes`, [where]]],
});

/** What the air tells, in the leak-down test that stands, imported or not; else in the one that is begun. */
export function leakdownRound(document: Document): Round {
  const base = `/tests/leakdown/${testId(document)}`;
  const twoStroke = document.engine.cycle === "two-stroke";
  return {
    id: "leak-down",
    title: t("What the air tells"),
    caution: t("The engine can kick over: nobody near a propeller, a belt or a breaker bar. Eyes covered."),
    answers: [
      escape(base, "n", t("Nowhere"), t("listened at every place"), "none"),
      escape(base, "i", t("Intake"), twoStroke ? t("hiss at the carburettor: reed or port") : t("hiss at the carburettor: intake valve"), "intake"),
      escape(base, "e", t("Exhaust"), twoStroke ? t("hiss at the tailpipe: over the port") : t("hiss at the tailpipe: exhaust valve"), "exhaust"),
      escape(base, "r", t("Crankcase"), t("hiss at the oil filler: rings"), "crankcase"),
      escape(base, "c", t("Coolant"), t("bubbles: gasket or crack"), "coolant"),
      escape(base, "b", t("Neighbour"), t("out of the next hole: gasket between"), "neighbour"),
    ],
    figure: { kind: "number", path: `${base}/readings/{n}/percent`, label: t("Loss on the tester, %") },
    straight: true,
    counts: ["percent", "held", "escapes"].map((field) => `${base}/readings/{n}/${field}`),
    details: leakdown(base),
  };
}
