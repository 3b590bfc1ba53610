/**
 * The language of the workbench. Every text on screen goes through `t`: in English it is the text
 * itself, in another language what that language's file in `web/locales` has for it. The file is
 * loaded before any other module runs, so a text may be said anywhere; another language loads the
 * page anew.
 *
 * `npm run texts` collects all of them in `web/locales/en.json`, where a translation starts.
 */
import i18next from "i18next";

type Texts = Record<string, string>;

const FILES = import.meta.glob<Texts>(["../locales/*.json", "!../locales/en.json"], { import: "default" });
const asked = globalThis.localStorage?.getItem("language") ?? "en";
const load = FILES[`../locales/${asked}.json`];
const language = load ? asked : "en";

const translations = i18next.createInstance();
void translations.init({
  lng: language,
  fallbackLng: false,
  initAsync: false,
  // The English text is its own key, whatever signs it has.
  keySeparator: false,
  nsSeparator: false,
  interpolation: { escapeValue: false, skipOnVariables: true },
  resources: load ? { [language]: { translation: await load() } } : {},
});

const plain = new Map<string, string>();

/** A text in the language of the workbench, its parts filled in: t("{{count}} photos", { count }). */
export function t(text: string, parts?: Record<string, unknown>): string {
  if (parts) return translations.t(text, parts);
  let said = plain.get(text);
  if (said === undefined) {
    said = translations.t(text);
    plain.set(text, said);
  }
  return said;
}

/** A word of the contract as it is said; other languages have it from the core's own catalogue. */
export function wordSaid(name: string): string {
  return t(name.replaceAll("-", " ").replaceAll("_", " "));
}
