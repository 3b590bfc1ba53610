import { describe, expect, it } from "vitest";
import { chosenBy } from "./digits";
import { meaningOf, type Key, type Where } from "./meaning";
import { placeOf, STEPS } from "./steps";

const key = (name: string, held: Partial<Key> = {}): Key => ({ key: name, shiftKey: false, ctrlKey: false, metaKey: false, altKey: false, ...held });
const PLACES: readonly Where[] = ["page", "button", "words"];

describe("a key", () => {
  it("is typed where something is typed, whatever it is", () => {
    for (const name of ["2", "m", "=", "Enter", "ArrowLeft", "?", "z"]) expect(meaningOf(key(name), "typing", true)).toBeUndefined();
  });

  it("that is a digit chooses a cylinder everywhere else, ticks and buttons included", () => {
    for (const where of [...PLACES, "elsewhere"] as const) expect(meaningOf(key("4"), where, true)).toEqual({ do: "digit", digit: 4 });
  });

  it("that is a letter says nothing of a cylinder from a link, the header or a question", () => {
    for (const letter of "abcdefghijklmnopqrstuvwxyz") expect(meaningOf(key(letter), "elsewhere", true)).toBeUndefined();
  });

  it("alone does nothing where single keys are off; arrows, Enter and Ctrl with z still do", () => {
    for (const name of ["4", "m", "=", "+", "?"]) expect(meaningOf(key(name), "page", false)).toBeUndefined();
    expect(meaningOf(key("ArrowRight"), "page", false)).toEqual({ do: "walk", by: 1 });
    expect(meaningOf(key("Enter"), "page", false)).toEqual({ do: "next" });
    expect(meaningOf(key("z", { ctrlKey: true }), "page", false)).toEqual({ do: "undo" });
  });

  it("means the same with a locked Shift", () => {
    expect(meaningOf(key("M"), "page", true)).toEqual({ do: "answer", key: "m" });
    expect(meaningOf(key("f", { shiftKey: true }), "page", true)).toEqual({ do: "step", key: "f" });
  });

  it("leaves a button and a row of words what is theirs", () => {
    expect(meaningOf(key("Enter"), "button", true)).toBeUndefined();
    expect(meaningOf(key("ArrowRight"), "words", true)).toBeUndefined();
  });
});

describe("digits", () => {
  it("make a number of two only in quick succession, and only where there is such a cylinder", () => {
    expect(chosenBy(2, 500, 12, { digit: 1, at: 100 })).toBe(12);
    expect(chosenBy(2, 900, 12, { digit: 1, at: 100 })).toBe(2);
    expect(chosenBy(2, 500, 8, { digit: 1, at: 100 })).toBe(2);
    expect(chosenBy(0, 500, 12, { digit: 1, at: 100 })).toBe(10);
    expect(chosenBy(9, 500, 8, undefined)).toBeUndefined();
  });
});

describe("steps", () => {
  it("have a key and an address each, and no two the same", () => {
    const keys = STEPS.map((step) => step.key);
    const parts = STEPS.flatMap((step) => step.parts.map((part) => part.id));
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(parts).size).toBe(parts.length);
    for (const id of parts) expect(placeOf(id).part.id).toBe(id);
  });
});
