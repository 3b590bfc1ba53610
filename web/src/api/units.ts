import { t } from "../language";

/** In what a report gives its figures, and an empty field starts. */
export const UNITS = [
  { value: "as-read", label: t("as read") },
  { value: "metric", label: t("metric") },
  { value: "bar", label: t("metric, with bar") },
  { value: "imperial", label: t("imperial") },
] as const;
