import type { Document } from "../../api/client";
import type { Answer, Round } from "../round";
import { INSIDE, leakdown, testId, type Escape } from "./findings";

const look = (key: string, label: string, tell: string, field: string, value: unknown): Answer => ({
  key, label, tell, sets: [[`/cylinders/{n}/borescope/${field}`, value]],
});

/** What the borescope shows, after the plug and before anything is poured in. */
export const INSIDE_ROUND: Round = {
  id: "inside",
  title: "Inside, through the plug hole",
  answers: [
    { key: "n", label: "Nothing wrong", tell: "hatch in the bore, dry crown, even valves", whole: true,
      sets: [["/cylinders/{n}/borescope/bore", "cross-hatched"], ["/cylinders/{n}/borescope/crown", "dry-carbon"], ["/cylinders/{n}/borescope/valves", "even"]] },
    look("p", "Bore polished", "the hatch is gone, it shines", "bore", "polished"),
    look("s", "Bore scored", "lines that a nail would feel", "bore", "scored"),
    look("w", "Bore washed", "bare and dry: fuel took the oil", "bore", "washed"),
    look("r", "Bore rusted", "it stood, or water came in", "bore", "rusted"),
    look("o", "Crown oily", "wet black at its edge", "crown", "oily"),
    look("k", "Crown washed clean", "bare metal among carbon: coolant?", "crown", "washed-clean"),
    look("h", "Crown damaged", "pitted, holed or hit", "crown", "damaged"),
    look("b", "Valve edge burnt", "a notch in its rim", "valves", "burnt-edge"),
    look("y", "Oily stems", "wet carbon behind the head", "valves", "oily-stems"),
    look("x", "Heavy on the valves", "carbon that holds them open", "valves", "heavy-deposit"),
    look("c", "Coolant seen", "drops, a green or white edge", "coolant_trace", true),
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
    title: "What the air tells",
    caution: "The engine can kick over: nobody near a propeller, a belt or a breaker bar. Eyes covered.",
    answers: [
      escape(base, "n", "Nowhere", "listened at every place", "none"),
      escape(base, "i", "Intake", twoStroke ? "hiss at the carburettor: reed or port" : "hiss at the carburettor: intake valve", "intake"),
      escape(base, "e", "Exhaust", twoStroke ? "hiss at the tailpipe: over the port" : "hiss at the tailpipe: exhaust valve", "exhaust"),
      escape(base, "r", "Crankcase", "hiss at the oil filler: rings", "crankcase"),
      escape(base, "c", "Coolant", "bubbles: gasket or crack", "coolant"),
      escape(base, "b", "Neighbour", "out of the next hole: gasket between", "neighbour"),
    ],
    figure: { kind: "number", path: `${base}/readings/{n}/percent`, label: "Loss on the tester, %" },
    straight: true,
    counts: ["percent", "held", "escapes"].map((field) => `${base}/readings/{n}/${field}`),
    details: leakdown(base),
  };
}
