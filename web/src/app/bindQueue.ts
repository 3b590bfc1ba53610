import type { QueryClient } from "@tanstack/react-query";
import { askAgain } from "../api/again";
import type { Inspection } from "../api/client";
import { newer, type Told } from "../features/inspection/useRecording";
import { queue } from "../queue";
import { keep } from "../storage/kept";

/** What to test next follows with the reasons; until then the last advice stands. */
function advised(fresh: Inspection, known: Told | undefined): Inspection {
  const next_tests = known?.inspection.assessment.next_tests ?? [];
  return { ...fresh, assessment: { ...fresh.assessment, next_tests } };
}

/** What the queue delivers is what the screen knows. */
export function bindQueue(queries: QueryClient): void {
  queue.start({
    onConfirmed: (inspection) => {
      queries.setQueryData<Told>(["inspection", inspection.id], (known) => newer(known, { inspection: advised(inspection, known) }));
      void keep(`inspection ${inspection.id}`, inspection);
    },
    onElsewhere: (inspection) => queries.refetchQueries({ queryKey: ["inspection", inspection] }),
    onAdded: () => void askAgain(queries, ["inspections"], ["engines"]),
    askSession: () => void queries.invalidateQueries({ queryKey: ["session"] }),
  });
}
