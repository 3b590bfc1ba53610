export * from "./entry";
export { summary, type State, type Storage, type Summary } from "./machine";
export { queue } from "./runner";
export { useEntriesOf, useQueue, useSummary } from "./useQueue";
