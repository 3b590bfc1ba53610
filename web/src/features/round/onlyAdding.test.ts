import { describe, expect, it } from "vitest";
import type { Document } from "../../api/client";
import { changesInWords, offer } from "./onlyAdding";
import { FACES } from "../plug/rounds";

const found = {
  engine: { cylinders: 4 },
  cylinders: [
    {
      number: 2,
      well: { oil: "pooled" },
      plug: { seating: "loose", insulator: "cracked-nose", ground_electrode: "missing" },
    },
  ],
} as unknown as Document;

const at = (key: string) =>
  (FACES.answers.find((one) => one.key === key)?.sets ?? []).map(([path, value]) => [path.replace("{n}", "2"), value] as const);

describe("a reading", () => {
  it("never claims what the face does not show, whichever it is", () => {
    const faces = ["n", "t", "s", "f", "o", "q", "a", "h", "k"];
    for (const key of faces) {
      for (const [path] of at(key)) expect(path).toMatch(/plug\/(deposit_|wet|look)/);
    }
  });

  it("leaves what somebody saw, and fills only what is empty", () => {
    const made = offer(found, at("n"));
    expect(made).toEqual({ adds: [["/cylinders/2/plug/look", "fine"]], changes: [] });
  });

  it("shows what it would change before it does", () => {
    const made = offer(found, [["/cylinders/2/plug/insulator", "sound"], ["/cylinders/2/plug/wetness", "dry"]]);
    expect(changesInWords(made)).toBe("insulator: cracked nose, now sound");
    expect(made.adds).toEqual([["/cylinders/2/plug/wetness", "dry"]]);
  });

  it("joins a word to a list, and asks where the two cannot stand together", () => {
    const boot = (...words: string[]) => ({ ...found, cylinders: [{ number: 2, boot: words }] }) as unknown as Document;
    const reading = (word: string) => [["/cylinders/2/boot", [word]]] as const;
    expect(offer(boot("oily"), reading("cracked")).adds).toEqual([["/cylinders/2/boot", ["oily", "cracked"]]]);
    expect(offer(boot("oily"), reading("oily"))).toEqual({ adds: [], changes: [] });
    expect(offer(boot("oily"), reading("clean")).changes).toHaveLength(1);
    expect(offer(boot("clean"), reading("oily")).changes).toHaveLength(1);
  });
});
