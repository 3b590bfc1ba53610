/**
 * The language of the workbench. Every text on screen goes through `t`: in English it is the text
 * itself, in another language what that language's file in `web/locales` has for it. The file is
 * loaded before any other module runs, so a text may be said anywhere; another language loads the
 * page anew. Who speaks English fetches neither the file nor what reads it.
 *
 * `npm run texts` collects all of them in `web/locales/en.json`, where a translation starts.
 */
type Parts = Record<string, unknown>;

const FILES = import.meta.glob<Record<string, string>>(["../locales/*.json", "!../locales/en.json"], { import: "default" });
const language = globalThis.localStorage?.getItem("language") ?? "en";
const load = FILES[`../locales/${language}.json`];
const translated = load && (await import("./translations")).translations(language, await load());

/** A text in the language of the workbench, its parts filled in: t("{{count}} photos", { count }). */
export function t(text: string, parts?: Parts): string {
  if (translated) return translated(text, parts);
  return parts ? text.replace(/\{\{(\w+)\}\}/g, (_, name: string) => String(parts[name] ?? "")) : text;
}

/** A word of the contract as it is said; other languages have it from the core's own catalogue. */
export function wordSaid(name: string): string {
  return t(name.replaceAll("-", " ").replaceAll("_", " "));
}
