/** Collects every text of the workbench in locales/en.json: what a translation starts from. */
export default {
  locales: ["en"],
  input: ["src/**/*.{ts,tsx}", "!src/**/*.test.ts"],
  output: "locales/$LOCALE.json",
  defaultValue: (_locale, _namespace, text) => text,
  keySeparator: false,
  namespaceSeparator: false,
  pluralSeparator: "_",
  contextSeparator: false,
  createOldCatalogs: false,
  keepRemoved: false,
  sort: true,
  lexers: { ts: ["JavascriptLexer"], tsx: ["JsxLexer"] },
};
