import { t } from "../../language";
import type { Field } from "../record";
import type { Kind } from "./useCompressionTest";

/** What was the same for every cylinder of a test, asked once. */
export function conditions(base: string, kind: Kind): readonly Field[] {
  const temperature = [
    { value: "cold", label: t("cold") },
    { value: "warm", label: t("warm") },
    { value: "hot", label: t("hot") },
  ];
  const throttle = [
    { value: "open", label: t("held open") },
    { value: "closed", label: t("closed") },
  ];
  const shared: Field[] = [
    { kind: "choice", path: `${base}/engine_temperature`, label: t("Engine"), options: temperature },
    { kind: "choice", path: `${base}/throttle`, label: t("Throttle"), options: throttle },
    { kind: "number", path: `${base}/cranking_rpm`, label: t("Cranking speed, rpm") },
    { kind: "number", path: `${base}/puffs`, label: t("Strokes, the same for each") },
    { kind: "choice", path: `${base}/plugs_out`, label: t("Plugs out"), options: [{ value: "all", label: t("all") }, { value: "one", label: t("one at a time") }] },
    { kind: "text", path: `${base}/gauge`, label: t("Gauge") },
  ];
  const oil: Field = {
    kind: "quantity",
    path: `${base}/oil`,
    label: t("Oil in each"),
    units: [
      { value: "mL", label: "mL" },
      { value: "fl-oz", label: "fl oz" },
    ],
  };
  return kind === "wet" ? [...shared, oil] : shared;
}
