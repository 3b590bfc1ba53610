import { expect, test } from "vitest";
import { t, wordSaid } from "./language";
import { translations } from "./translations";

const german = translations("de", {
  "{{count}} photos_one": "{{count}} Foto",
  "{{count}} photos_other": "{{count}} Fotos",
  "Note: {{value}}.": "Notiz: {{value}}.",
  "key.with: signs": "Schlüssel",
});

test("an English text is itself, and so is one that nobody has translated, whatever signs it has", () => {
  for (const say of [t, german])
    for (const text of ["Add one", "a. b: c", "fl oz, 50 %", "key.with.dots", "a::b", "one_other"]) expect(say(text)).toBe(text);
  expect(german("key.with: signs")).toBe("Schlüssel");
});

test("parts stand as they were given: nothing in them is read as a text or a mark of the page", () => {
  for (const value of ["<b>tan</b>", "{{other}}", "$t(Add one)", "12,5", 'O"Neil & sons', "$&"]) {
    expect(t("Note: {{value}}.", { value, other: "no" })).toBe(`Note: ${value}.`);
    expect(german("Note: {{value}}.", { value, other: "no" })).toBe(`Notiz: ${value}.`);
  }
  expect(t("{{count}} of {{all}}", { count: 1, all: 3 })).toBe("1 of 3");
});

test("another language counts as it does", () => {
  expect([1, 3].map((count) => german("{{count}} photos", { count }))).toEqual(["1 Foto", "3 Fotos"]);
});

test("a word of the contract is said with spaces", () => {
  expect(wordSaid("misfire-under-load")).toBe("misfire under load");
  expect(wordSaid("deposit_colour")).toBe("deposit colour");
});
