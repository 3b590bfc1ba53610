import { t } from "../../language";
import { Tick } from "../../primitives/Tick";
import { COLUMNS, showColumns, useColumns } from "./listColumns";

/** Which columns a list of inspections has on this device. */
export function Columns() {
  const shown = useColumns();
  return (
    <details className="relative">
      <summary className="target grid min-h-10 cursor-pointer list-none place-items-center rounded-md border border-line px-3">{t("Columns")}</summary>
      <div className="absolute left-0 z-10 grid w-56 gap-1 rounded-md border border-line bg-sheet p-2 shadow-lg">
        {COLUMNS.map(({ name, label }) => (
          <Tick
            key={name}
            checked={shown.includes(name)}
            onChange={(on) => showColumns(on ? [...shown, name] : shown.filter((one) => one !== name))}
          >
            {label}
          </Tick>
        ))}
      </div>
    </details>
  );
}
