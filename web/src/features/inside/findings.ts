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
    title: "Through the plug hole",
    fields: [
      { kind: "choice", path: "/cylinders/{n}/borescope/bore", label: "Bore",
        options: options<NonNullable<Inside["bore"]>>("cross-hatched", "polished", "scored", "washed", "rusted") },
      { kind: "choice", path: "/cylinders/{n}/borescope/crown", label: "Crown",
        options: options<NonNullable<Inside["crown"]>>("dry-carbon", "oily", "washed-clean", "damaged") },
      { kind: "choice", path: "/cylinders/{n}/borescope/crown_carbon", label: "Carbon on the crown",
        options: options<NonNullable<Inside["crown_carbon"]>>("none", "light", "heavy") },
      { kind: "choice", path: "/cylinders/{n}/borescope/valves", label: "Valves",
        options: options<NonNullable<Inside["valves"]>>("even", "burnt-edge", "oily-stems", "heavy-deposit") },
      { kind: "flag", path: "/cylinders/{n}/borescope/coolant_trace", label: "Coolant seen" },
    ],
  },
];

/** Of the leak-down test at a place of the document. */
export function leakdown(base: string): readonly Group[] {
  return [
    {
      title: "Read as pressure held",
      fields: [{ kind: "quantity", path: `${base}/readings/{n}/held`, label: "Pressure it holds", units: PRESSURE_UNITS }],
    },
    {
      title: "The tester, once for all cylinders",
      fields: [
        { kind: "quantity", path: `${base}/supply`, label: "Supply", units: PRESSURE_UNITS },
        { kind: "quantity", path: `${base}/restrictor`, label: "Restrictor bore", units: LENGTH_UNITS },
        { kind: "choice", path: `${base}/engine_temperature`, label: "Engine",
          options: options("cold", "warm", "hot") },
      ],
    },
  ];
}
