import type { Document } from "../../api/client";

type Test = NonNullable<NonNullable<Document["tests"]>["compression"]>[number];
export type Pressure = NonNullable<NonNullable<Test["readings"]>[number]["pressure"]>;
export type PressureUnit = Pressure["unit"];

export const PRESSURE_UNITS = [
  { value: "psi", label: "psi" },
  { value: "kPa", label: "kPa" },
  { value: "bar", label: "bar" },
  { value: "kgf/cm2", label: "kgf/cm²" },
] as const;

/** For drawing bars against each other only; the core converts what is computed with. */
const DRAWN_PSI: Record<PressureUnit, number> = { psi: 1, kPa: 0.145038, bar: 14.5038, "kgf/cm2": 14.2233 };

export function drawnPsi(pressure: Pressure): number {
  return pressure.value * DRAWN_PSI[pressure.unit];
}

export interface CompressionTest {
  base: string;
  started: boolean;
  test: Test | undefined;
  reading: (cylinder: number) => Pressure | undefined;
  /** What has to be recorded first, before a reading of a test that is not begun. */
  opening: readonly (readonly [string, unknown])[];
}

/** The inspection's dry test: the last one, or the one that the first reading will begin. */
export function dryTest(document: Document): CompressionTest {
  const tests = document.tests?.compression?.filter((one) => one.kind === "dry") ?? [];
  const test = tests.at(-1);
  const base = `/tests/compression/${test?.id ?? "dry-1"}`;
  return {
    base,
    started: test !== undefined,
    test,
    reading: (cylinder) => test?.readings?.find((one) => one.cylinder === cylinder)?.pressure,
    opening: test ? [] : [[`${base}/kind`, "dry"]],
  };
}
