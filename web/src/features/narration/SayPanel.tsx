import { t } from "../../language";
import { useMutation } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, Refused, take, type Schemas } from "../../api/client";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import type { SpokenRound } from "../hand/steps";
import { useDraft } from "../../primitives/drafts";
import { leave } from "../../primitives/typing";
import { FiringEnd, type PlugRecord } from "../plug";
import type { Recorder } from "../record";
import { saidOf, spoken } from "../record/spoken";
import { together } from "./together";
import { readBack, useListening } from "./useListening";

type Heard = Schemas["Heard"];
type Proposal = Schemas["Understood"];

interface Props {
  inspection: string;
  recorder: Recorder;
  round: SpokenRound;
  /** Which compression test is under way. */
  kind: "dry" | "wet";
  cylinder: number;
  /** Counts up each time it is called for: the line is where the keyboard goes. */
  summons: number;
  onChoose: (cylinder: number) => void;
  onClose: () => void;
}

const CONTEXT = 12;

/** Say it, or type it: what is understood is drawn and taken with one tap; the sentence is kept as it was. */
export function SayPanel({ inspection, recorder, round, kind, cylinder, summons, onChoose, onClose }: Props) {
  const draft = useDraft(t("say it"));
  const [before, setBefore] = useState<readonly string[]>([]);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus({ preventScroll: true }), [summons]);
  const asked = useMutation({
    mutationFn: (said: string) =>
      take(
        api.POST("/api/inspections/{inspection_id}/say", {
          params: { path: { inspection_id: inspection } },
          body: { line: said, round, kind, cylinder, before: [...before] },
        }),
      ),
    onSuccess: (heard, said) => {
      setBefore((known) => [...known, said].slice(-CONTEXT));
      if (heard.cylinder) onChoose(heard.cylinder);
      readBack(heard.proposals.slice(0, 3).map((one) => saidOf(one.value)).join(", "));
    },
  });
  const { mutate } = asked;
  const hear = useCallback(
    (text: string) => {
      const said = text.trim();
      if (!said) return;
      // Two people may say something at once: neither takes the other's place.
      const id = `said-${crypto.randomUUID().slice(0, 8)}`;
      recorder.onRecord([[`/inspection/said/${id}/text`, said]]);
      mutate(said);
      draft.set(undefined);
    },
    [mutate, recorder, draft],
  );
  const { listen, listening } = useListening(hear);
  const away = asked.error instanceof Refused && asked.error.passing;
  return (
    <section aria-label={t("Say it")} data-keeps-focus className="sheet m-2 grid gap-2 border-2 border-teal p-3 lg:mx-3 print:hidden">
      <form
        className="grid grid-cols-[1fr_auto_auto] items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          hear(draft.now() ?? "");
        }}
      >
        <TextField
          ref={field}
          label={t("Say it: three, black, wet with fuel, gap forty thou")}
          autoComplete="off"
          value={draft.text ?? ""}
          disabled={recorder.disabled}
          onChange={(event) => draft.set(event.target.value || undefined)}
          onKeyDown={(event) => {
            if (event.key !== "Escape") return;
            draft.set(undefined);
            leave(event.currentTarget);
            onClose();
          }}
        />
        {listen && (
          <Button aria-pressed={listening} onClick={listen}>
            {listening ? t("Listening ...") : t("Listen")}
          </Button>
        )}
        <Button onClick={onClose}>{t("Close")}</Button>
      </form>
      {asked.error && (
        <p role="alert" className="text-sm text-rust">
          {away ? t("Kept as it was said; the server does not answer, so it is not understood yet. ") : asked.error.message}
          {away && <Button onClick={() => asked.variables && mutate(asked.variables)}>{t("Try again")}</Button>}
        </p>
      )}
      {asked.data && <Understood key={`${asked.submittedAt}`} heard={asked.data} recorder={recorder} onTaken={() => field.current?.focus()} />}
    </section>
  );
}

interface UnderstoodProps {
  heard: Heard;
  recorder: Recorder;
  onTaken: () => void;
}

