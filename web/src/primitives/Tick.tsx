import type { ReactNode } from "react";

interface Props {
  checked: boolean;
  onChange: (checked: boolean) => void;
  children: ReactNode;
  disabled?: boolean;
  /** What it is called where the words beside it do not suffice. */
  name?: string;
  className?: string;
}

/** A box to tick with its words beside it, a target for a gloved thumb. */
export function Tick({ checked, onChange, children, disabled = false, name, className = "" }: Props) {
  return (
    <label className={`target flex min-h-10 items-center gap-2 ${className}`}>
      <input
        type="checkbox"
        className="size-5 shrink-0 accent-teal"
        aria-label={name}
        checked={checked}
        disabled={disabled}
        onChange={(event) => onChange(event.target.checked)}
      />
      {children}
    </label>
  );
}
