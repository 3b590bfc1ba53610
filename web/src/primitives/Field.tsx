import { useId, type InputHTMLAttributes, type ReactNode, type Ref } from "react";

interface Wiring {
  id: string;
  "aria-describedby": string | undefined;
  "aria-invalid": boolean | undefined;
}

interface FieldProps {
  label: string;
  hint?: string | undefined;
  error?: string | undefined;
  children: (wiring: Wiring) => ReactNode;
}

/** A label, a control, and what is wrong with it, tied together by id. */
export function Field({ label, hint, error, children }: FieldProps) {
  const id = useId();
  const note = error ?? hint;
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="caption block">
        {label}
      </label>
      {children({
        id,
        "aria-describedby": note ? `${id}-note` : undefined,
        "aria-invalid": error ? true : undefined,
      })}
      {note && (
        <p id={`${id}-note`} className={`mt-1 text-sm ${error ? "text-rust" : "text-soft"}`}>
          {note}
        </p>
      )}
    </div>
  );
}

interface TextFieldProps extends Omit<InputHTMLAttributes<HTMLInputElement>, "id"> {
  ref?: Ref<HTMLInputElement>;
  label: string;
  hint?: string | undefined;
  error?: string | undefined;
}

export function TextField({ label, hint, error, className = "", ...rest }: TextFieldProps) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(wiring) => <input className={`entry ${className}`} {...wiring} {...rest} />}
    </Field>
  );
}

interface SelectFieldProps<V extends string> {
  label: string;
  value: V | "";
  options: readonly { value: V; label: string }[];
  onChange: (value: V | "") => void;
  empty?: string;
  hint?: string;
  disabled?: boolean;
}

/** A native list: the best one on a phone. `empty` names the choice of saying nothing. */
export function SelectField<V extends string>({
  label,
  value,
  options,
  onChange,
  empty,
  hint,
  disabled,
}: SelectFieldProps<V>) {
  return (
    <Field label={label} hint={hint}>
      {(wiring) => (
        <select
          className="entry"
          disabled={disabled}
          value={value}
          onChange={(event) => onChange(event.target.value as V | "")}
          {...wiring}
        >
          {empty !== undefined && <option value="">{empty}</option>}
          {options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
