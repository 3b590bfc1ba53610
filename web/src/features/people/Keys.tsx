import { t } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, take, type Schemas } from "../../api/client";
import { Button } from "../../primitives/Button";
import { SelectField, TextField } from "../../primitives/Field";

type Scope = Schemas["AccessKey"]["scope"];

const SCOPES: readonly { value: Scope; label: string }[] = [
  { value: "read", label: t("reads") },
  { value: "write", label: t("reads and records") },
  { value: "calendar", label: t("a calendar of what is to be looked at again") },
];

/** Keys for other programs in one's own name, each shown once. */
export function Keys({ secondFactor }: { secondFactor: boolean }) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [scope, setScope] = useState<Scope>("read");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const renewed = () => void queries.invalidateQueries({ queryKey: ["my-keys"] });
  const listed = useQuery({ queryKey: ["my-keys"], queryFn: () => take(api.GET("/api/me/keys")) });
  const made = useMutation({
    mutationFn: () => take(api.POST("/api/me/keys", { body: { name, scope, days: 366, password, code } })),
    onSuccess: () => {
      setName("");
      setPassword("");
      setCode("");
      renewed();
    },
  });
  const revoked = useMutation({
    mutationFn: (id: string) => take(api.DELETE("/api/me/keys/{key_id}", { params: { path: { key_id: id } } })),
    onSuccess: renewed,
  });
  return (
    <form
      className="sheet grid gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        made.mutate();
      }}
    >
      <h2 className="font-bold">{t("Keys for other programs")}</h2>
      <p className="caption">{t("They end with a new password, another role or another second factor.")}</p>
      <ul className="grid gap-1 text-sm">
        {listed.data?.map((one) => (
          <li key={one.id} className="flex items-center justify-between gap-2">
            <span>
              <b>{one.name}</b>, {SCOPES.find(({ value }) => value === one.scope)?.label}
              <span className="caption">
                {t(" until {{expires}}{{part}}", { expires: one.expires.slice(0, 10), part: one.used ? t(", last used {{used}}", { used: one.used.slice(0, 10) }) : t(", not used yet") })}
              </span>
            </span>
            <Button onClick={() => revoked.mutate(one.id)}>{t("Take back")}</Button>
          </li>
        ))}
      </ul>
      <TextField label={t("What it is for")} required value={name} onChange={(event) => setName(event.target.value)} />
      <SelectField label={t("What it may")} value={scope} options={SCOPES} onChange={(next) => setScope(next || scope)} />
      <TextField
        label={t("Your password")}
        type="password"
        autoComplete="current-password"
        required
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      {secondFactor && (
        <TextField
          label={t("Code of your second factor")}
          inputMode="numeric"
          autoComplete="one-time-code"
          required
          value={code}
          onChange={(event) => setCode(event.target.value)}
        />
      )}
      {(made.error ?? revoked.error) && (
        <p role="alert" className="text-sm text-rust">
          {(made.error ?? revoked.error)?.message}
        </p>
      )}
      {made.data && (
        <p role="status" className="text-sm">
          {t("Shown once, copy it now:")}{" "}<b className="break-all select-all">{made.data.address || made.data.secret}</b>
        </p>
      )}
      <Button type="submit" disabled={made.isPending}>
        {t("Make a key")}
      </Button>
    </form>
  );
}
