import type { Document } from "../../api/client";
import type { Entry } from "../../queue";
import { valueAt } from "../record";

/** Taking photos into one inspection; each joins its list once the server has made it anew. */
export interface Photos {
  /** What is on its way or set aside. */
  entries: readonly Entry[];
  add: (path: string, pictures: readonly Blob[]) => void;
}

/** The photos in one list of the document. */
export function photosAt(document: Document, path: string): readonly string[] {
  return (valueAt(document, path) as readonly string[] | undefined) ?? [];
}
