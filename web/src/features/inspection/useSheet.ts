import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, take, type Schemas } from "../../api/client";
import { askOrRecall } from "../../storage/kept";

interface Sheets {
  board: Schemas["Board"];
  refit: Schemas["Refit"];
  "work-order": Schemas["WorkOrder"];
}

/** What one step shows, asked for when it is looked at and anew with each entry. */
export function useSheet<S extends keyof Sheets>(
  sheet: S,
  inspection: string,
  sequence: number,
): { data: Sheets[S] | undefined; error: Error | null } {
  return useQuery({
    queryKey: ["sheet", sheet, inspection, sequence],
    queryFn: () => askSheet(sheet, inspection),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
}

export function askSheet<S extends keyof Sheets>(sheet: S, inspection: string): Promise<Sheets[S]> {
  const given = { params: { path: { inspection_id: inspection } } };
  const addresses = {
    board: () => take(api.GET("/api/inspections/{inspection_id}/board", given)),
    refit: () => take(api.GET("/api/inspections/{inspection_id}/refit", given)),
    "work-order": () => take(api.GET("/api/inspections/{inspection_id}/work-order", given)),
  };
  return askOrRecall(`${sheet} ${inspection}`, addresses[sheet] as () => Promise<Sheets[S]>);
}
