import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { Button } from "../../primitives/Button";
import { GradeMark } from "../assessment";
import type { Grade } from "../assessment/GradeMark";
import type { Kept } from "./useKeeping";

interface Props {
  row: Schemas["InspectionRow"];
  /** Which list it stands in. */
  kept: Kept;
  writes: boolean;
  onKeep: (kept: Kept) => void;
}

/** One inspection of the shop, and what may become of it. */
export function InspectionRow({ row, kept, writes, onKeep }: Props) {
  const body = (
    <>
      <span className="flex items-center gap-1 sm:w-24">
        <GradeMark grade={row.grade as Grade} />
        {row.grade_left && (
          <>
            <span className="caption">left</span>
            <GradeMark grade={row.grade_left as Grade} />
          </>
        )}
      </span>
      <span className="min-w-0">
        <b className="block truncate">{row.title}</b>
        <span className="caption">
          {row.identifier} {row.by && `read by ${row.by}`} <time className="sm:hidden">{row.date}</time>
        </span>
      </span>
      <span className="col-span-2 text-sm sm:col-span-1">
        {row.verdict}
        {row.old && <span className="caption"> (by older rules, being weighed again)</span>}
      </span>
      <time className="caption hidden sm:block">{row.date}</time>
    </>
  );
  const look = "grid min-w-0 flex-1 grid-cols-[auto_minmax(0,1fr)] items-center gap-x-3 py-2.5 pl-3 sm:grid-cols-[auto_16rem_minmax(0,1fr)_auto]";
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
          <summary className="target grid min-h-9 cursor-pointer list-none place-items-center rounded-md border border-line px-2" aria-label={`More about ${row.title}`}>
            ...
          </summary>
          <div className="absolute right-0 z-10 grid w-40 gap-1 rounded-md border border-line bg-sheet p-1.5 shadow-lg">
            <Button onClick={() => onKeep("archived")}>Put by</Button>
            <Button onClick={() => onKeep("removed")}>Delete</Button>
          </div>
        </details>
      )}
      {writes && kept !== "shown" && (
        <Button className="text-sm" onClick={() => onKeep("shown")}>
          Bring back
        </Button>
      )}
    </li>
  );
}
