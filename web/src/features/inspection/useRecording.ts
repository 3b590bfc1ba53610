import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import { api, Refused, take, type Document, type Inspection } from "../../api/client";
import { correctable, queue, useEntriesOf, useQueue, type Entry, type Say } from "../../queue";
import { keep, kept } from "../../storage/kept";
import type { Entries } from "../record";
import { fold, moves, NUMBERING, stoodBefore } from "./fold";
import { begunHere, unweighed } from "./unweighed";
import { useUndo } from "./useUndo";

/** An inspection as the server last told it, and since when nobody told anything newer. */
export interface Told {
  inspection: Inspection;
  /** Set where the answer comes from this device: when the server gave it. */
  since?: number | undefined;
}

export interface Recording {
  /** As told by the server, its plan in today's numbers. */
  inspection: Inspection | undefined;
  /** The document with everything recorded here, saved or on its way. */
  document: Document | undefined;
  error: Error | null;
  /** Everything of this person that is on its way, or set aside. */
  entries: readonly Entry[];
  /** Where the verdict comes from the device: when the server gave it. */
  since: number | undefined;
  record: (entries: Entries) => void;
  /** Say that what stands at a path is to stand. */
  keepAsIs: (path: string) => void;
  addPhotos: (path: string, pictures: readonly Blob[]) => void;
  /** Undefined where there is nothing to take back, or to say again. */
  undo: (() => void) | undefined;
  redo: (() => void) | undefined;
  /** Give the cylinders other numbers: the present ones, in the order of the new; and what is said with it. */
  renumber: (order: readonly number[], alongside: Entries) => void;
  /** Why the last value at a path was refused. */
  problem: (path: string) => string | undefined;
}

export function newer(old: Told | undefined, fresh: Told): Told {
  return old && old.inspection.sequence > fresh.inspection.sequence ? old : fresh;
}

/** The words among entries that wait. */
function waiting(entries: readonly Entry[]): readonly Say[] {
  return entries.filter((one) => !one.aside).flatMap(({ act }) => (act.kind === "say" ? [act] : []));
}

async function ask(id: string): Promise<Told> {
  const begun = queue.snapshot().held.find(({ entry }) => entry.act.kind === "begin" && entry.act.inspection === id);
  if (begun?.entry.act.kind === "begin") return { inspection: begunHere(begun.entry.act), since: Date.parse(begun.entry.made) };
  const key = `inspection ${id}`;
  try {
    const inspection = await take(
      api.GET("/api/inspections/{inspection_id}", { params: { path: { inspection_id: id } } }),
    );
    await keep(key, inspection);
    return { inspection };
  } catch (error) {
    if (!(error instanceof Refused) || !error.passing) throw error;
    const known = await kept<Inspection>(key);
    if (!known) throw error;
    return { inspection: known.answer, since: known.at };
  }
}

/** Recording into one inspection: shown at once, saved in the background, undone on request. */
export function useRecording(id: string): Recording {
  const asked = useQuery({
    queryKey: ["inspection", id],
    queryFn: () => ask(id),
    // An answer that was on its way while a later one came is no news.
    structuralSharing: (old, fresh) => newer(old as Told | undefined, fresh as Told),
  });
  const entries = useEntriesOf(id);
  const { trouble, person } = useQueue();
  const told = asked.data?.inspection;
  const folded = useMemo(
    () => told && fold({ document: told.document, numbering: told.numbering }, waiting(entries)),
    [told, entries],
  );
  const document = folded?.document;
  const numbering = folded?.numbering;
  const sequence = told?.sequence ?? 0;
  const title = document?.engine.title ?? "";
  const inspection = useMemo(
    () => (told && document && numbering ? inNumbers(told, document, numbering) : undefined),
    [told, document, numbering],
  );
  const { note, undo, redo } = useUndo(person ? `${person.id} ${id}` : undefined);
  const say = useCallback(
    (said: Entries, keeps?: true) => {
      if (!numbering) return;
      // Who says it anew has corrected what was refused of it.
      const paths = new Set(said.map(([path]) => path));
      const corrected = entries.filter(({ act, aside }) => aside && correctable(aside) && act.kind === "say" && paths.has(act.path));
      if (corrected.length > 0) queue.discard(corrected.map((one) => one.id));
      const acts = said.map(([path, value]): Say => {
        const act: Say = { kind: "say", inspection: id, path, value: value ?? null, seen: sequence, numbering };
        return keeps ? { ...act, keeps } : act;
      });
      queue.add(title, acts);
    },
    [id, title, sequence, numbering, entries],
  );
  const record = useCallback(
    (said: Entries) => {
      if (!document || !numbering) return;
      note({ said, stood: stoodBefore(document, said, numbering), numbering });
      say(said);
    },
    [document, numbering, note, say],
  );
  return {
    inspection,
    document,
    error: asked.error,
    entries,
    since: asked.data?.since ?? (trouble && entries.length > 0 ? asked.dataUpdatedAt : undefined),
    record,
    keepAsIs: (path) => say([[path, null]], true),
    addPhotos: (path, pictures) => {
      if (!numbering) return;
      queue.add(title, pictures.map((picture) => ({ kind: "photo", inspection: id, path, numbering, picture })));
    },
    undo: undo && document && numbering && (() => say(undo(document, numbering))),
    redo: redo && numbering && (() => say(redo(numbering))),
    renumber: (order, alongside) => numbering && record([[NUMBERING, order.map((old) => numbering[old - 1])], ...alongside]),
    problem: (path) => entries.findLast(({ act, aside }) => aside && act.kind === "say" && act.path === path)?.aside?.text,
  };
}

/** What the server told, under the numbers of today; graded under others it says nothing. */
function inNumbers(told: Inspection, document: Document, numbering: readonly number[]): Inspection {
  const turned = moves(told.numbering, numbering);
  if (turned.size === 0) return told;
  const now = (number: number) => turned.get(number) ?? number;
  const { stations, neighbours, coils } = told.plan;
  return {
    ...told,
    plan: {
      stations: stations.map((one) => ({ ...one, cylinder: now(one.cylinder) })),
      neighbours: neighbours.map((pair) => pair.map(now)),
      coils: coils.map((group) => group.map(now)),
    },
    assessment: unweighed(document, t("Numbered anew. It is weighed again as soon as the server answers.")),
  };
}
