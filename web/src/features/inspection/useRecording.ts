import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState, useSyncExternalStore } from "react";
import { api, take, type Document, type Inspection } from "../../api/client";
import { device } from "../../storage/device";
import { askOrRecall } from "../../storage/kept";
import { valueAt, type Entries } from "../record";
import { fold } from "./fold";
import { outboxOf, type OutboxState } from "./outbox";

/** What undo takes back: entries as they stood, or numbers as they were. */
type Step = Entries | { numbers: readonly number[] };

export interface Recording {
  inspection: Inspection | undefined;
  /** The document with everything recorded here, saved or on its way. */
  document: Document | undefined;
  error: Error | null;
  state: OutboxState;
  record: (entries: Entries) => void;
  undo: () => void;
  /** Give the cylinders other numbers, in the order of the old ones; undone like an entry. */
  renumber: (numbers: readonly number[]) => void;
  /** Why the last renumbering did not get through. */
  renumberTrouble: string | undefined;
  canUndo: boolean;
  /** Why the last value at a path was refused. */
  problem: (path: string) => string | undefined;
}

/** Recording into one inspection: shown at once, saved in the background, undone on request. */
export function useRecording(id: string): Recording {
  const queries = useQueryClient();
  const key = useMemo(() => ["inspection", id], [id]);
  const asked = useQuery({
    queryKey: key,
    queryFn: () =>
      askOrRecall(`inspection ${id}`, () =>
        take(api.GET("/api/inspections/{inspection_id}", { params: { path: { inspection_id: id } } })),
      ),
    networkMode: "always",
  });
  const outbox = useMemo(
    () =>
      outboxOf(id, (confirmed) => {
        queries.setQueryData<Inspection>(["inspection", confirmed.id], (known) =>
          known && known.sequence > confirmed.sequence ? known : confirmed,
        );
      }),
    [id, queries],
  );
  const state = useSyncExternalStore(outbox.subscribe, outbox.snapshot);
  const document = useMemo(
    () => (asked.data ? fold(asked.data.document, state.pending) : undefined),
    [asked.data, state.pending],
  );
  const sequence = asked.data?.sequence ?? 0;
  const [before, setBefore] = useState<readonly Step[]>([]);
  const renumbering = useMutation({
    mutationFn: (numbers: readonly number[]) =>
      take(
        api.POST("/api/inspections/{inspection_id}/renumber", {
          params: { path: { inspection_id: id } },
          body: { numbers: [...numbers], device: device() },
        }),
      ),
    onSuccess: (inspection) => queries.setQueryData(key, inspection),
  });
  const { mutate } = renumbering;
  const renumber = useCallback(
    (numbers: readonly number[]) => {
      const back = numbers.map((_, index) => numbers.indexOf(index + 1) + 1);
      mutate(numbers, { onSuccess: () => setBefore((known) => [...known, { numbers: back }]) });
    },
    [mutate],
  );
  const record = useCallback(
    (entries: Entries) => {
      if (!document) return;
      const stood = entries.map(([path]) => [path, valueAt(document, path)] as const);
      setBefore((known) => [...known, stood]);
      outbox.add(entries, sequence);
    },
    [document, outbox, sequence],
  );
  const undo = useCallback(() => {
    const last = before.at(-1);
    if (!last) return;
    setBefore(before.slice(0, -1));
    if ("numbers" in last) mutate(last.numbers);
    else outbox.add(last, sequence);
  }, [before, outbox, sequence, mutate]);
  return {
    inspection: asked.data,
    document,
    error: asked.error,
    state,
    record,
    undo,
    renumber,
    renumberTrouble: renumbering.error?.message,
    canUndo: before.length > 0,
    problem: (path) => state.refused.find((one) => one.path === path)?.expected,
  };
}
