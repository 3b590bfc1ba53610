import { describe, expect, it } from "vitest";
import type { Document } from "../../api/client";
import type { Entries } from "../record";
import { fold, NUMBERING, stoodBefore, type Observation } from "./fold";
import { stillOwn } from "./useUndo";

const FIRST = [1, 2, 3, 4];
const TURNED = [4, 3, 2, 1];
const EMPTY = {
  format: "fiacre-inspection",
  version: 1,
  engine: { cycle: "four-stroke", layout: "inline", cylinders: 4, firing_order: [1, 3, 4, 2] },
} as Document;

const said = (path: string, value: unknown, numbering = FIRST): Observation => ({ path, value, numbering });
const from = (document: Document, ...observations: Observation[]) =>
  fold({ document, numbering: FIRST }, observations).document;

describe("the fold", () => {
  it("adds, corrects and takes back, and leaves the rest the very same object", () => {
    const one = from(EMPTY, said("/cylinders/3/plug/wetness", "wet"), said("/cylinders/1/well/oil", "trace"));
    expect(one.cylinders?.map((each) => each.number)).toEqual([1, 3]);
    const two = from(one, said("/cylinders/3/plug/wetness", null));
    expect(two.cylinders?.[1]?.plug).toEqual({});
    expect(two.cylinders?.[0]).toBe(one.cylinders?.[0]);
    expect(one.cylinders?.[1]?.plug?.wetness).toBe("wet");
  });

  it("takes a whole test back", () => {
    const begun = from(EMPTY, said("/tests/compression/dry-1/kind", "dry"));
    expect(from(begun, said("/tests/compression/dry-1", null)).tests?.compression).toEqual([]);
  });

  it("follows a cylinder through a renumbering, made here or elsewhere", () => {
    const known = from(EMPTY, said("/cylinders/1/plug/wetness", "wet"), said("/tests/swap/s/from", 1));
    const turned = fold({ document: known, numbering: FIRST }, [
      said(NUMBERING, TURNED),
      said("/cylinders/2/well/oil", "none"),
      said("/cylinders/4/well/oil", "trace", TURNED),
    ]);
    expect(turned.numbering).toEqual(TURNED);
    const cylinders = turned.document.cylinders;
    expect(cylinders?.map((each) => [each.number, each.plug?.wetness, each.well?.oil])).toEqual([
      [3, undefined, "none"],
      [4, "wet", "trace"],
    ]);
    expect(turned.document.tests?.swap?.[0]?.from).toBe(4);
    expect(turned.document.engine.firing_order).toEqual([1, 3, 4, 2]);
  });
});

describe("taking back", () => {
  const part: Entries = [["/work/removed/a/what", "air box"], ["/work/removed/a/back", false]];
  const wet: Entries = [["/cylinders/1/plug/wetness", "wet"]];
  const after = (document: Document, entries: Entries) => from(document, ...entries.map(([path, value]) => said(path, value ?? null)));

  it("takes what joined a list out of it whole, and once", () => {
    expect(stoodBefore(EMPTY, part, FIRST)).toEqual([["/work/removed/a", undefined]]);
    expect(after(after(EMPTY, part), stoodBefore(EMPTY, part, FIRST)).work?.removed).toEqual([]);
  });

  it("leaves what somebody else changed since, and follows a renumbering", () => {
    const done = { said: wet, stood: stoodBefore(EMPTY, wet, FIRST), numbering: FIRST };
    const mine = after(EMPTY, wet);
    expect(stillOwn(mine, FIRST, done)).toEqual([["/cylinders/1/plug/wetness", undefined]]);
    expect(stillOwn(after(mine, [["/cylinders/1/plug/wetness", "dry"]]), FIRST, done)).toEqual([]);
    const turned = fold({ document: mine, numbering: FIRST }, [said(NUMBERING, TURNED)]).document;
    expect(stillOwn(turned, TURNED, done)).toEqual([["/cylinders/4/plug/wetness", undefined]]);
  });
});
