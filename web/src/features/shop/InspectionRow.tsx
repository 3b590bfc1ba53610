import { t } from "../../language";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { Button } from "../../primitives/Button";
import { GradeMark } from "../assessment";
import type { Grade } from "../assessment/GradeMark";
import { useColumns, type Column } from "./listColumns";
import type { Kept } from "./useKeeping";

interface Props {
  row: Schemas["InspectionRow"];
  /** Which list it stands in. */
  kept: Kept;
  writes: boolean;
  onKeep: (kept: Kept) => void;
}

/** So that the columns of all rows stand under each other. */
const WIDTHS: Partial<Record<Column, string>> = {
  by: "w-36 truncate",
  date: "w-20",
  follow_up: "w-32",
  changed: "w-36",
  signed: "w-12",
};

/** One inspection of the shop, and what may become of it. */
export function InspectionRow({ row, kept, writes, onKeep }: Props) {
  const columns = useColumns();
  const said: Partial<Record<Column, string>> = {
    by: row.by && t("read by {{by}}", { by: row.by }),
    date: row.date ?? "",
    follow_up: row.follow_up ? t("again {{follow_up}}", { follow_up: row.follow_up }) : "",
    changed: t("changed {{changed}}", { changed: row.changed.slice(0, 10) }),
    signed: row.signed ? "signed" : "",
  };
  const small = columns.filter((name) => name !== "verdict");
  const body = (
    <>
      <span className="flex items-center gap-1 sm:w-24">
        <GradeMark grade={row.grade as Grade} />
        {row.grade_left && (
          <>
            <span className="caption">{t("left")}</span>
            <GradeMark grade={row.grade_left as Grade} />
          </>
        )}
      </span>
      <span className="min-w-0">
        <b className="block truncate">{row.title}</b>
        <span className="caption">
          {row.identifier} <span className="sm:hidden">{small.map((name) => said[name]).join(" ")}</span>
        </span>
      </span>
      {columns.includes("verdict") && (
        <span className="col-span-2 text-sm sm:col-span-1">
          {row.verdict}
          {row.old && <span className="caption">{" "}{t("(being weighed again)")}</span>}
        </span>
      )}
      <span className="caption hidden gap-4 sm:flex">
        {small.map((name) => (
          <span key={name} className={WIDTHS[name]}>
            {said[name]}
          </span>
        ))}
      </span>
    </>
  );
  const look = `grid min-w-0 flex-1 grid-cols-[auto_minmax(0,1fr)] items-center gap-x-3 py-2.5 pl-3 ${columns.includes("verdict") ? "sm:grid-cols-[auto_17rem_minmax(0,1fr)_auto]" : "sm:grid-cols-[auto_minmax(0,1fr)_auto]"}`;
  return (
    <li className="flex items-center gap-2 pr-2 hover:bg-wash">
      {kept === "removed" ? (
        <div className={look}>{body}</div>
      ) : (
        <Link to={`/inspections/${row.id}`} className={look}>
          {body}
        </Link>
      )}
      {writes && kept === "shown" && (
        <details className="relative">
          <summary className="target grid min-h-9 cursor-pointer list-none place-items-center rounded-md border border-line px-2" aria-label={t("More about {{title}}", { title: row.title })}>
            ...
          </summary>
          <div className="absolute right-0 z-10 grid w-40 gap-1 rounded-md border border-line bg-sheet p-1.5 shadow-lg">
            <Button onClick={() => onKeep("archived")}>{t("Put by")}</Button>
            <Button onClick={() => onKeep("removed")}>{t("Delete")}</Button>
          </div>
        </details>
      )}
      {writes && kept !== "shown" && (
        <Button className="text-sm" onClick={() => onKeep("shown")}>
          {t("Bring back")}
        </Button>
      )}
    </li>
  );
}
