import { useEffect, useMemo, useSyncExternalStore } from "react";
import type { Document } from "../../api/client";
import { valueAt, type Entries } from "../record";
import { photoBoxOf, type PhotoState } from "./photoBox";

export interface Photos extends PhotoState {
  add: (path: string, pictures: readonly Blob[]) => void;
}

/** Taking photos into one inspection; each joins its list once the server has it. */
export function usePhotos(
  inspection: string,
  document: Document | undefined,
  onRecord: (entries: Entries) => void,
): Photos {
  const box = useMemo(() => photoBoxOf(inspection), [inspection]);
  const state = useSyncExternalStore(box.subscribe, box.snapshot);
  useEffect(() => {
    box.whenKept((path, name) => {
      const known = document ? photosAt(document, path) : [];
      if (!known.includes(name)) onRecord([[path, [...known, name]]]);
    });
  }, [box, document, onRecord]);
  return { ...state, add: (path, pictures) => void box.add(path, pictures) };
}

/** The photos in one list of the document. */
export function photosAt(document: Document, path: string): readonly string[] {
  return (valueAt(document, path) as readonly string[] | undefined) ?? [];
}
