import { useState, type HTMLAttributes } from "react";
import { TextField } from "./Field";

interface Props {
  label: string;
  value: string;
  onCommit: (text: string) => void;
  hint?: string | undefined;
  error?: string | undefined;
  disabled?: boolean;
  inputMode?: HTMLAttributes<HTMLInputElement>["inputMode"];
}

/** A line of text that is kept when the field is left, or on Enter. */
export function LineEntry({ label, value, onCommit, hint, error, disabled, inputMode }: Props) {
  const [draft, setDraft] = useState<string | undefined>();
  const commit = () => {
    if (draft !== undefined && draft.trim() !== value) onCommit(draft.trim());
    setDraft(undefined);
  };
  return (
    <TextField
      label={label}
      hint={hint}
      error={error}
      disabled={disabled}
      inputMode={inputMode}
      autoComplete="off"
      value={draft ?? value}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") commit();
      }}
    />
  );
}
