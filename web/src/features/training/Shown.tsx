import { t, wordSaid } from "../../language";
import { useEffect, useRef, type ReactNode } from "react";
import type { Document } from "../../api/client";
import { FiringEnd } from "../plug";

interface Props {
  document: Document;
  /** Whom one writes of; where one does, a drawn plug is not said in words. */
  chosen?: number;
}

/** What the instruments showed by now, a column to a cylinder. */
export function Shown({ document, chosen }: Props) {
  const named = chosen === undefined;
  const table = useRef<HTMLTableElement>(null);
  useEffect(() => {
    table.current?.querySelector("[aria-current]")?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [chosen]);
  const numbers = Array.from({ length: document.engine.cylinders }, (_, at) => at + 1);
  const record = (number: number) => document.cylinders?.find((one) => one.number === number);
  const tests = document.tests ?? {};
  const pressure = (kind: "dry" | "wet", number: number) => {
    const read = tests.compression?.find((one) => one.kind === kind)?.readings?.find((one) => one.cylinder === number)?.pressure;
    return read && `${read.value} ${read.unit}`;
  };
  const leak = (number: number) => {
    const read = tests.leakdown?.[0]?.readings?.find((one) => one.cylinder === number);
    return read?.held && t("{{value}} of 80 psi held; {{escapes}}", { value: read.held.value, escapes: read.escapes?.join(", ") });
  };
  const rows: readonly (readonly [string, (number: number) => ReactNode])[] = [
    [t("Plug"), (number) => Plug(record(number)?.plug, named)],
    [t("Oil in the well"), (number) => record(number)?.well?.oil],
    [t("Dry"), (number) => pressure("dry", number)],
    [t("Wet"), (number) => pressure("wet", number)],
    [t("Leak-down"), leak],
    [t("Cut out, felt"), (number) => tests.balance?.find((one) => one.cylinder === number)?.felt],
    [t("Spark on the tester"), (number) => tests.spark?.find((one) => one.cylinder === number)?.result],
    [t("Borescope"), (number) => Object.values(record(number)?.borescope ?? {}).map((one) => wordSaid(String(one))).join(", ")],
  ];
  const told = rows.filter(([, cell]) => numbers.some((number) => cell(number)));
  return (
    <section aria-label={t("What the instruments show")} className="sheet overflow-x-auto">
      <table ref={table} className="w-full text-center text-sm">
        <thead>
          <tr className="border-b border-line">
            <th scope="col" className="px-2 py-1 text-left">
              {t("Cylinder")}
            </th>
            {numbers.map((number) => (
              <th key={number} scope="col" aria-current={number === chosen || undefined} className={`min-w-20 px-2 py-1 text-xl ${number === chosen ? "bg-teal text-sheet" : ""}`}>
                {number}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="divide-y divide-line">
          {told.map(([label, cell]) => (
            <tr key={label}>
              <th scope="row" className="px-2 py-1 text-left">
                {label}
              </th>
              {numbers.map((number) => (
                <td key={number} className={`px-2 py-1 align-top ${number === chosen ? "bg-wash" : ""}`}>
                  {cell(number) || <span className="text-soft">-</span>}
                </td>
              ))}
            </tr>
          ))}
          {told.length === 0 && (
            <tr>
              <td colSpan={numbers.length + 1} className="p-3 text-left text-soft">
                {t("No instrument was put to it yet.")}
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </section>
  );
}

type Seen = NonNullable<NonNullable<Document["cylinders"]>[number]["plug"]>;

/** Drawn; in words only what no drawing shows, until all is named. */
function Plug(plug: Seen | undefined, named: boolean): ReactNode {
  if (!plug) return null;
  const wet = plug.wetness === "dry" ? "dry" : `${plug.wetness}${plug.wet_with ? t(" with {{wet_with}}", { wet_with: plug.wet_with }) : ""}`;
  const felt = [
    plug.seating === "loose" && t("was loose"),
    plug.wet_with && !named && t("smells of {{wet_with}}", { wet_with: plug.wet_with }),
    plug.type_match !== "as-specified" && plug.type_match,
  ];
  const odd = [
    plug.gap_bridged && t("gap bridged"),
    plug.insulator !== "sound" && plug.insulator,
    plug.centre_electrode !== "square" && t("centre {{centre_electrode}}", { centre_electrode: plug.centre_electrode }),
  ];
  const said = [...felt, ...(named ? odd : [])].filter((one): one is string => Boolean(one));
  return (
    <>
      <FiringEnd plug={plug} className={`mx-auto ${named ? "w-14" : "w-24"}`} />
      {named && `${plug.deposit_colour}, ${plug.deposit_texture}, ${wet}`}
      {said.length > 0 && <b className="block">{said.map(wordSaid).join(", ")}</b>}
    </>
  );
}
