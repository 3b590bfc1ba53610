import type { QueryClient } from "@tanstack/react-query";
import { newer, type Told } from "../features/inspection/useRecording";
import { queue } from "../queue";
import { keep } from "../storage/kept";

/** What the queue delivers is what the screen knows. */
export function bindQueue(queries: QueryClient): void {
  queue.start({
    onConfirmed: (inspection) => {
      queries.setQueryData<Told>(["inspection", inspection.id], (known) => newer(known, { inspection }));
      void keep(`inspection ${inspection.id}`, inspection);
    },
    onElsewhere: (inspection) => queries.refetchQueries({ queryKey: ["inspection", inspection] }),
    onAdded: () => {
      void queries.invalidateQueries({ queryKey: ["inspections"] });
      void queries.invalidateQueries({ queryKey: ["engines"] });
    },
    askSession: () => void queries.invalidateQueries({ queryKey: ["session"] }),
  });
}
