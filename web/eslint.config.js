import js from "@eslint/js";
import i18next from "eslint-plugin-i18next";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// What no reader sees: class names, addresses, marks of a drawing, words of a program.
const ATTRIBUTES = [
  "className", "role", "type", "id", "key", "href", "to", "d", "viewBox", "fill", "stroke.*", "transform", "rel",
  "target", "autoComplete", "inputMode", "name", "htmlFor", "style", "points", "textAnchor", "preserveAspectRatio",
  "method", "accept", "pattern", "enterKeyHint", "font.*", "dominantBaseline", "markerEnd", "clipPath", "offset",
  "capture", "side", "align", "orientation", "value", "scope", "lang", "weight", "tone", "kind", "field", "path",
  "step", "variant", "size", "as", "mode", "data-.*", "aria-keyshortcuts", "aria-live", "aria-controls", "of", "width",
  "height", "x", "y", "part", "of", "what", "round", "look", "slot", "sandbox", "loading", "decoding", "wrap", "form",
  "colour", "list", "fallback", "accent", "unit", "on", "position", "aria-current", "aria-haspopup", "aria-pressed", "event",
];
const WORD = /^[^\sA-Z][^\s]*$|^[A-Z0-9_.:/+-]+$|^[A-Z][a-z]*[A-Z]\w*$|^[^A-Za-z]*$|^[^A-Za-z]*[A-Za-z][^A-Za-z]*$/;
const CLASSES =
  /(^|\s)(-?(text|bg|border|grid|flex|min|max|p|px|py|pt|pb|pl|pr|m|mx|my|mt|mb|ml|mr|gap|font|rounded|w|h|inset|top|left|z|col|row|items|justify|content|self|overflow|leading|tracking|sr|cursor|break|select|place|order|ring|outline|accent|opacity|stroke|fill|shadow|divide|space|line|list|align|caption)(-[\w./[\]%()#,]+)+|(sm|md|lg|xl|hover|focus|disabled|print):\S+)(\s|$)/;

export default tseslint.config(
  { ignores: ["dist", "**/*.generated.d.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  { plugins: { "react-hooks": hooks }, rules: hooks.configs.recommended.rules },
  {
    // Every text of a screen goes through `t`: see src/language.ts.
    files: ["src/**/*.{ts,tsx}"],
    ignores: ["**/*.test.ts", "**/*.generated.ts", "src/language.ts"],
    plugins: { screen: i18next, texts: i18next },
    rules: {
      "screen/no-literal-string": [
        "error",
        {
          mode: "jsx-only",
          "should-validate-template": true,
          "jsx-attributes": { exclude: [...ATTRIBUTES, "columns", "plug"] },
          callees: { exclude: [".*"] },
          "object-properties": { exclude: ["value", "kind", "path", "id", ".*_electrode"] },
          words: { exclude: [/^[^A-Za-z]*$/, /^.$/, /^\//, CLASSES] },
        },
      ],
      "texts/no-literal-string": [
        "error",
        {
          mode: "all",
          "should-validate-template": true,
          "jsx-attributes": { exclude: ATTRIBUTES },
          callees: { exclude: ["t", "closest", "matches", "matchMedia", "querySelectorAll", "replace", "headers.set", "File"] },
          words: { exclude: [WORD, CLASSES, "fl oz"] },
        },
      ],
    },
  },
);
