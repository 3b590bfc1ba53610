import { t } from "../../language";
import { Button } from "../../primitives/Button";
import { useDraft } from "../../primitives/drafts";
import { TextField } from "../../primitives/Field";
import { leave } from "../../primitives/typing";

interface Props {
  label: string;
  disabled: boolean;
  onNote: (text: string) => void;
}

/** A line that joins a list: noted on Enter, with the button or when it is left, then empty for the next; Escape drops it. */
export function NoteLine({ label, disabled, onNote }: Props) {
  const draft = useDraft(label);
  const note = () => {
    const text = draft.now()?.trim();
    draft.set(undefined);
    if (text) onNote(text);
  };
  return (
    <div className="grid grid-cols-[1fr_auto] items-end gap-2">
      <TextField
        label={label}
        value={draft.text ?? ""}
        disabled={disabled}
        autoComplete="off"
        onChange={(event) => draft.set(event.target.value || undefined)}
        onBlur={note}
        onKeyDown={(event) => {
          if (event.key === "Enter") note();
          if (event.key !== "Escape") return;
          draft.set(undefined);
          leave(event.currentTarget);
        }}
      />
      <Button disabled={disabled || !draft.text?.trim()} onClick={note}>
        {t("Note it")}
      </Button>
    </div>
  );
}
