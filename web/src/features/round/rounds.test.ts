import { describe, expect, it } from "vitest";
import type { Document } from "../../api/client";
import { roundOf, STEPS } from "../hand/steps";
import { leakdownRound } from "../inside/rounds";
import { FACES, WELLS } from "../plug/rounds";
import { answered, copied, following, RESERVED, type Round } from "./rounds";

const SIX = {
  format: "fiacre-inspection",
  version: 1,
  engine: { cycle: "four-stroke", layout: "vee", cylinders: 6 },
  inspection: { order: [5, 3, 1, 6, 4, 2], scope: [1, 3, 5, 6] },
  cylinders: [{ number: 3, well: { oil: "none" }, plug: { deposit_colour: "black", gap: { value: 1, unit: "mm" }, part: "L 14" } }],
} as unknown as Document;
const ROUNDS: readonly Round[] = STEPS.flatMap((step) => step.parts).flatMap((part) => roundOf(part, SIX) ?? []);

describe("every round", () => {
  it("asks at most a dozen answers, a key each, none of them a key with a meaning of its own", () => {
    expect(ROUNDS.length).toBeGreaterThan(14);
    for (const { id, answers } of ROUNDS) {
      const keys = answers.map((one) => one.key);
      expect(answers.length, id).toBeLessThanOrEqual(12);
      expect(new Set(keys).size, id).toBe(keys.length);
      for (const key of keys) expect([...Object.values(RESERVED), ""].includes(key), `${id} ${key}`).toBe(false);
    }
  });

  it("names the cylinder in whatever an answer writes, and counts what moves it on", () => {
    for (const { id, answers, counts } of ROUNDS) {
      for (const answer of answers) {
        for (const [path] of answer.sets) expect(path, id).toContain("{n}");
        if (answer.whole) expect(answer.sets.some(([path]) => counts.includes(path)), `${id} ${answer.key}`).toBe(true);
      }
    }
  });
});

describe("what the air tells", () => {
  it("is asked in the test that stands, imported or not, and begins none beside it", () => {
    const imported = { ...SIX, tests: { leakdown: [{ id: "brought along", readings: [{ cylinder: 1, percent: 30 }] }] } } as unknown as Document;
    const round = leakdownRound(imported);
    expect(answered(imported, round, 1)).toBe(true);
    expect(round.figure?.path).toBe("/tests/leakdown/brought along/readings/{n}/percent");
  });
});

describe("a round", () => {
  it("goes in the bench's order, then back to what was passed over, and knows when it is whole", () => {
    expect(following(SIX, FACES, 5)).toBe(3);
    expect(following(SIX, FACES, 1)).toBe(6);
    expect(following(SIX, FACES, 6)).toBe(5);
    const all = [1, 3, 5, 6].map((number) => ({ number, plug: { look: "fine" } }));
    expect(following({ ...SIX, cylinders: all } as unknown as Document, FACES, 6)).toBeUndefined();
  });

  it("takes over what it asks and nothing else: no measure, no number of a part, nothing of another round", () => {
    expect(copied(SIX, FACES, 3, 1)).toEqual([["/cylinders/1/plug/deposit_colour", "black"]]);
    expect(copied(SIX, WELLS, 3, 1)).toEqual([["/cylinders/1/well/oil", "none"]]);
    const worn = { deposit_colour: "tan", insulator: "sound", centre_electrode: "rounded", ground_electrode: "square" };
    const seen = { ...SIX, cylinders: [{ number: 1, plug: worn }] } as unknown as Document;
    const said = copied(seen, FACES, 1, 2).map(([path]) => path.split("/").at(-1));
    expect(said, "worn edges are a key of this round; square ones are another's").toEqual(["deposit_colour", "centre_electrode"]);
    expect(answered(SIX, FACES, 3) && answered(SIX, WELLS, 3)).toBe(true);
    expect(answered(SIX, FACES, 1)).toBe(false);
  });
});
