import { useMemo, useSyncExternalStore } from "react";
import { inspectionOf, senderOf, type Entry } from "./entry";
import { summary, type State, type Summary } from "./machine";
import { queue } from "./runner";

/** The queue as it is. */
export function useQueue(): State {
  return useSyncExternalStore(queue.subscribe, queue.snapshot);
}

/** How much waits, for the line that is always in sight. */
export function useSummary(): Summary {
  const state = useQueue();
  return useMemo(() => summary(state), [state]);
}

const NONE: readonly Entry[] = [];

/** What the signed-in person entered here for an inspection, in order, set aside or not. */
export function useEntriesOf(inspection: string): readonly Entry[] {
  const { held, person } = useQueue();
  return useMemo(() => {
    const own = held.map((one) => one.entry).filter((one) => senderOf(one).id === person?.id && inspectionOf(one.act) === inspection);
    return own.length > 0 ? own : NONE;
  }, [held, person?.id, inspection]);
}
