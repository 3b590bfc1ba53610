import type { Field } from "../record";
import type { Kind } from "./useCompressionTest";

/** What was the same for every cylinder of a test, asked once. */
export function conditions(base: string, kind: Kind): readonly Field[] {
  const temperature = [
    { value: "cold", label: "cold" },
    { value: "warm", label: "warm" },
    { value: "hot", label: "hot" },
  ];
  const throttle = [
    { value: "open", label: "held open" },
    { value: "closed", label: "closed" },
  ];
  const shared: Field[] = [
    { kind: "choice", path: `${base}/engine_temperature`, label: "Engine", options: temperature },
    { kind: "choice", path: `${base}/throttle`, label: "Throttle", options: throttle },
    { kind: "number", path: `${base}/cranking_rpm`, label: "Cranking speed, rpm" },
    { kind: "number", path: `${base}/puffs`, label: "Strokes, the same for each" },
    { kind: "choice", path: `${base}/plugs_out`, label: "Plugs out", options: [{ value: "all", label: "all" }, { value: "one", label: "one at a time" }] },
    { kind: "text", path: `${base}/gauge`, label: "Gauge" },
  ];
  const oil: Field = {
    kind: "quantity",
    path: `${base}/oil`,
    label: "Oil in each",
    units: [
      { value: "mL", label: "mL" },
      { value: "fl-oz", label: "fl oz" },
    ],
  };
  return kind === "wet" ? [...shared, oil] : shared;
}
