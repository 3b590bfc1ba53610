import { useMutation } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { api, Refused, take, type Document } from "../../api/client";
import { fold, stoodBefore } from "../inspection/fold";
import type { Entries } from "../record";
import type { Round } from "./CasePage";

const AGAIN_AFTER_MS = 2000;
const passing = (error: Error) => !(error instanceof Refused) || error.passing;

export interface Writing {
  /** What was written down, what is on its way too. */
  document: Document;
  write: (entries: Entries) => void;
  undo: (() => void) | undefined;
  /** Why the last value at a path was refused. */
  problem: (path: string) => string | undefined;
  /** Whether something is still on its way: it is sent again until the server answers. */
  waiting: boolean;
}

/** What is asked of a round is asked one after the other: a verdict waits for what was written before it. */
export const inTurn = (round: string) => ({ id: `round ${round}` });

/** The record of a round, shown at once and kept by the server, entry after entry. */
export function useWriting(round: Round, onKept: (round: Round) => void): Writing {
  const [waiting, setWaiting] = useState<Entries>([]);
  const [before, setBefore] = useState<readonly Entries[]>([]);
  const [refused, setRefused] = useState<{ paths: readonly string[]; text: string } | undefined>();
  const numbering = useMemo(() => Array.from({ length: round.document.engine.cylinders }, (_, at) => at + 1), [round.document.engine.cylinders]);
  const document = useMemo(() => {
    const said = waiting.map(([path, value]) => ({ path, value: value ?? null, numbering }));
    return fold({ document: round.document, numbering }, said).document;
  }, [round.document, numbering, waiting]);
  const { mutate } = useMutation({
    scope: inTurn(round.id),
    mutationFn: (entries: Entries) =>
      take(
        api.POST("/api/training/rounds/{attempt_id}/record", {
          params: { path: { attempt_id: round.id } },
          body: { entries: entries.map(([path, value]) => ({ path, value: value ?? null })) },
        }),
      ),
    retry: (_, error) => passing(error),
    retryDelay: AGAIN_AFTER_MS,
    onSuccess: onKept,
    onError: (error, entries) => setRefused({ paths: entries.map(([path]) => path), text: error.message }),
    onSettled: (_made, _error, entries) => setWaiting((all) => all.slice(entries.length)),
  });
  const say = useCallback(
    (entries: Entries) => {
      setRefused(undefined);
      setWaiting((all) => [...all, ...entries]);
      mutate(entries);
    },
    [mutate],
  );
  const write = useCallback(
    (entries: Entries) => {
      setBefore((known) => [...known, stoodBefore(document, entries, numbering)]);
      say(entries);
    },
    [document, numbering, say],
  );
  const last = before.at(-1);
  const undo = useCallback(() => {
    if (!last) return;
    setBefore((known) => known.slice(0, -1));
    say(last);
  }, [last, say]);
  return {
    document,
    write,
    undo: last && undo,
    problem: (path) => (refused?.paths.includes(path) ? refused.text : undefined),
    waiting: waiting.length > 0,
  };
}
