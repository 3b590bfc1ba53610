import { t } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, take } from "../../api/client";
import { Button } from "../../primitives/Button";

/** Every key into the shop, whoever's it is: its owners see them and take them back. */
export function ShopKeys() {
  const queries = useQueryClient();
  const listed = useQuery({ queryKey: ["shop-keys"], queryFn: () => take(api.GET("/api/shop/keys")) });
  const revoked = useMutation({
    mutationFn: (id: string) => take(api.DELETE("/api/shop/keys/{key_id}", { params: { path: { key_id: id } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["shop-keys"] }),
  });
  const failed = listed.error ?? revoked.error;
  return (
    <section className="sheet grid gap-2 p-4" aria-label={t("Keys into this shop")}>
      <h2 className="font-bold">{t("Keys into this shop")}</h2>
      {failed && (
        <p role="alert" className="text-sm text-rust">
          {failed.message}
        </p>
      )}
      {listed.data?.length === 0 && <p className="caption">{t("No other program has one.")}</p>}
      <ul className="grid gap-1 text-sm">
        {listed.data?.map((one) => (
          <li key={one.id} className="flex items-center justify-between gap-2">
            <span>
              <b>{one.person}</b>: {one.name}
              <span className="caption">{t(" until {{expires}}", { expires: one.expires.slice(0, 10) })}</span>
            </span>
            <Button onClick={() => revoked.mutate(one.id)}>{t("Take back")}</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
