import { useState } from "react";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";

interface Props {
  label: string;
  disabled: boolean;
  onNote: (text: string) => void;
}

/** A line that joins a list: noted on Enter or with the button, then empty for the next. */
export function NoteLine({ label, disabled, onNote }: Props) {
  const [text, setText] = useState("");
  const note = () => {
    onNote(text.trim());
    setText("");
  };
  return (
    <div className="grid grid-cols-[1fr_auto] items-end gap-2">
      <TextField
        label={label}
        value={text}
        disabled={disabled}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && text.trim()) note();
        }}
      />
      <Button disabled={disabled || !text.trim()} onClick={note}>
        Note it
      </Button>
    </div>
  );
}
