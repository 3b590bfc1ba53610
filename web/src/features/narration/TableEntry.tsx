import { t } from "../../language";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState, type ClipboardEvent } from "react";
import { useParams } from "react-router";
import { readTable } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Columns, keepColumns, recalledColumns, RefusedCells, type Column } from "../tables";
import type { Recorder } from "../record";
import { saidOf, spoken } from "../record/spoken";
import { together } from "./together";

/** Readings that stand in a table somewhere else: pasted, or a file; shown before any of it is recorded. */
export function TableEntry({ recorder }: { recorder: Recorder }) {
  const { id = "" } = useParams();
  const chooser = useRef<HTMLInputElement>(null);
  const [source, setSource] = useState<Blob | undefined>();
  const [taken, setTaken] = useState(0);
  const reading = useMutation({
    mutationFn: async ({ cells, columns }: { cells: Blob; columns?: readonly Column[] }) => {
      const table = await readTable(id, cells, columns ?? []);
      const before = columns ? undefined : recalledColumns(table.columns);
      return before ? readTable(id, cells, before) : table;
    },
  });
  const read = (cells: Blob) => {
    setSource(cells);
    setTaken(0);
    reading.mutate({ cells });
  };
  const table = reading.data;
  const change = (at: number, part: Partial<Column>) => {
    if (!table || !source) return;
    // What holds something else is measured in something else.
    const columns = table.columns.map((one, place) =>
      place === at ? { holds: one.holds, unit: part.holds === undefined ? one.unit : "", ...part } : { holds: one.holds, unit: one.unit },
    );
    keepColumns(table.columns, columns);
    reading.mutate({ cells: source, columns });
  };
  const record = () => {
    if (!table) return;
    recorder.onRecord(table.entries.map((one) => [one.path, together(recorder, one)] as const));
    setTaken(table.entries.length);
    reading.reset();
  };
  return (
    <section aria-label={t("From a table")} className="grid gap-2">
      <h3 className="border-b border-line font-bold">{t("From a table")}</h3>
      <p className="caption">{t("Cells copied in a spreadsheet, or a file (CSV, XLSX): one row a cylinder, or one column.")}</p>
      <div className="grid grid-cols-[minmax(0,1fr)_auto] gap-2">
        <textarea
          aria-label={t("Paste cells here")}
          placeholder={t("Paste cells here")}
          rows={2}
          className="entry"
          value=""
          readOnly
          disabled={recorder.disabled}
          onPaste={(event: ClipboardEvent) => read(new Blob([event.clipboardData.getData("text/plain")]))}
        />
        <Button disabled={recorder.disabled} onClick={() => chooser.current?.click()}>
          {t("A file")}
        </Button>
        <input
          ref={chooser}
          type="file"
          accept=".csv,.tsv,.txt,.xlsx"
          className="sr-only"
          aria-label={t("A file of cells")}
          tabIndex={-1}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) read(file);
            event.target.value = "";
          }}
        />
      </div>
      {reading.error && (
        <p role="alert" className="text-sm text-rust">
          {reading.error.message}
        </p>
      )}
      {taken > 0 && (
        <p role="status" className="text-sm">
          {t("{{taken}}  {{part}} recorded. Undo takes them back together.", { taken, part: taken === 1 ? t("entry") : t("entries") })}
        </p>
      )}
      {table && (
        <div className="grid gap-2 text-sm" role="group" aria-label={t("What was read")}>
          {table.turned && <p className="caption">{t("Its cylinders stand side by side; the table was turned.")}</p>}
          <Columns columns={table.columns} canHold={table.can_hold} onHolds={(at, holds) => change(at, { holds })} />
          <RefusedCells refused={table.refused} />
          <details>
            <summary className="target cursor-pointer text-teal underline">{t("What would be recorded")}</summary>
            <ul>
              {table.entries.map((one) => (
                <li key={one.path}>
                  {spoken(one.path)}: {saidOf(one.value)}
                </li>
              ))}
            </ul>
          </details>
          <div className="flex gap-2">
            <Button weight="main" disabled={recorder.disabled || table.entries.length === 0} onClick={record}>
              {t("Record {{part}}", { part: table.entries.length === 1 ? t("it") : t("all {{count}}", { count: table.entries.length }) })}
            </Button>
            <Button onClick={() => reading.reset()}>{t("Leave it")}</Button>
          </div>
        </div>
      )}
    </section>
  );
}
