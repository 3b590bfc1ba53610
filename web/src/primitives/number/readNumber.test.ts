import { describe, expect, it } from "vitest";
import { readNumber, writeNumber } from "./readNumber";

const GAP = [
  { value: "mm", label: "mm" },
  { value: "in", label: "in" },
  { value: "thou", label: "thou" },
];
const TORQUE = [
  { value: "N.m", label: "N·m" },
  { value: "lbf.ft", label: "lbf·ft" },
];

const value = (text: string) => {
  const read = readNumber(text);
  return read.kind === "number" ? read.value : read.kind === "either" ? read.values : read.kind;
};

describe("a number as it is typed", () => {
  it.each([
    ["0,9", 0.9],
    ["0.9", 0.9],
    [".035", 0.035],
    ["12,", 12],
    ["183456", 183456],
    ["12.34", 12.34],
    ["0.456", 0.456],
    ["1 250", 1250],
    ["1’250,5", 1250.5],
    ["1,250,000", 1250000],
    ["1.250,5", 1250.5],
    ["1,250.75", 1250.75],
    ["−5", -5],
  ])("%s is %d", (text, expected) => expect(value(text)).toBe(expected));

  it.each([
    ["1,250", [1250, 1.25]],
    ["183.456", [183456, 183.456]],
    ["183,456", [183456, 183.456]],
  ])("%s is asked about", (text, expected) => expect(value(text)).toEqual(expected));

  it.each(["abc", ",", "1..2", "1,25,0", "1.2.3", "1.234.56", "12 34"])("%s is none", (text) =>
    expect(value(text)).toBe("wrong"),
  );

  it("takes the unit that stands behind it", () => {
    expect(readNumber("23 thou", GAP)).toEqual({ kind: "number", value: 23, unit: "thou" });
    expect(readNumber("0.035in", GAP)).toMatchObject({ value: 0.035, unit: "in" });
    expect(readNumber('0.035"', GAP)).toMatchObject({ unit: "in" });
    expect(readNumber("20 Nm", TORQUE)).toMatchObject({ value: 20, unit: "N.m" });
    expect(readNumber("15 ft-lb", TORQUE)).toMatchObject({ unit: "lbf.ft" });
    expect(readNumber("15 psi", TORQUE)).toMatchObject({ kind: "wrong" });
    expect(readNumber("1,250 km", [{ value: "km", label: "km" }])).toMatchObject({ kind: "either", unit: "km" });
  });

  it("is written as the place writes it, and read back", () => {
    expect(writeNumber(1250.5, "de")).toBe("1250,5");
    expect(writeNumber(0.035, "en")).toBe("0.035");
    expect(value(writeNumber(183456, "de"))).toBe(183456);
  });
});
