import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState, useSyncExternalStore } from "react";
import { api, take, type Document, type Inspection } from "../../api/client";
import { askOrRecall } from "../../storage/kept";
import { valueAt, type Entries } from "../record";
import { fold } from "./fold";
import { outboxOf, type OutboxState } from "./outbox";

export interface Recording {
  inspection: Inspection | undefined;
  /** The document with everything recorded here, saved or on its way. */
  document: Document | undefined;
  error: Error | null;
  state: OutboxState;
  record: (entries: Entries) => void;
  undo: () => void;
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
  const [before, setBefore] = useState<readonly Entries[]>([]);
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
    outbox.add(last, sequence);
  }, [before, outbox, sequence]);
  return {
    inspection: asked.data,
    document,
    error: asked.error,
    state,
    record,
    undo,
    canUndo: before.length > 0,
    problem: (path) => state.refused.find((one) => one.path === path)?.expected,
  };
}
