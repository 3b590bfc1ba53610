import { t } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, take } from "../../api/client";
import { SelectField } from "../../primitives/Field";

/** Whose engine it is: the report is made out to them. */
export function Owner({ engine }: { engine: string }) {
  const queries = useQueryClient();
  const path = { params: { path: { engine_id: engine } } };
  const owner = useQuery({
    queryKey: ["owner", engine],
    queryFn: () => take(api.GET("/api/engines/{engine_id}/owner", path)),
  });
  const clients = useQuery({ queryKey: ["clients", ""], queryFn: () => take(api.GET("/api/clients", {})) });
  const set = useMutation({
    mutationFn: (client: string | null) => take(api.PUT("/api/engines/{engine_id}/owner", { ...path, body: { client } })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["owner", engine] });
      void queries.invalidateQueries({ queryKey: ["clients"] });
    },
  });
  const trouble = owner.error ?? clients.error ?? set.error;
  return (
    <section aria-label={t("Owner")} className="sheet grid gap-2 p-3">
      <SelectField
        label={t("Owner")}
        value={owner.data?.client ?? ""}
        empty={clients.data?.length === 0 ? t("no clients yet") : t("nobody named")}
        options={(clients.data ?? []).map((one) => ({ value: one.id, label: one.name }))}
        disabled={!owner.data || set.isPending}
        onChange={(client) => set.mutate(client || null)}
      />
      {trouble && (
        <p role="alert" className="text-sm text-rust">
          {trouble.message}
        </p>
      )}
      <Link to="/clients" className="target w-fit text-sm text-teal underline">
        {t("Clients")}
      </Link>
    </section>
  );
}
