import type { HTMLAttributes } from "react";
import { useDraft } from "./drafts";
import { TextField } from "./Field";
import { leave } from "./typing";

interface Props {
  label: string;
  /** What tells the field apart from others of the same label. */
  name?: string | undefined;
  value: string;
  onCommit: (text: string) => void;
  /** Why a text cannot be taken; it stays as it is until it can. */
  check?: (text: string) => string | undefined;
  hint?: string | undefined;
  error?: string | undefined;
  disabled?: boolean;
  inputMode?: HTMLAttributes<HTMLInputElement>["inputMode"];
}

/** A line of text that is kept when the field is left, or on Enter. */
export function LineEntry({ label, name, value, onCommit, check, hint, error, disabled, inputMode }: Props) {
  const draft = useDraft(name ?? label);
  const commit = () => {
    const text = draft.now()?.trim();
    if (text === undefined || check?.(text)) return;
    draft.set(undefined);
    if (text !== value) onCommit(text);
  };
  return (
    <TextField
      label={label}
      hint={hint}
      error={(draft.text === undefined ? undefined : check?.(draft.text)) ?? error}
      disabled={disabled}
      inputMode={inputMode}
      autoComplete="off"
      value={draft.text ?? value}
      onChange={(event) => draft.set(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Escape") leave(event.currentTarget);
        if (event.key !== "Enter") return;
        event.preventDefault();
        commit();
        if (draft.now() === undefined) leave(event.currentTarget);
      }}
    />
  );
}
