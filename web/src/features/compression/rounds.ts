import { t } from "../../language";
import type { Document } from "../../api/client";
import { PRESSURE_UNITS } from "../record";
import type { Round } from "../round";
import { testOf, type Kind } from "./useCompressionTest";

/** The pressures of the dry or the wet test that stands, or that the first reading begins. */
export function pressureRound(document: Document, kind: Kind): Round {
  const { base, opening } = testOf(document, kind);
  const reading = `${base}/readings/{n}`;
  return {
    id: kind,
    title: kind === "dry" ? t("Dry compression") : t("Wet compression, with oil"),
    opening,
    answers: [
      { key: "v", label: t("A good reading"), tell: t("the hose sat, the strokes were even"), sets: [[`${reading}/quality`, "good"]] },
      { key: "l", label: t("The seal leaked"), tell: t("it hissed at the adapter: read again"), sets: [[`${reading}/quality`, "seal-leak"]] },
      { key: "q", label: t("Doubtful"), tell: t("battery, strokes, gauge: not sure of it"), sets: [[`${reading}/quality`, "doubtful"]] },
    ],
    figure: { kind: "quantity", path: `${reading}/pressure`, label: t("Pressure"), units: PRESSURE_UNITS },
    straight: true,
    typed: true,
    counts: [`${reading}/pressure`],
    details: [],
  };
}
