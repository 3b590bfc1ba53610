import { useState } from "react";
import { Button } from "../../primitives/Button";
import { useDraft } from "../../primitives/drafts";
import { TextField } from "../../primitives/Field";
import { valueAt, type Recorder } from "../record";

interface Group {
  name: string;
  cylinders: readonly number[];
}

interface Props {
  recorder: Recorder;
  path: string;
  title: string;
  /** What one of them is called. */
  called: string;
  /** Whether the order of the taps is the order that is kept. */
  ordered?: boolean;
}

/** Cylinders that hang on one thing: tapped together, and named. */
export function SharingEntry({ recorder, path, title, called, ordered = false }: Props) {
  const { document, onRecord, disabled } = recorder;
  const [tapped, setTapped] = useState<readonly number[]>([]);
  const name = useDraft(path);
  const groups = (valueAt(document, path) as readonly Group[] | undefined) ?? [];
  const all = Array.from({ length: document.engine.cylinders }, (_, index) => index + 1);
  const taken = groups.flatMap((group) => group.cylinders);
  const tap = (number: number) =>
    setTapped(tapped.includes(number) ? tapped.filter((one) => one !== number) : [...tapped, number]);
  const set = (next: readonly Group[]) => onRecord([[path, next.length ? next : undefined]]);
  const add = () => {
    const cylinders = ordered ? tapped : [...tapped].sort((a, b) => a - b);
    set([...groups, { name: name.now()?.trim() || `${called} ${groups.length + 1}`, cylinders }]);
    setTapped([]);
    name.set(undefined);
  };
  return (
    <section aria-label={title} className="grid gap-2">
      <h3 className="border-b border-line font-bold">{title}</h3>
      <ul className="grid gap-1 text-sm">
        {groups.map((group) => (
          <li key={group.name} className="flex items-center justify-between gap-2 border-b border-line">
            <span>
              <b>{group.name}</b>: {group.cylinders.join(", ")}
            </span>
            <Button className="text-sm" disabled={disabled} onClick={() => set(groups.filter((one) => one !== group))}>
              Take apart
            </Button>
          </li>
        ))}
      </ul>
      {taken.length < all.length && (
        <div className="flex flex-wrap items-end gap-1.5">
          <div role="group" aria-label={`Cylinders of the next ${called}`} className="flex flex-wrap gap-1">
            {all
              .filter((number) => !taken.includes(number))
              .map((number) => (
                <Button key={number} disabled={disabled} aria-pressed={tapped.includes(number)} className="aria-pressed:border-teal aria-pressed:bg-wash aria-pressed:font-bold" onClick={() => tap(number)}>
                  {number}
                </Button>
              ))}
          </div>
          <div className="w-40">
            <TextField label="Called" value={name.text ?? ""} placeholder={`${called} ${groups.length + 1}`} disabled={disabled} onChange={(event) => name.set(event.target.value || undefined)} />
          </div>
          <Button disabled={disabled || tapped.length === 0} onClick={add}>
            They share it
          </Button>
        </div>
      )}
    </section>
  );
}
