import { t } from "../../language";
import type { Document } from "../../api/client";
import { LENGTH_UNITS, options, PRESSURE_UNITS, type CylinderRecord, type Group, type Tests } from "../record";

type Inside = NonNullable<CylinderRecord["borescope"]>;
type Leakdown = NonNullable<Tests["leakdown"]>[number];
export type Escape = NonNullable<NonNullable<Leakdown["readings"]>[number]["escapes"]>[number];

/** The leak-down test that readings join: the last one that stands, else the first to be begun. */
export function testId(document: Document): string {
  return document.tests?.leakdown?.at(-1)?.id ?? "leakdown-1";
}

export const INSIDE: readonly Group[] = [
  {
    title: t("Through the plug hole"),
    fields: [
      { kind: "choice", path: "/cylinders/{n}/borescope/bore", label: t("Bore"),
        options: options<NonNullable<Inside["bore"]>>("cross-hatched", "polished", "scored", "washed", "rusted") },
      { kind: "choice", path: "/cylinders/{n}/borescope/crown", label: t("Crown"),
        options: options<NonNullable<Inside["crown"]>>("dry-carbon", "oily", "washed-clean", "damaged") },
      { kind: "choice", path: "/cylinders/{n}/borescope/crown_carbon", label: t("Carbon on the crown"),
        options: options<NonNullable<Inside["crown_carbon"]>>("none", "light", "heavy") },
      { kind: "choice", path: "/cylinders/{n}/borescope/valves", label: t("Valves"),
        options: options<NonNullable<Inside["valves"]>>("even", "burnt-edge", "oily-stems", "heavy-deposit") },
      { kind: "flag", path: "/cylinders/{n}/borescope/coolant_trace", label: t("Coolant seen") },
    ],
  },
];

/** Of the leak-down test at a place of the document. */
export function leakdown(base: string): readonly Group[] {
  return [
    {
      title: t("Read as pressure held"),
      fields: [{ kind: "quantity", path: `${base}/readings/{n}/held`, label: t("Pressure it holds"), units: PRESSURE_UNITS }],
    },
    {
      title: t("The tester, once for all cylinders"),
      fields: [
        { kind: "quantity", path: `${base}/supply`, label: t("Supply"), units: PRESSURE_UNITS },
        { kind: "quantity", path: `${base}/restrictor`, label: t("Restrictor bore"), units: LENGTH_UNITS },
        { kind: "choice", path: `${base}/engine_temperature`, label: t("Engine"),
          options: options("cold", "warm", "hot") },
      ],
    },
  ];
}
