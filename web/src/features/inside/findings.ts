import { LENGTH_UNITS, options, PRESSURE_UNITS, type CylinderRecord, type Group, type Tests } from "../record";

type Inside = NonNullable<CylinderRecord["borescope"]>;
type Leakdown = NonNullable<Tests["leakdown"]>[number];
export type Escape = NonNullable<NonNullable<Leakdown["readings"]>[number]["escapes"]>[number];

export const TEST = "/tests/leakdown/leakdown-1";

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

export const LEAKDOWN: readonly Group[] = [
  {
    title: "Leak-down",
    caution: "The engine can kick over: nobody near a propeller, a belt or a breaker bar. Eyes covered.",
    fields: [
      { kind: "quantity", path: `${TEST}/readings/{n}/held`, label: "Pressure it holds", units: PRESSURE_UNITS },
      { kind: "number", path: `${TEST}/readings/{n}/percent`, label: "Or loss on the tester, %" },
    ],
  },
  {
    title: "The tester, once for all cylinders",
    fields: [
      { kind: "quantity", path: `${TEST}/supply`, label: "Supply", units: PRESSURE_UNITS },
      { kind: "quantity", path: `${TEST}/restrictor`, label: "Restrictor bore", units: LENGTH_UNITS },
      { kind: "choice", path: `${TEST}/engine_temperature`, label: "Engine",
        options: options("cold", "warm", "hot") },
    ],
  },
];
