import { useMutation, useQueryClient } from "@tanstack/react-query";
import { askAgain } from "../../api/again";
import { api, take, type Schemas } from "../../api/client";

export type Kept = Schemas["KeptRequest"]["kept"];

interface Wanted {
  id: string;
  kept: Kept;
}

/** Putting inspections by, deleting them, bringing them back; the last of these can be undone. */
export function useKeeping() {
  const queries = useQueryClient();
  const keep = useMutation({
    mutationFn: ({ id, kept }: Wanted) =>
      take(api.PUT("/api/inspections/{inspection_id}/kept", { params: { path: { inspection_id: id } }, body: { kept } })),
    onSuccess: () => askAgain(queries, ["inspections"]),
  });
  return { keep: keep.mutate, last: keep.isSuccess ? keep.variables : undefined, error: keep.error };
}
