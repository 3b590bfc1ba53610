import { t } from "../../language";
import { useImperativeHandle, useState, type ReactNode } from "react";
import { Button } from "../../primitives/Button";
import { worked } from "../bench";
import { at, FieldEntry, FieldGroups, valueAt, type Entries, type Recorder } from "../record";
import { EntryLine } from "./EntryLine";
import { AnswerKey } from "./AnswerKey";
import { asked, waiting, type Round } from "./rounds";
import { sentence } from "./said";
import type { Acting } from "./useRound";

interface Props {
  recorder: Recorder;
  round: Round;
  acting: Acting;
  onUndo: (() => void) | undefined;
  /** The cylinder as it was recorded. */
  drawn?: ReactNode;
  /** What one answer looks like. */
  drawAnswer?: (sets: Entries) => ReactNode;
  /** Stands beside the answers. */
  beside?: ReactNode;
  /** Stands with every other word of the round. */
  more?: ReactNode;
}

/** One kind of thing, asked of one cylinder after the other: number huge, a key an answer. */
export function RoundEntry({ recorder, round, acting, onUndo, drawn, drawAnswer, beside, more }: Props) {
  const { document, cylinder, disabled } = recorder;
  const [open, setOpen] = useState(false);
  useImperativeHandle(acting.details, () => () => setOpen((was) => !was), []);
  return (
    <section aria-label={t("{{title}}, cylinder {{cylinder}}", { title: round.title, cylinder })} className="grid gap-2">
      <div className="flex items-center gap-2.5 lg:gap-4">
        <b aria-hidden="true" className="min-w-12 text-[5rem] leading-[0.8] font-bold tracking-tighter lg:text-[6.5rem]">
          {cylinder}
        </b>
        {drawn && <div className="w-20 shrink-0 lg:w-28">{drawn}</div>}
        <div className="grid min-w-0 flex-1 gap-1">
          <h3 className="leading-tight font-bold lg:text-lg">{round.title}</h3>
          <Said recorder={recorder} round={round} />
          {round.figure && (
            <div className="max-w-60">
              <FieldEntry field={round.figure} recorder={recorder} onField={acting.holdFigure} onDone={acting.next} stays={round.straight === true} />
            </div>
          )}
        </div>
      </div>
      {round.caution && <p className="border-l-4 border-ochre pl-2 text-sm">{round.caution}</p>}
      <div className={beside ? "grid gap-3 lg:grid-cols-[minmax(0,1fr)_auto]" : ""}>
        <div className="grid grid-cols-3 content-start gap-1.5 lg:grid-cols-4">
          {round.answers.map((answer) => (
            <AnswerKey
              key={answer.key}
              answer={answer}
              set={answer.sets.every(([path, value]) => says(valueAt(document, at(path, cylinder)), value))}
              disabled={disabled}
              drawn={drawAnswer?.(answer.sets)}
              onAnswer={acting.answer}
            />
          ))}
        </div>
        {beside}
      </div>
      <EntryLine adding={acting.adding} onUndo={onUndo} />
      <Foot acting={acting} document={document} round={round} open={open} onOpen={() => setOpen(!open)} />
      {open && (
        <div className="grid gap-3 border-t border-line pt-3">
          <FieldGroups columns={split(round.details)} recorder={recorder} />
          {more}
        </div>
      )}
    </section>
  );
}

/** Whether what stands says it: the same value, or a list with all of its words. */
function says(stands: unknown, said: unknown): boolean {
  if (Array.isArray(said)) return Array.isArray(stands) && said.every((word) => stands.includes(word));
  return JSON.stringify(stands) === JSON.stringify(said);
}

/** In two columns, as even as their fields come. */
function split<T>(groups: readonly T[]): readonly (readonly T[])[] {
  const half = Math.ceil(groups.length / 2);
  return groups.length > 1 ? [groups.slice(0, half), groups.slice(half)] : [groups];
}

/** What this round has of the cylinder, and what was seen of it before; what it does not ask it leaves be. */
function Said({ recorder, round }: { recorder: Recorder; round: Round }) {
  const { document, cylinder } = recorder;
  const own = asked(round).map((path) => at(path, cylinder));
  const said = own
    .map((path) => [path, valueAt(document, path)] as const)
    .filter(([, value]) => value !== undefined)
    .map(([path, value]) => sentence(path, value));
  const left = elsewhere(document.cylinders?.find((one) => one.number === cylinder), own);
  return (
    <>
      <p className={`line-clamp-3 text-sm ${said.length ? "font-medium first-letter:uppercase" : "text-soft italic"}`}>{said.length ? said.join(", ") : t("not looked at")}</p>
      {left.length > 0 && <p className="caption truncate" title={left.join(", ")}>{t("Also seen: {{left}}", { left: left.join(", ") })}</p>}
    </>
  );
}

/** The words about a cylinder that other rounds have recorded. */
function elsewhere(record: object | undefined, own: readonly string[]): readonly string[] {
  const words: string[] = [];
  const number = (record as { number?: number } | undefined)?.number;
  const walk = (value: unknown, path: string) => {
    if (typeof value === "object" && value !== null && !Array.isArray(value) && !("unit" in value)) {
      for (const [name, inner] of Object.entries(value)) walk(inner, `${path}/${name}`);
    } else if (!own.includes(path) && !/\/(number|note|photos)$/.test(path)) {
      words.push(sentence(path, value));
    }
  };
  if (record) walk(record, `/cylinders/${number}`);
  return words;
}

interface FootProps {
  acting: Acting;
  document: Recorder["document"];
  round: Round;
  open: boolean;
  onOpen: () => void;
}

function Foot({ acting, document, round, open, onOpen }: FootProps) {
  const all = worked(document).length;
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <Button className="hidden lg:block" disabled={!acting.same} onClick={acting.same} aria-keyshortcuts="=">
        {t("As the last one")}{" "}<kbd className="keycap">=</kbd>
      </Button>
      <Button disabled={!acting.alike} onClick={acting.alike} aria-keyshortcuts="+">
        {t("The rest alike: I looked at each")}{" "}<kbd className="keycap">+</kbd>
      </Button>
      <Button aria-expanded={open} onClick={onOpen} aria-keyshortcuts="d">
        {t("Word by word")}{" "}<kbd className="keycap">d</kbd>
      </Button>
      <span className="caption ml-auto">
        {t("{{all}} of {{all2}}", { all: all - waiting(document, round).length, all2: all })}
      </span>
      <Button weight="main" className="hidden lg:block" onClick={acting.next} aria-keyshortcuts="Enter">
        {acting.following === undefined ? t("All seen: go on") : t("Next: {{following}}", { following: acting.following })} <kbd className="keycap text-on-teal">{t("Enter")}</kbd>
      </Button>
    </div>
  );
}
