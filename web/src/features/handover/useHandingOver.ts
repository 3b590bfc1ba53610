import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { askAgain } from "../../api/again";
import { api, take, type Schemas } from "../../api/client";
import { askOrRecall } from "../../storage/kept";

export type HandingOver = Schemas["HandingOver"];
export type Units = Schemas["Link"]["units"];
export type Language = Schemas["Link"]["language"];

/** Signing off, reopening and links of one inspection; all of it needs the server. */
export function useHandingOver(inspection: string, sequence: number) {
  const queries = useQueryClient();
  const key = ["handing-over", inspection];
  const params = { path: { inspection_id: inspection } };
  const { data, error } = useQuery({
    // What stands open is of the record as it is.
    queryKey: [...key, sequence],
    queryFn: () =>
      askOrRecall(`handing-over ${inspection}`, () =>
        take(api.GET("/api/inspections/{inspection_id}/handing-over", { params })),
      ),
    placeholderData: keepPreviousData,
  });
  const again = () => void askAgain(queries, key);
  const renewed = (next: HandingOver) => {
    queries.setQueriesData<HandingOver>({ queryKey: key }, next);
    void askAgain(queries, key, ["inspection", inspection]);
  };
  const sign = useMutation({
    mutationFn: () => take(api.POST("/api/inspections/{inspection_id}/handing-over", { params })),
    onSuccess: renewed,
  });
  const reopen = useMutation({
    mutationFn: (reason: string) =>
      take(api.POST("/api/inspections/{inspection_id}/reopen", { params, body: { reason } })),
    onSuccess: renewed,
  });
  const link = useMutation({
    mutationFn: (body: { days: number; units: NonNullable<Units>; photos: boolean; language: Language }) =>
      take(api.POST("/api/inspections/{inspection_id}/links", { params, body })),
    onSuccess: again,
  });
  const revoke = useMutation({
    mutationFn: (link_id: string) =>
      take(
        api.DELETE("/api/inspections/{inspection_id}/links/{link_id}", {
          params: { path: { inspection_id: inspection, link_id } },
        }),
      ),
    onSuccess: again,
  });
  const trouble = error ?? sign.error ?? reopen.error ?? link.error ?? revoke.error;
  return { data, trouble, sign, reopen, link, revoke };
}

/** The shop, for the language in which its clients usually read. */
export function useShop() {
  return useQuery({ queryKey: ["shop"], queryFn: () => take(api.GET("/api/shop")) });
}

/** What the rules of today would say of a record that was signed under its own; only when asked. */
export function useToday(inspection: string) {
  const params = { path: { inspection_id: inspection }, query: { today: true } };
  return useQuery({
    queryKey: ["today", inspection],
    queryFn: () => take(api.GET("/api/inspections/{inspection_id}/reasons", { params })),
    enabled: false,
  });
}
