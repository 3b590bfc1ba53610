import { expect, test } from "vitest";
import { t, wordSaid } from "./language";

test("an English text is itself, whatever signs it has", () => {
  for (const text of ["Add one", "a. b: c", "fl oz, 50 %", "key.with.dots", "a::b", "one_other"]) expect(t(text)).toBe(text);
});

test("parts stand as they were given: nothing in them is read as a text or a mark of the page", () => {
  for (const value of ["<b>tan</b>", "{{other}}", "$t(Add one)", "12,5", 'O"Neil & sons'])
    expect(t("Note: {{value}}.", { value, other: "no" })).toBe(`Note: ${value}.`);
  expect(t("{{count}} of {{all}}", { count: 1, all: 3 })).toBe("1 of 3");
});

test("a word of the contract is said with spaces", () => {
  expect(wordSaid("misfire-under-load")).toBe("misfire under load");
  expect(wordSaid("deposit_colour")).toBe("deposit colour");
});
