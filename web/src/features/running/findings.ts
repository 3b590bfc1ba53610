import { t } from "../../language";
import { options, type Group, type Tests } from "../record";

type Of<K extends keyof Tests> = NonNullable<Tests[K]>[number];
type Word<K extends keyof Tests, F extends keyof Of<K>> = NonNullable<Of<K>[F]>;

export const LISTENING: Group = {
  title: t("What is heard"),
  fields: [
    { kind: "choice", path: "/tests/noise/{n}/kind", label: t("What is heard"),
      options: options<Word<"noise", "kind">>("puff", "sharp-tap"),
      hint: t("A soft puff in time with it is gas past the seat; a sharp tap is valve gear.") },
    { kind: "flag", path: "/tests/noise/{n}/fades_when_warm", label: t("Fades when warm") },
    { kind: "choice", path: "/cylinders/{n}/well/combustion_leak", label: t("Gas felt at the well"),
      options: options("none", "slight", "strong") },
  ],
};

export const CUT_OUT: Group = {
  title: t("Cut out"),
  fields: [
    { kind: "choice", path: "/tests/balance/{n}/felt", label: t("Cut out, what is felt"),
      options: options<Word<"balance", "felt">>("none", "slight", "clear") },
  ],
};

export const MISFIRES: Group = {
  title: t("Where the count comes from"),
  fields: [{ kind: "text", path: "/tests/misfires/{n}/instrument", label: t("Read from") }],
};

export const SPARK: Group = {
  title: t("Spark"),
  fields: [
    { kind: "choice", path: "/tests/spark/{n}/result", label: t("Spark"),
      options: options<Word<"spark", "result">>("strong", "weak", "none") },
    { kind: "choice", path: "/tests/spark/{n}/condition", label: t("Seen on"),
      options: options<Word<"spark", "condition">>("tester", "open-air"),
      hint: t("In open air it proves little: under pressure a spark needs several times the voltage.") },
  ],
};

export const INJECTOR: Group = {
  title: t("Injector"),
  fields: [
    { kind: "choice", path: "/tests/injector/{n}/pulse", label: t("Pulse"),
      options: options<Word<"injector", "pulse">>("present", "absent") },
    { kind: "choice", path: "/tests/injector/{n}/flow", label: t("Flow"),
      options: options<Word<"injector", "flow">>("good", "restricted", "leaking") },
  ],
};

export const REREAD: Group = {
  title: t("Read again"),
  fields: [
    { kind: "choice", path: "/tests/reread/{n}/result", label: t("The plug came back"),
      options: options<Word<"reread", "result">>("clean", "same", "worse") },
  ],
};

export const PORT_LOOK: Group = {
  title: t("Through the exhaust port"),
  fields: [
    { kind: "choice", path: "/tests/port_look/{n}/piston", label: t("Piston"),
      options: options<Word<"port_look", "piston">>("clean", "scuffed", "seized") },
  ],
};

export const SWAP_PARTS = options<Word<"swap", "part">>("coil", "plug", "lead", "injector");
export const SWAP_RESULTS = options<Word<"swap", "result">>("moved", "stayed", "vanished", "unclear");
