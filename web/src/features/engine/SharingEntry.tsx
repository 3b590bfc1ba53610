import { t } from "../../language";
import { useState } from "react";
import type { Plan } from "../../api/client";
import { Button } from "../../primitives/Button";
import { useDraft } from "../../primitives/drafts";
import { TextField } from "../../primitives/Field";
import { valueAt, type Recorder } from "../record";
import { Block } from "./Block";

interface Group {
  name: string;
  cylinders: readonly number[];
}

/** What cylinders may hang on together. */
const SHARED = [
  { path: "/engine/feeds", title: t("Carburettors and throttles"), called: "carburettor", ordered: false },
  { path: "/engine/banks", title: t("Banks, each from the front to the rear"), called: "bank", ordered: true },
] as const;

type Shared = (typeof SHARED)[number];

function groupsOf(recorder: Recorder, { path }: Shared): readonly Group[] {
  return (valueAt(recorder.document, path) as readonly Group[] | undefined) ?? [];
}

/** The engine in plan: cylinders tapped together there share what is named below it. */
export function SharingEntry({ recorder, plan }: { recorder: Recorder; plan: Plan }) {
  const { document, disabled } = recorder;
  const [tapped, setTapped] = useState<readonly number[]>([]);
  const tap = (number: number) =>
    setTapped(tapped.includes(number) ? tapped.filter((one) => one !== number) : [...tapped, number]);
  return (
    <section aria-label={t("Shared parts")} className="grid gap-3">
      <h3 className="border-b border-line font-bold">{t("Shared parts")}</h3>
      <p className="text-sm text-soft">{t("Tap those that hang on one thing, then say what it is.")}</p>
      <Block plan={plan} radial={document.engine.layout === "radial"} label={t("Plan of the engine")} compact>
        {(number) => {
          const within = SHARED.flatMap((shared) => groupsOf(recorder, shared)).filter((group) => group.cylinders.includes(number));
          return (
            <button
              type="button"
              disabled={disabled}
              aria-pressed={tapped.includes(number)}
              aria-label={[t("Cylinder {{number}}", { number }), ...within.map((group) => group.name)].join(", ")}
              onClick={() => tap(number)}
              className="grid size-full place-content-center rounded-lg border-2 border-line bg-sheet text-center hover:border-soft aria-pressed:border-teal aria-pressed:bg-wash"
            >
              <b className="text-xl leading-none">{number}</b>
              <span className="caption max-w-14 truncate">{within.map((group) => group.name).join(" · ")}</span>
            </button>
          );
        }}
      </Block>
      {SHARED.map((shared) => (
        <Groups key={shared.path} recorder={recorder} shared={shared} tapped={tapped} onDone={() => setTapped([])} />
      ))}
      {plan.coils.length > 0 && (
        <p className="text-sm">{t("Share a coil, by the firing order: {{coils}}", { coils: plan.coils.map((pair) => pair.join(" and ")).join("; ") })}</p>
      )}
    </section>
  );
}

/** A name that none of them has. */
function unused(called: string, groups: readonly Group[]): string {
  const names = groups.map((group) => group.name);
  const number = groups.findIndex((_, index) => !names.includes(`${called} ${index + 1}`));
  return `${called} ${(number < 0 ? groups.length : number) + 1}`;
}

interface GroupsProps {
  recorder: Recorder;
  shared: Shared;
  tapped: readonly number[];
  onDone: () => void;
}

function Groups({ recorder, shared, tapped, onDone }: GroupsProps) {
  const { onRecord, disabled } = recorder;
  const { path, title, called, ordered } = shared;
  const name = useDraft(path);
  const groups = groupsOf(recorder, shared);
  const set = (next: readonly Group[]) => onRecord([[path, next.length ? next : undefined]]);
  const add = () => {
    const cylinders = ordered ? tapped : [...tapped].sort((a, b) => a - b);
    // Nobody hangs on two of a kind: who is tapped goes over.
    const left = groups
      .map((group) => ({ ...group, cylinders: group.cylinders.filter((one) => !tapped.includes(one)) }))
      .filter((group) => group.cylinders.length > 0);
    set([...left, { name: name.now()?.trim() || unused(called, left), cylinders }]);
    name.set(undefined);
    onDone();
  };
  return (
    <div role="group" aria-label={title} className="grid gap-1 text-sm">
      <h4 className="font-semibold">{title}</h4>
      {groups.map((group) => (
        <p key={group.name} className="flex items-center justify-between gap-2 border-b border-line">
          <span>
            <b>{group.name}</b>: {group.cylinders.join(", ")}
          </span>
          <Button className="text-sm" disabled={disabled} onClick={() => set(groups.filter((one) => one !== group))}>
            {t("Take apart")}
          </Button>
        </p>
      ))}
      {tapped.length > 0 && (
        <div className="grid grid-cols-[1fr_auto] items-end gap-2">
          <TextField label={t("Called")} value={name.text ?? ""} placeholder={unused(called, groups)} disabled={disabled} onChange={(event) => name.set(event.target.value || undefined)} />
          <Button disabled={disabled} onClick={add}>
            {t("{{tapped}} share this {{called}}", { tapped: tapped.join(", "), called })}
          </Button>
        </div>
      )}
    </div>
  );
}
