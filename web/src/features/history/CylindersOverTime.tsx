import { t } from "../../language";
import { useState } from "react";
import { SelectField } from "../../primitives/Field";
import { FiringEnd } from "../plug";
import type { CylinderRecord } from "../record";
import type { History, Visit } from "./EnginePage";
import { gapTold } from "./OverTime";
import { PhotosApart } from "./PhotosApart";

const MOST_COLUMNS = 6;

/** Each cylinder in a row, each inspection in a column: its plug as it was, its gap, its pressure. */
export function CylindersOverTime({ history }: { history: History }) {
  const [beside, setBeside] = useState<readonly [string, string]>(["", ""]);
  const visits = chosenOf(history.visits, beside);
  const cylinders = Array.from({ length: history.engine.cylinders }, (_, at) => at + 1);
  const options = history.visits.map((one) => ({ value: one.inspection, label: `${one.date || "undated"} ${one.run}` }));
  return (
    <section aria-label={t("Cylinder by cylinder")}>
      <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
        <h2 className="text-lg font-bold">{t("Cylinder by cylinder")}</h2>
        {history.visits.length > 2 && (
          <div className="flex flex-wrap gap-2">
            <SelectField label={t("Beside each other")} empty={t("all")} value={beside[0]} options={options} onChange={(one) => setBeside([one, beside[1]])} />
            <SelectField label={t("and")} empty={t("all")} value={beside[1]} options={options} onChange={(one) => setBeside([beside[0], one])} />
          </div>
        )}
      </div>
      <div className="sheet overflow-x-auto">
        <table className="w-full text-center text-sm">
          <thead>
            <tr className="border-b border-line">
              <th scope="col" className="px-2 py-1 text-left">
                {t("Cylinder")}
              </th>
              {visits.map((visit) => (
                <th key={visit.inspection} scope="col" className="min-w-24 px-2 py-1">
                  {visit.date || t("undated")}
                  <span className="caption block font-normal">{visit.run}</span>
                </th>
              ))}
              <th scope="col" className="min-w-72 px-2 py-1 text-left">
                {t("Over time")}
              </th>
            </tr>
          </thead>
          <tbody className="divide-y divide-line">
            {cylinders.map((number) => (
              <tr key={number}>
                <th scope="row" className="px-2 text-left text-2xl">
                  {number}
                </th>
                {visits.map((visit) => (
                  <Cell key={visit.inspection} visit={visit} number={number} />
                ))}
                <Trend history={history} number={number} />
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <PhotosApart visits={history.visits} cylinders={cylinders} />
    </section>
  );
}

function chosenOf(visits: readonly Visit[], [one, other]: readonly [string, string]): readonly Visit[] {
  const wanted = visits.filter((visit) => visit.inspection === one || visit.inspection === other);
  return wanted.length === 2 ? wanted : visits.slice(-MOST_COLUMNS);
}

export const recordOf = (visit: Visit, number: number): CylinderRecord | undefined =>
  visit.cylinders?.find((one) => one.number === number);
const pressureOf = (visit: Visit, number: number) => visit.pressures.find((one) => one.cylinder === number)?.pressure;

function Cell({ visit, number }: { visit: Visit; number: number }) {
  const plug = recordOf(visit, number)?.plug;
  const pressure = pressureOf(visit, number);
  if (!plug && !pressure) {
    return <td className="caption px-2 py-1">{t("not looked at")}</td>;
  }
  return (
    <td className="px-2 py-1">
      {plug && <FiringEnd plug={plug} className="mx-auto w-14" />}
      {plug?.gap && (
        <span className="block">
          {plug.gap.value} {plug.gap.unit}
        </span>
      )}
      {pressure && (
        <b className="block">
          {pressure.value} {pressure.unit}
        </b>
      )}
    </td>
  );
}

/** How the pressure went, drawn and in words; how the gap grows. */
function Trend({ history, number }: { history: History; number: number }) {
  const drift = history.drift.find((one) => one.cylinder === number);
  const gap = history.gaps.find((one) => one.cylinder === number);
  const change = drift && Math.round(drift.change * 100);
  const read = history.visits.flatMap((visit) => pressureOf(visit, number)?.value ?? []);
  return (
    <td className="px-2 py-1 text-left">
      {read.length > 1 && <Line values={read} />}
      {change !== undefined && (
        <p>
          {t("Pressure {{part}} since the first reading", { part: change === 0 ? t("unchanged") : `${change > 0 ? "+" : "\u2212"}${Math.abs(change)}\u00a0%` })}
        </p>
      )}
      {gap && <p>{t("Gap {{gap}}", { gap: gapTold(gap) })}</p>}
      {!drift && !gap && <span className="caption">{t("nothing read twice")}</span>}
    </td>
  );
}

const WIDE = 150;
const HIGH = 28;

/** Readings in their order, from nothing at the foot to the highest at the top. */
function Line({ values }: { values: readonly number[] }) {
  const most = Math.max(...values);
  const points = values.map((value, at) => [4 + (at * (WIDE - 8)) / (values.length - 1), HIGH - 3 - (value / most) * (HIGH - 7)] as const);
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="w-38" role="presentation">
      <path d={`M0 ${HIGH - 1}H${WIDE}`} stroke="var(--line)" />
      <polyline points={points.map((one) => one.join()).join(" ")} fill="none" stroke="var(--teal)" strokeWidth="2" />
      {points.map(([x, y]) => (
        <circle key={x} cx={x} cy={y} r="2.6" fill="var(--teal)" />
      ))}
    </svg>
  );
}
