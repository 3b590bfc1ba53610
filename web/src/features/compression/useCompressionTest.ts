import type { Document } from "../../api/client";

type Test = NonNullable<NonNullable<Document["tests"]>["compression"]>[number];
export type Pressure = NonNullable<NonNullable<Test["readings"]>[number]["pressure"]>;
export type PressureUnit = Pressure["unit"];

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
  /** What the gauge showed after each stroke, as far as it was noted. */
  strokes: (cylinder: number) => readonly Pressure[];
  /** What has to be recorded first, before a reading of a test that is not begun. */
  opening: readonly (readonly [string, unknown])[];
}

export type Kind = Test["kind"];

/** The inspection's tests of one kind: the last one, or the one that the first reading will begin. */
export function testOf(document: Document, kind: Kind): CompressionTest {
  const tests = document.tests?.compression?.filter((one) => one.kind === kind) ?? [];
  return asTest(tests.at(-1), kind, tests.length || 1);
}

/** A further test of the same kind, not begun yet. */
export function nextTest(document: Document, kind: Kind): CompressionTest {
  const tests = document.tests?.compression?.filter((one) => one.kind === kind) ?? [];
  return asTest(undefined, kind, tests.length + 1);
}

function asTest(test: Test | undefined, kind: Kind, count: number): CompressionTest {
  const base = `/tests/compression/${test?.id ?? `${kind}-${count}`}`;
  return {
    base,
    started: test !== undefined,
    test,
    reading: (cylinder) => test?.readings?.find((one) => one.cylinder === cylinder)?.pressure,
    strokes: (cylinder) => test?.readings?.find((one) => one.cylinder === cylinder)?.strokes ?? [],
    opening: test ? [] : [[`${base}/kind`, kind]],
  };
}
