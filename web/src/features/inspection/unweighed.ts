import { t } from "../../language";
import type { Assessment, Document, Inspection } from "../../api/client";
import type { Begin } from "../../queue";

/** What stands where an assessment will be: nothing is known, and nothing is claimed. */
export function unweighed(document: Document, verdict: string): Assessment {
  const numbers = Array.from({ length: document.engine.cylinders }, (_, index) => index + 1);
  return {
    format: "fiacre-assessment",
    version: 1,
    shared: [],
    engine: {
      grade: "U",
      verdict,
      most_suspect: [],
      faults: [],
      may_run: { answer: "unknown", reason: "", hazards: [] },
      coverage: { plugs: 0, pressures: 0, leakdown: 0, of: numbers.length },
      intermittent: false,
      question: { complaints: [], codes: [], cylinders: [], today: "unknown", state: "none", text: "", asked: "" },
      claims: [],
      read_again: [],
      rest: "",
      work: {
        expected_hours: 0,
        bad_luck_hours: 0,
        hourly_rate: 0,
        currency: "",
        expected_cost: 0,
        bad_luck_cost: 0,
        note: "",
        unexamined: { expected_cost: 0, bad_luck_cost: 0 },
      },
    },
    cylinders: numbers.map((number) => ({
      number,
      grade: "U",
      plug_action: "not-seen",
      plug_reason: "",
      faults: [],
      consequences: {},
      odd: [],
      rivals: [],
      unseen: [],
      examined: false,
    })),
    banks: [],
    pairs: [],
    compression: { rules: [], expected: { low: { value: 0, unit: "psi" }, high: { value: 0, unit: "psi" }, basis: "" } },
    leakdown: { rules: [] },
    next_tests: [],
    warnings: [],
    rules_version: "",
  };
}

/** An inspection of which this device knows the document, and that nobody has weighed. */
export function notWeighed({ inspection, engine, document, plan }: Pick<Begin, "inspection" | "engine" | "document" | "plan">, verdict: string): Inspection {
  return {
    id: inspection,
    engine,
    sequence: 0,
    weighed: 0,
    locked: false,
    numbering: Array.from({ length: document.engine.cylinders }, (_, index) => index + 1),
    document,
    assessment: unweighed(document, verdict),
    plan,
    conflicts: [],
  };
}

/** An inspection that was begun here and that the server does not know yet. */
export function begunHere(act: Begin): Inspection {
  return notWeighed(act, t("Begun on this device. It is weighed as soon as the server answers."));
}
