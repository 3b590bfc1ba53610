import type { OutboxState } from "./outbox";

/** What is saved where, in a few words that are always true. */
export function SaveState({ state }: { state: OutboxState }) {
  const count = state.pending.length;
  const entries = `${count} ${count === 1 ? "entry" : "entries"}`;
  if (!state.ready) {
    return (
      <p role="status" className="caption whitespace-nowrap">
        Looking for entries on this device ...
      </p>
    );
  }
  if (state.trouble && count > 0) {
    return (
      <p role="status" className="text-sm font-medium text-rust">
        {state.unwritten > 0 ? `Writing ${entries} to this device ...` : `${entries} on this device, not yet saved.`}{" "}
        {state.trouble}
      </p>
    );
  }
  return (
    <p role="status" className="caption whitespace-nowrap">
      {count > 0 ? `Saving ${entries} ...` : "All saved"}
    </p>
  );
}
