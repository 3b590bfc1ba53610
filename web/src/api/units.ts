import { t } from "../language";

/** In what a report gives its figures. */
export const UNITS = [
  { value: "as-read", label: t("as read") },
  { value: "metric", label: t("metric") },
  { value: "imperial", label: t("imperial") },
] as const;
