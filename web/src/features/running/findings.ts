import { options, type Group, type Tests } from "../record";

type Of<K extends keyof Tests> = NonNullable<Tests[K]>[number];
type Word<K extends keyof Tests, F extends keyof Of<K>> = NonNullable<Of<K>[F]>;

const SPARKS = "Ignition kills: hand off the tester, plug grounded, no open plug hole with fuel near it.";

/** What is heard and felt at the chosen cylinder with the engine running. */
export const LISTEN: readonly Group[] = [
  {
    title: "Listen at the plug",
    caution: "Hot engine, moving belts, exhaust: keep sleeves and hands clear.",
    fields: [
      { kind: "choice", path: "/tests/noise/{n}/kind", label: "What is heard",
        options: options<Word<"noise", "kind">>("puff", "sharp-tap"),
        hint: "A soft puff in time with it is gas past the seat; a sharp tap is valve gear." },
      { kind: "flag", path: "/tests/noise/{n}/fades_when_warm", label: "Fades when warm" },
      { kind: "choice", path: "/cylinders/{n}/well/combustion_leak", label: "Gas felt at the well",
        options: options("none", "slight", "strong") },
    ],
  },
  {
    title: "Does it pull its weight?",
    fields: [
      { kind: "choice", path: "/tests/balance/{n}/felt", label: "Cut out, what is felt",
        options: options<Word<"balance", "felt">>("none", "slight", "clear"),
        hint: "Cut by the injector where possible: an unplugged coil shocks people and feeds the catalyst raw fuel." },
      { kind: "number", path: "/tests/balance/{n}/rpm_drop", label: "Engine speed drops by, rpm" },
      { kind: "number", path: "/tests/misfires/{n}/count", label: "Misfire count" },
    ],
  },
];

/** What is tried on it. */
export const TRY: readonly Group[] = [
  {
    title: "Spark",
    caution: SPARKS,
    fields: [
      { kind: "choice", path: "/tests/spark/{n}/result", label: "Spark",
        options: options<Word<"spark", "result">>("strong", "weak", "none") },
      { kind: "choice", path: "/tests/spark/{n}/condition", label: "Seen on",
        options: options<Word<"spark", "condition">>("tester", "open-air"),
        hint: "In open air it proves little: under pressure a spark needs several times the voltage." },
    ],
  },
  {
    title: "Injector",
    fields: [
      { kind: "choice", path: "/tests/injector/{n}/pulse", label: "Pulse",
        options: options<Word<"injector", "pulse">>("present", "absent") },
      { kind: "choice", path: "/tests/injector/{n}/flow", label: "Flow",
        options: options<Word<"injector", "flow">>("good", "restricted", "leaking") },
    ],
  },
  {
    title: "Cleaned, run and read again",
    fields: [
      { kind: "choice", path: "/tests/reread/{n}/result", label: "The plug came back",
        options: options<Word<"reread", "result">>("clean", "same", "worse") },
    ],
  },
];

export const PORT_LOOK: Group = {
  title: "Through the exhaust port",
  fields: [
    { kind: "choice", path: "/tests/port_look/{n}/piston", label: "Piston",
      options: options<Word<"port_look", "piston">>("clean", "scuffed", "seized") },
  ],
};

export const SWAP_PARTS = options<Word<"swap", "part">>("coil", "plug", "lead", "injector");
export const SWAP_RESULTS = options<Word<"swap", "result">>("moved", "stayed", "vanished", "unclear");
