import type { Schemas } from "../../api/client";
import { t } from "../../language";

interface Props {
  columns: readonly Schemas["Column"][];
  canHold: readonly Schemas["Holds"][];
  onHolds: (at: number, holds: string) => void;
}

/** Each column of a table with what it is taken for, to be said otherwise. */
export function Columns({ columns, canHold, onHolds }: Props) {
  return (
    <table className="w-full">
      <thead>
        <tr className="caption text-left">
          <th scope="col">{t("in the table")}</th>
          <th scope="col">{t("holds")}</th>
          <th scope="col">{t("in")}</th>
        </tr>
      </thead>
      <tbody>
        {columns.map((column, at) => (
          <tr key={`${at} ${column.head}`}>
            <th scope="row" className="max-w-32 truncate pr-2 text-left font-normal">
              {column.head || t("column {{at}}", { at: at + 1 })} <span className="caption">{column.sample}</span>
            </th>
            <td className="pr-2">
              <select
                aria-label={t("What column {{at}} holds", { at: at + 1 })}
                className="entry"
                value={column.holds}
                onChange={(event) => onHolds(at, event.target.value)}
              >
                <option value="">{t("leave it out")}</option>
                {canHold.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.label}
                  </option>
                ))}
              </select>
            </td>
            <td className="whitespace-nowrap">{column.unit}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Cells that were not understood, by their place. */
export function RefusedCells({ refused }: { refused: readonly Schemas["CellRefused"][] }) {
  if (refused.length === 0) return null;
  return (
    <ul aria-label={t("Not understood")} className="grid max-h-64 gap-0.5 overflow-y-auto border-l-4 border-ochre pl-2">
      {refused.map((one) => (
        <li key={`${one.row} ${one.column}`}>
          {t("Row {{row}}, column {{column}}, “{{cell}}”: {{why}}", { row: one.row, column: one.column, cell: one.cell, why: one.why })}
        </li>
      ))}
    </ul>
  );
}
