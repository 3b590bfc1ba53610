import { useEffect, useMemo, useSyncExternalStore } from "react";
import type { Document } from "../../api/client";
import type { Entries } from "../record";
import { photoBoxOf, type PhotoState } from "./photoBox";

export interface Photos extends PhotoState {
  add: (cylinder: number, pictures: readonly Blob[]) => void;
}

/** Taking photos into one inspection; each joins its cylinder's list once the server has it. */
export function usePhotos(
  inspection: string,
  document: Document | undefined,
  onRecord: (entries: Entries) => void,
): Photos {
  const box = useMemo(() => photoBoxOf(inspection), [inspection]);
  const state = useSyncExternalStore(box.subscribe, box.snapshot);
  useEffect(() => {
    box.whenKept((cylinder, name) => {
      const known = document?.cylinders?.find((one) => one.number === cylinder)?.photos ?? [];
      if (!known.includes(name)) onRecord([[`/cylinders/${cylinder}/photos`, [...known, name]]]);
    });
  }, [box, document, onRecord]);
  return { ...state, add: (cylinder, pictures) => void box.add(cylinder, pictures) };
}
