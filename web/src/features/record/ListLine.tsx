import { t } from "../../language";
import { useState, type ReactNode } from "react";
import { Button } from "../../primitives/Button";
import { LineEntry } from "../../primitives/LineEntry";
import type { Recorder } from "./FieldEntry";

interface Props {
  recorder: Recorder;
  /** Path of the item in its list. */
  item: string;
  /** What it is called among the others. */
  name: string;
  /** The field of the item whose words can be corrected. */
  words?: string;
  children: ReactNode;
}

const intoField = (line: HTMLElement | null) => line?.querySelector("input")?.focus();

/** A line of a list beside what mends it: its words said anew, or out with it. */
export function ListLine({ recorder, item, name, words, children }: Props) {
  const { onRecord, disabled } = recorder;
  const [open, setOpen] = useState(false);
  if (open && words) {
    return (
      <div onBlur={() => setOpen(false)} ref={intoField}>
        <LineEntry
          label={t("Correct: {{name}}", { name })}
          value={name}
          disabled={disabled}
          onCommit={(text) => onRecord([text ? [`${item}/${words}`, text] : [item, undefined]])}
        />
      </div>
    );
  }
  return (
    <div className="flex items-center gap-1.5">
      <div className="min-w-0 flex-1">{children}</div>
      {words && (
        <Button className="text-sm print:hidden" disabled={disabled} aria-label={t("Correct: {{name}}", { name })} onClick={() => setOpen(true)}>
          {t("Correct")}
        </Button>
      )}
      <Button className="text-sm print:hidden" disabled={disabled} aria-label={t("Take out: {{name}}", { name })} onClick={() => onRecord([[item, undefined]])}>
        {t("Take out")}
      </Button>
    </div>
  );
}
