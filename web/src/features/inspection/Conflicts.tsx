import type { Inspection } from "../../api/client";
import { Button } from "../../primitives/Button";
import type { Entries } from "../record";

interface Props {
  conflicts: Inspection["conflicts"];
  onRecord: (entries: Entries) => void;
  disabled: boolean;
}

/** `/cylinders/3/plug/gap` as "cylinder 3, plug, gap". */
function spoken(path: string): string {
  return path
    .replace(/^\/cylinders\/(\d+)\//, "cylinder $1, ")
    .replace(/^\//, "")
    .replaceAll("/", ", ")
    .replaceAll("_", " ");
}

function said(value: unknown): string {
  if (value === null || value === undefined) return "not looked at";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) return value.join(", ");
  if (typeof value === "object" && "value" in value && "unit" in value) return `${value.value} ${value.unit}`;
  return String(value as string | number).replaceAll("-", " ");
}

/** Where two devices said different things of the same: a person decides, by saying it once more. */
export function Conflicts({ conflicts, onRecord, disabled }: Props) {
  if (conflicts.length === 0) return null;
  return (
    <section className="rounded-md border-l-4 border-rust bg-sheet p-3" aria-label="Two people disagree">
      <h2 className="mb-1 font-bold">Two people disagree</h2>
      <ul className="grid gap-2 text-sm">
        {conflicts.map((one) => (
          <li key={one.path}>
            <p className="caption">{spoken(one.path)}</p>
            <p className="flex flex-wrap gap-2">
              <Button disabled={disabled} onClick={() => onRecord([[one.path, one.stands]])}>
                <b>{said(one.stands)}</b> {one.by && `(${one.by})`}
              </Button>
              <Button disabled={disabled} onClick={() => onRecord([[one.path, one.other]])}>
                <b>{said(one.other)}</b> {one.other_by && `(${one.other_by})`}
              </Button>
            </p>
          </li>
        ))}
      </ul>
      <p className="caption mt-1">The first of each stands until one is chosen.</p>
    </section>
  );
}
