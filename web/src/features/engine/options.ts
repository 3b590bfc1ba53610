import { t } from "../../language";
export const IGNITION = [
  { value: "coil-on-plug", label: t("a coil on each plug") },
  { value: "wasted-spark", label: t("a coil for two (wasted spark)") },
  { value: "distributor", label: t("distributor") },
  { value: "magneto", label: t("magneto") },
] as const;

export const FUEL = [
  { value: "carburettor", label: t("carburettor") },
  { value: "throttle-body", label: t("throttle-body injection") },
  { value: "port", label: t("port injection") },
  { value: "direct", label: t("direct injection") },
] as const;
