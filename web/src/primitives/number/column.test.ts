import { expect, it } from "vitest";
import { PRESSURE_UNITS } from "../../features/record";
import { column } from "./column";

const read = (text: string) => column(text, PRESSURE_UNITS, "psi")?.map((one) => (one ? `${one.value} ${one.unit}` : "-"));

it("reads a column and a row, with what was not read left out", () => {
  expect(read("150\r\n148\r\n-\r\n151\r\n")).toEqual(["150 psi", "148 psi", "-", "151 psi"]);
  expect(read("10,4\t10.2 bar\t9,9")).toEqual(["10.4 psi", "10.2 bar", "9.9 psi"]);
  expect(read("150 148 151")).toEqual(["150 psi", "148 psi", "151 psi"]);
});

it("leaves alone what is one figure, no figure, or perhaps two", () => {
  for (const text of ["150", "150\ndry", "1,034\n1,040", ""]) expect(read(text)).toBeUndefined();
});
