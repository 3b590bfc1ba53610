import { t } from "../../language";
import { useId } from "react";
import { NumberInput, type Finishing } from "./NumberInput";
import { NumberNote } from "./NumberNote";
import { useQuantityEntry, type Quantity } from "./useQuantityEntry";

interface Props<U extends string> extends Finishing {
  label: string;
  /** What tells the field apart from others of the same label. */
  name?: string | undefined;
  units: readonly { value: U; label: string }[];
  fallback: U;
  value: Quantity<U> | undefined;
  onChange: (value: Quantity<U> | undefined) => void;
  meant?: ((typed: Quantity<U>) => readonly Quantity<U>[]) | undefined;
  disabled?: boolean;
  error?: string | undefined;
  /** What an empty field means. */
  absent?: string;
}

/** A number as it is read, in the unit it is read in; kept when the field is left or on Enter. */
export function QuantityEntry<U extends string>({
  label,
  name,
  units,
  fallback,
  value,
  onChange,
  meant,
  disabled,
  error,
  absent = t("not looked at"),
  ...finishing
}: Props<U>) {
  const id = useId();
  const entry = useQuantityEntry({ name: name ?? label, value, units, fallback, onChange, meant });
  const wrong = entry.error ?? error;
  return (
    <div>
      <label htmlFor={id} className="caption block">
        {label}
        {value === undefined && <span className="italic"> {absent}</span>}
      </label>
      <div className="flex gap-1">
        <NumberInput {...finishing} id={id} name={name ?? label} entry={entry} wrong={wrong} noted={Boolean(wrong || entry.question)} disabled={disabled} />
        <select
          aria-label={t("Unit of {{label}}", { label: label.toLowerCase() })}
          className="entry w-auto min-w-16 shrink-0 px-1"
          disabled={disabled}
          value={entry.unit}
          onChange={(event) => entry.setUnit(event.target.value as U)}
        >
          {units.map((unit) => (
            <option key={unit.value} value={unit.value}>
              {unit.label}
            </option>
          ))}
        </select>
      </div>
      <NumberNote id={`${id}-note`} error={wrong} question={entry.question} onChoose={entry.choose} />
    </div>
  );
}
