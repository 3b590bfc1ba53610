import { valueAt, type Recorder } from "../record";

/** A word of a list joins those that stand there. */
export function together(recorder: Recorder, one: { path: string; value: unknown }): unknown {
  const known = valueAt(recorder.document, one.path);
  if (!Array.isArray(one.value)) return one.value;
  return [...new Set([...(Array.isArray(known) ? (known as unknown[]) : []), ...(one.value as unknown[])])];
}