function Understood({ heard, recorder, onTaken }: UnderstoodProps) {
  const [taken, setTaken] = useState<ReadonlySet<string>>(new Set());
  const open = heard.proposals.filter((one) => !taken.has(one.path));
  const plain = open.filter((one) => !one.apart);
  const grave = open.filter((one) => one.apart);
  const accept = (chosen: readonly Proposal[]) => {
    // What is part of one item makes no sense without the rest of it.
    const items = new Set(chosen.map((one) => itemOf(one.path)).filter(Boolean));
    const some = [...new Set([...chosen, ...open.filter((one) => items.has(itemOf(one.path)))])];
    recorder.onRecord(some.map((one) => [one.path, together(recorder, one)] as const));
    setTaken(new Set([...taken, ...some.map((one) => one.path)]));
    onTaken();
  };
  const drawn = drawnPlugs(heard, recorder);
  return (
    <div role="status" className="grid gap-2">
      {drawn.length > 0 && (
        <div className="flex flex-wrap gap-3" aria-hidden="true">
          {drawn.map(([number, plug]) => (
            <span key={number} className="text-center text-sm font-bold">
              <FiringEnd plug={plug} className="size-16" />
              {number}
            </span>
          ))}
        </div>
      )}
      {plain.length > 0 && (
        <div className="flex flex-wrap items-center gap-1.5">
          <Button weight="main" disabled={recorder.disabled} onClick={() => accept(plain)}>
            {t("Yes, {{part}}", { part: plain.length === 1 ? t("that") : t("all {{count}}", { count: plain.length }) })}
          </Button>
          {plain.map((one) => (
            <One key={one.path} one={one} disabled={recorder.disabled} onTake={() => accept([one])} />
          ))}
        </div>
      )}
      {grave.length > 0 && (
        <div role="group" aria-label={t("Each by itself")} className="flex flex-wrap items-center gap-1.5 border-l-4 border-rust pl-2">
          <span className="caption">{t("Each by itself:")}</span>
          {statements(grave).map((some) => (
            <One key={some[0].path} one={some[0]} of={some} disabled={recorder.disabled} onTake={() => accept(some)} />
          ))}
        </div>
      )}
      {open.length === 0 && heard.proposals.length > 0 && <p className="text-sm">{t("Taken.")}</p>}
      {heard.questions.map((one) => (
        <p key={one.path} className="flex flex-wrap items-center gap-2 border-l-4 border-ochre pl-2 text-sm">
          {spoken(one.path)}: {one.text}
          {one.value !== null && !taken.has(one.path) && (
            <Button disabled={recorder.disabled} onClick={() => accept([{ ...one, words: "", confidence: 1, apart: true }])}>
              {t("Now {{value}}", { value: saidOf(one.value) })}
            </Button>
          )}
        </p>
      ))}
      {heard.not_understood.length > 0 && (
        <p className="text-sm">
          {t("Not understood, and kept as it was said:")}{" "}<b>{heard.not_understood.map((one) => `“${one}”`).join(", ")}</b>
        </p>
      )}
      {heard.proposals.length + heard.questions.length + heard.not_understood.length === 0 && (
        <p className="text-sm">{t("Nothing in it to record.")}</p>
      )}
    </div>
  );
}

const OF_A_CYLINDER = /^(\/(?:cylinders|tests\/\w+|tests\/\w+\/[^/]+\/readings|refit\/cylinders)\/)(\d+)(?=\/)/;

/** What was said at once of several cylinders is one statement. */
function statements(list: readonly Proposal[]): [Proposal, ...Proposal[]][] {
  const found = new Map<string, [Proposal, ...Proposal[]]>();
  for (const one of list) {
    const key = `${one.path.replace(OF_A_CYLINDER, "$1")} ${JSON.stringify(one.value)} ${one.words}`;
    const known = found.get(key);
    if (known) known.push(one);
    else found.set(key, [one]);
  }
  return [...found.values()];
}

/** One proposal, or the same of several cylinders: a tap takes it. */
function One({ one, of = [one], disabled, onTake }: { one: Proposal; of?: readonly Proposal[]; disabled: boolean; onTake: () => void }) {
  const [number, ...others] = of.map(({ path }) => OF_A_CYLINDER.exec(path)?.[2]);
  const place = spoken(one.path);
  const all = [number, ...others].join(", ");
  return (
    <Button disabled={disabled} onClick={onTake} title={`“${one.words}”`}>
      {others.length === 0 ? place : place.replace(t("cylinder {{number}}", { number }), t("cylinders {{all}}", { all }))}:{" "}
      <b>{saidOf(one.value)}</b>
      {one.confidence < 0.75 && " ?"}
    </Button>
  );
}

/** The item of a list that a path belongs to, where its fields stand or fall together. */
function itemOf(path: string): string | undefined {
  return /^\/(?:tests\/swap|refit\/repairs)\/[^/]+/.exec(path)?.[0];
}

/** The plugs as they would stand with what was proposed. */
function drawnPlugs(heard: Heard, recorder: Recorder): [number, PlugRecord][] {
  const made = new Map<number, Record<string, unknown>>();
  for (const one of heard.proposals) {
    const found = /^\/cylinders\/(\d+)\/plug\/(\w+)$/.exec(one.path);
    if (!found?.[1] || !found[2]) continue;
    const number = Number(found[1]);
    const known = recorder.document.cylinders?.find((other) => other.number === number)?.plug ?? {};
    made.set(number, { ...known, ...made.get(number), [found[2]]: one.value });
  }
  return [...made].map(([number, plug]) => [number, plug as PlugRecord]);
}
