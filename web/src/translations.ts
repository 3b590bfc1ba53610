import i18next from "i18next";

/** What looks texts up in another language than English, with that language's rules for parts and plurals. */
export function translations(language: string, texts: Record<string, string>) {
  const made = i18next.createInstance();
  void made.init({
    lng: language,
    fallbackLng: false,
    initAsync: false,
    // The English text is its own key, whatever signs it has.
    keySeparator: false,
    nsSeparator: false,
    interpolation: { escapeValue: false, skipOnVariables: true },
    resources: { [language]: { translation: texts } },
  });
  return (text: string, parts?: Record<string, unknown>): string => made.t(text, parts ?? {});
}
