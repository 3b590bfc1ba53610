import { useMutation } from "@tanstack/react-query";
import { readHistories, type Schemas } from "../../api/client";
import { t } from "../../language";
import { Button } from "../../primitives/Button";
import { Columns, keepColumns, recalledColumns, RefusedCells, type Column } from "../tables";

type Told = Schemas["Histories"];

/** What a table of several inspections is taken for; its inspections come in as files do. */
export function useHistories() {
  return useMutation({
    mutationFn: async ({ table, columns }: { table: File; columns?: readonly Column[] }) => {
      const told = await readHistories(table, columns ?? []);
      const before = columns ? undefined : recalledColumns(told.columns);
      return { table, told: before ? await readHistories(table, before) : told };
    },
  });
}

interface Props {
  reading: ReturnType<typeof useHistories>;
  onTake: (files: readonly File[]) => void;
}

export function Histories({ reading, onTake }: Props) {
  if (reading.error) {
    return (
      <p role="alert" className="mt-3 text-sm text-rust">
        {reading.error.message}
      </p>
    );
  }
  if (!reading.data) return null;
  const { table, told } = reading.data;
  const change = (at: number, holds: string) => {
    const columns = told.columns.map((one, place) => (place === at ? { holds, unit: "" } : { holds: one.holds, unit: one.unit }));
    keepColumns(told.columns, columns);
    reading.mutate({ table, columns });
  };
  const take = () => {
    onTake(told.inspections.map(asFile));
    reading.reset();
  };
  const count = told.inspections.length;
  const unknown = new Set(told.inspections.filter((one) => !one.known).map((one) => one.engine));
  return (
    <div className="mt-3 grid gap-2 text-sm" role="group" aria-label={t("What was read")}>
      <Columns columns={told.columns} canHold={told.can_hold} onHolds={change} />
      <RefusedCells refused={told.refused} />
      {unknown.size > 0 && (
        <p>
          {t("Not in the shop yet, and added in line with as many cylinders as are named; say the rest afterwards: {{engines}}.", {
            engines: [...unknown].join(", "),
          })}
        </p>
      )}
      <details>
        <summary className="target cursor-pointer text-teal underline">{t("What would be imported")}</summary>
        <ul>
          {told.inspections.map((one) => (
            <li key={`${one.engine} ${one.date}`}>
              {t("{{engine}}, {{date}}: {{read}} readings", { engine: one.engine, date: one.date, read: one.entries })}
            </li>
          ))}
        </ul>
      </details>
      <div className="flex gap-2">
        <Button weight="main" disabled={count === 0} onClick={take}>
          {count === 1 ? t("Import it") : t("Import all {{count}}", { count })}
        </Button>
        <Button onClick={() => reading.reset()}>{t("Leave it")}</Button>
      </div>
    </div>
  );
}

function asFile({ engine, date, document }: Told["inspections"][number]): File {
  return new File([JSON.stringify(document)], `${engine} ${date}`, { type: "application/json" });
}
