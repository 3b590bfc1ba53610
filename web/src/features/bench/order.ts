import { t } from "../../language";
import type { Document, Plan } from "../../api/client";

/** The cylinders of this job, in the order in which it is worked; by number where nobody chose one. */
export function worked(document: Document): readonly number[] {
  const all = Array.from({ length: document.engine.cylinders }, (_, index) => index + 1);
  const { order = [], scope = [] } = document.inspection ?? {};
  const inOrder = [...order, ...all.filter((number) => !order.includes(number))];
  return scope.length > 0 ? inOrder.filter((number) => scope.includes(number)) : inOrder;
}

/** Things of cylinders in the order in which the job is worked, those outside of it left out. */
export function inWorkOrder<T>(document: Document, things: readonly T[], cylinder: (thing: T) => number): readonly T[] {
  return worked(document).flatMap((number) => things.filter((one) => cylinder(one) === number));
}

/** The cylinder that is worked before or after another; undefined at either end. */
export function beside(document: Document, cylinder: number, step: 1 | -1): number | undefined {
  const order = worked(document);
  const at = order.indexOf(cylinder);
  return at < 0 ? order[0] : order[at + step];
}

export interface Way {
  id: string;
  label: string;
  order: readonly number[];
}

const CODED = /^P03(0[1-9]|1[0-2])$/;

/** The orders in which people go round this engine, as far as it has them. */
export function ways(document: Document, plan: Plan): readonly Way[] {
  const { engine, inspection, cylinders } = document;
  const all = Array.from({ length: engine.cylinders }, (_, index) => index + 1);
  const sitting = [...plan.stations].sort((a, b) => a.along - b.along || a.across - b.across).map((one) => one.cylinder);
  const banks = (engine.banks ?? []).filter((bank) => bank.cylinders.length > 0);
  const coded = (inspection?.trouble_codes ?? []).filter((code) => CODED.test(code)).map((code) => Number(code.slice(3)));
  const access = (number: number) => {
    const rank = { easy: 0, fair: 1, awkward: 2 };
    return rank[cylinders?.find((one) => one.number === number)?.access ?? "fair"];
  };
  const found: Way[] = [
    { id: "number", label: t("by number"), order: all },
    { id: "sitting", label: t("as they sit, front to rear"), order: sitting },
    ...(banks.length > 1
      ? banks.map((bank) => ({
          id: t("bank {{name}}", { name: bank.name }),
          label: t("bank by bank, {{name}} first", { name: bank.name }),
          order: [...bank.cylinders, ...banks.filter((one) => one !== bank).flatMap((one) => one.cylinders)],
        }))
      : []),
    { id: "firing", label: t("firing order"), order: engine.firing_order ?? [] },
    { id: "coded", label: t("coded first"), order: coded.length > 0 ? [...new Set([...coded, ...all])] : [] },
    { id: "easy", label: t("easy ones first"), order: [...all].sort((a, b) => access(a) - access(b) || a - b) },
  ];
  const whole = found.filter((way) => way.order.length === all.length && way.order.every((number) => all.includes(number)));
  // Two ways of saying one order are one.
  return whole.filter((way, index) => whole.findIndex((other) => other.order.join() === way.order.join()) === index);
}
