import { t } from "../../language";
import type { Inspection } from "../../api/client";
import { Button } from "../../primitives/Button";
import type { Entries } from "../record";
import { saidOf, spoken } from "../record/spoken";

type Conflict = Inspection["conflicts"][number];

interface Props {
  conflicts: readonly Conflict[];
  onRecord: (entries: Entries) => void;
  /** What stands is to stand. */
  onKeep: (path: string) => void;
  disabled: boolean;
}

/** Where people said different things and did not know of each other: a person who sees both decides. */
export function Conflicts({ conflicts, onRecord, onKeep, disabled }: Props) {
  if (conflicts.length === 0) return null;
  return (
    <section className="rounded-md border-l-4 border-rust bg-sheet p-3" aria-label={t("Two people disagree")}>
      <h2 className="mb-1 font-bold">{t("Two people disagree")}</h2>
      <ul className="grid gap-2 text-sm">
        {conflicts.map((one) => (
          <li key={one.path}>
            <p className="caption">{spoken(one.path)}</p>
            {one.said.some((each) => each.path !== one.path) ? (
              <Removal conflict={one} onRecord={onRecord} onKeep={onKeep} disabled={disabled} />
            ) : (
              <Values conflict={one} onRecord={onRecord} disabled={disabled} />
            )}
          </li>
        ))}
      </ul>
      <p className="caption mt-1">{t("The first of each stands until one is chosen.")}</p>
    </section>
  );
}

type One = Pick<Props, "onRecord" | "disabled"> & { conflict: Conflict };

/** Each value once, with everybody who said it. */
function Values({ conflict, onRecord, disabled }: One) {
  const values = new Map<string, { value: unknown; by: string[] }>();
  for (const { value, by } of conflict.said) {
    const key = JSON.stringify(value);
    const known = values.get(key) ?? { value, by: [] };
    if (by && !known.by.includes(by)) known.by.push(by);
    values.set(key, known);
  }
  return (
    <p className="flex flex-wrap gap-2">
      {[...values].map(([key, { value, by }]) => (
        <Button key={key} disabled={disabled} onClick={() => onRecord([[conflict.path, value]])}>
          <b>{saidOf(value)}</b> {by.length > 0 && `(${by.join(", ")})`}
        </Button>
      ))}
    </p>
  );
}

/** One removed it, another added to it and did not know. */
function Removal({ conflict, onRecord, onKeep, disabled }: One & Pick<Props, "onKeep">) {
  const removed = conflict.said.find((one) => one.path === conflict.path);
  const added = conflict.said.filter((one) => one.path !== conflict.path);
  return (
    <>
      <p>
        {t("{{by}} removed it and had not seen: {{added}}.", { by: removed?.by || t("Somebody"), added: added.map((one) => `${spoken(one.path)}: ${saidOf(one.value)}${one.by ? ` (${one.by})` : ""}`).join("; ") })}
      </p>
      <p className="flex flex-wrap gap-2">
        <Button disabled={disabled} onClick={() => onKeep(conflict.path)}>
          <b>{t("Keep it")}</b>
        </Button>
        <Button disabled={disabled} onClick={() => onRecord([[conflict.path, undefined]])}>
          <b>{t("Remove it all the same")}</b>
        </Button>
      </p>
    </>
  );
}
