/** Languages in which reports are written; the workbench itself is in English. */
export const LANGUAGES = [
  { value: "en", label: "English" },
  { value: "de", label: "Deutsch" },
] as const;
