import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, take, type Schemas } from "../../api/client";
import { askOrRecall } from "../../storage/kept";

export type Tools = Schemas["Tools"];
export type OwnTools = Tools["own"];

/** The blades and the wrench that this person owns, kept for them alone. */
export function useTools() {
  const queries = useQueryClient();
  const known = useQuery({
    queryKey: ["tools"],
    queryFn: () => askOrRecall("tools", () => take<Tools>(api.GET("/api/session/tools"))),
  });
  const kept = useMutation({
    mutationFn: (own: OwnTools) => take<Tools>(api.PUT("/api/session/tools", { body: { own } })),
    onSuccess: (tools) => queries.setQueryData(["tools"], tools),
  });
  return { tools: known.data, keep: kept.mutate, trouble: kept.error ?? undefined };
}
