import { t } from "../../language";
import { useState } from "react";
import { Button } from "../../primitives/Button";
import { useDraft } from "../../primitives/drafts";
import { TextField } from "../../primitives/Field";
import type { Recorder } from "./FieldEntry";
import { valueAt } from "./valueAt";

type Pair = Record<string, string>;

interface Props {
  recorder: Recorder;
  path: string;
  title: string;
  /** The two words of a line: what each is kept as, and its label. */
  columns: readonly [readonly [string, string], readonly [string, string]];
}

/** A list of two words a line, such as what was not looked at, and why. */
export function PairsEntry({ recorder, path, title, columns }: Props) {
  const { document, onRecord, disabled } = recorder;
  const lines = (valueAt(document, path) as readonly Pair[] | undefined) ?? [];
  const [[first, firstLabel], [second, secondLabel]] = columns;
  const one = useDraft(`${path} ${first}`);
  const other = useDraft(`${path} ${second}`);
  const [wanting, setWanting] = useState(false);
  const set = (next: readonly Pair[]) => onRecord([[path, next.length ? next : undefined]]);
  const add = () => {
    const [a, b] = [one.now()?.trim(), other.now()?.trim()];
    setWanting(!a || !b);
    if (!a || !b) return;
    set([...lines, { [first]: a, [second]: b }]);
    one.set(undefined);
    other.set(undefined);
  };
  return (
    <section aria-label={title} className="grid gap-2">
      <h3 className="border-b border-line font-bold">{title}</h3>
      <ul className="grid gap-1 text-sm">
        {lines.map((line, index) => (
          <li key={`${line[first]} ${index}`} className="flex items-center justify-between gap-2 border-b border-line">
            <span>
              <b>{line[first]}</b>: {line[second]}
            </span>
            <Button className="text-sm" disabled={disabled} onClick={() => set(lines.filter((_, at) => at !== index))}>
              {t("Take out")}
            </Button>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-[1fr_1.6fr_auto] items-end gap-2">
        <TextField label={firstLabel} value={one.text ?? ""} disabled={disabled} onChange={(event) => one.set(event.target.value || undefined)} />
        <TextField
          label={secondLabel}
          value={other.text ?? ""}
          disabled={disabled}
          onChange={(event) => other.set(event.target.value || undefined)}
          onKeyDown={(event) => {
            if (event.key === "Enter") add();
          }}
        />
        <Button disabled={disabled} onClick={add}>
          {t("Note it")}
        </Button>
      </div>
      {wanting && <p className="text-sm text-ochre">{t("Both words are needed.")}</p>}
    </section>
  );
}
