import { useId } from "react";
import { NumberInput, type Finishing } from "./NumberInput";
import { NumberNote } from "./NumberNote";
import { useQuantityEntry } from "./useQuantityEntry";

interface Props extends Finishing {
  label: string;
  name?: string | undefined;
  hint?: string | undefined;
  value: number | undefined;
  onChange: (value: number | undefined) => void;
  disabled?: boolean | undefined;
  error?: string | undefined;
}

const PLAIN = [] as const;

/** A number without a unit, kept when the field is left or on Enter. */
export function NumberField({ label, name, hint, value, onChange, disabled, error, ...finishing }: Props) {
  const id = useId();
  const entry = useQuantityEntry<string>({
    name: name ?? label,
    value: value === undefined ? undefined : { value, unit: "" },
    units: PLAIN,
    fallback: "",
    onChange: (next) => onChange(next?.value),
  });
  const wrong = entry.error ?? error;
  const note = `${id}-note`;
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="caption block">
        {label}
      </label>
      <NumberInput {...finishing} id={id} name={name ?? label} entry={entry} wrong={wrong} noted={Boolean(wrong || entry.question || hint)} disabled={disabled} />
      {wrong || entry.question ? (
        <NumberNote id={note} error={wrong} question={entry.question} onChoose={entry.choose} />
      ) : (
        hint && (
          <p id={note} className="mt-1 text-sm text-soft">
            {hint}
          </p>
        )
      )}
    </div>
  );
}
