import type { QueryClient } from "@tanstack/react-query";
import { askAgain } from "../api/again";
import { weighing } from "../features/inspection/weighing";
import { queue } from "../queue";

/** What the queue delivers is what the screen knows. */
export function bindQueue(queries: QueryClient): void {
  queue.start({
    onConfirmed: weighing(queries),
    onElsewhere: (inspection) => queries.refetchQueries({ queryKey: ["inspection", inspection] }),
    onAdded: () => void askAgain(queries, ["inspections"], ["engines"]),
    askSession: () => void queries.invalidateQueries({ queryKey: ["session"] }),
  });
}
