import { t } from "../../language";
import type { Document } from "../../api/client";
import { Choice } from "../../primitives/Choice";
import { TextField } from "../../primitives/Field";
import { LineEntry } from "../../primitives/LineEntry";
import { NumberField, QuantityEntry, type Finishing, type Quantity } from "../../primitives/number";
import { Tags } from "../../primitives/Tags";
import { at, type Entries, type Field } from "./fields";
import { fromScanTool } from "./pasted";
import { meant, startingUnit } from "./units";
import { valueAt } from "./valueAt";

export interface Recorder {
  document: Document;
  cylinder: number;
  onRecord: (entries: Entries) => void;
  disabled: boolean;
  problem: (path: string) => string | undefined;
  /** In what its person measures, by dimension. */
  measures?: Record<string, string> | undefined;
  /** Nothing real stands behind it: there is no photo to take, and no instrument of one's own. */
  practice?: true;
}

const YES_NO = [
  { value: "no", label: t("no") },
  { value: "yes", label: t("yes") },
] as const;
const YES = YES_NO.slice(1);

interface Props extends Finishing {
  field: Field;
  recorder: Recorder;
}

/** One field, asked in the way that suits it; saved as soon as it is said. */
export function FieldEntry({ field, recorder, ...finishing }: Props) {
  const { document, cylinder, onRecord, disabled, problem } = recorder;
  const path = at(field.path, cylinder);
  const value = valueAt(document, path);
  const set = (next: unknown) => onRecord([[path, next]]);
  const note = field.hint ? <p className="caption mt-1">{field.hint}</p> : undefined;
  const error = problem(path);
  switch (field.kind) {
    case "choice":
      return (
        <Choice
          label={field.label}
          options={field.options}
          value={value as string | undefined}
          onChange={(next) => (next !== undefined || !field.stays) && set(next)}
          disabled={disabled}
          note={note}
        />
      );
    case "date":
      return (
        <TextField
          label={field.label}
          type="date"
          value={(value as string | undefined) ?? ""}
          disabled={disabled}
          error={error}
          hint={field.hint}
          onChange={(event) => set(event.target.value || undefined)}
        />
      );
    case "tags":
      return (
        <Tags
          label={field.label}
          options={field.options}
          value={value as readonly string[] | undefined}
          onChange={set}
          disabled={disabled}
          note={note}
        />
      );
    case "flag":
      return (
        <Choice
          label={field.label}
          options={field.says ? YES : YES_NO}
          value={value === undefined ? undefined : value ? "yes" : "no"}
          onChange={(next) => set(next === undefined ? undefined : next === "yes" ? (field.says ?? true) : false)}
          disabled={disabled}
          note={note}
        />
      );
    case "quantity":
      return (
        <QuantityEntry
          {...finishing}
          key={finishing.stays ? field.path : path}
          name={path}
          label={field.label}
          units={field.units}
          fallback={startingUnit(document, field.path, field.units, recorder.measures)}
          meant={(typed) => meant(path, typed, field.units)}
          value={value as Quantity | undefined}
          onChange={set}
          disabled={disabled}
          error={error}
        />
      );
    case "number":
      return (
        <NumberField
          {...finishing}
          key={finishing.stays ? field.path : path}
          name={path}
          label={field.label}
          hint={field.hint}
          value={value as number | undefined}
          onChange={set}
          disabled={disabled}
          error={error}
        />
      );
    case "list":
      return (
        <LineEntry
          key={path}
          name={path}
          label={field.label}
          hint={field.hint}
          value={((value as readonly string[] | undefined) ?? []).join(" ")}
          onCommit={(text) => onRecord(fromScanTool(document, path, text))}
          disabled={disabled}
          error={error}
        />
      );
    case "text":
      return (
        <LineEntry
          key={path}
          name={path}
          label={field.label}
          hint={field.hint}
          value={(value as string | undefined) ?? ""}
          onCommit={(text) => set(text === "" ? undefined : text)}
          disabled={disabled}
          error={error}
        />
      );
  }
}
