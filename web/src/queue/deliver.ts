import { t } from "../language";
import { addEngine, addPhoto, beginInspection, Refused, sendObservations, type EntryAnswer } from "../api/client";
import type { Entry, Say } from "./entry";
import type { Failure } from "./machine";

/** Deliver what goes in one request; the inspection as it is kept then, where there is one. */
export async function deliver(entries: readonly Entry[]): Promise<EntryAnswer | undefined> {
  const [first] = entries;
  if (!first) return undefined;
  const { act, author, device, made } = first;
  switch (act.kind) {
    case "say":
      return sendObservations(act.inspection, author.id, entries.map(said));
    case "photo":
      return addPhoto(act.inspection, act.picture, {
        client_id: first.id,
        author: author.id,
        device,
        made,
        path: act.path,
        numbering: act.numbering,
      });
    case "begin":
      return beginInspection({ id: act.inspection, engine: act.engine, date: act.date, device, author: author.id });
    case "engine":
      await addEngine({ id: act.engine, author: author.id, data: act.data });
      return undefined;
  }
}

function said(entry: Entry) {
  const { path, value, seen, numbering, keeps } = entry.act as Say;
  const { id, device, made, order, again } = entry;
  return { client_id: id, device, made, order, path, value, seen, numbering, ...(keeps && { keeps }), ...(again && { again }) };
}

/** What came of it when it did not go through; an answer that cannot be used is none. */
export function failure(error: unknown): Failure {
  if (!(error instanceof Refused)) return { status: 0, code: "unusable", text: t("The answer could not be used.") };
  const problem = error.problems[0];
  return { status: error.status, code: error.code, text: problem ? problem.expected : error.message };
}
