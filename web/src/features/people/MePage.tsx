import { t } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, take, type Schemas } from "../../api/client";
import { UNITS } from "../../api/units";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { TextField } from "../../primitives/Field";
import { AccountLog } from "./AccountLog";
import { Keys } from "./Keys";
import { SecondFactor } from "./SecondFactor";

/** One's own account: name, password, second factor, where one is signed in. */
export function MePage() {
  usePageTitle(t("Your account"));
  const queries = useQueryClient();
  const me = useQuery({ queryKey: ["me"], queryFn: () => take(api.GET("/api/me")) });
  const happened = useQuery({ queryKey: ["my-log"], queryFn: () => take(api.GET("/api/me/log")) });
  const [name, setName] = useState<string | undefined>();
  const named = useMutation({
    mutationFn: (wanted: Schemas["OwnRequest"]) => take(api.PUT("/api/me", { body: wanted })),
    onSuccess: (next) => {
      queries.setQueryData(["me"], next);
      void queries.invalidateQueries({ queryKey: ["session"] });
    },
  });
  return (
    <section className="grid gap-4" aria-label={t("Your account")}>
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h1 className="text-xl font-bold">{t("Your account")}</h1>
        <Link to="/" className="caption text-teal underline">
          {t("Back to the shop")}
        </Link>
      </div>
      {me.error && (
        <p role="alert" className="text-rust">
          {me.error.message}
        </p>
      )}
      <div className="grid items-start gap-4 md:grid-cols-2">
        <form
          className="sheet grid gap-3 p-4"
          onSubmit={(event) => {
            event.preventDefault();
            if (name !== undefined) named.mutate({ name });
          }}
        >
          <h2 className="font-bold">{t("Name")}</h2>
          <p className="caption">{me.data?.email}</p>
          <TextField
            label={t("As it stands in reports")}
            required
            value={name ?? me.data?.name ?? ""}
            error={named.error?.message}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="submit" disabled={name === undefined || named.isPending}>
            {t("Keep")}
          </Button>
          {me.data && (
            <Choice
              label={t("An empty field starts in these units, where the engine's own figures name none")}
              options={UNITS.filter((one) => one.value !== "as-read")}
              value={me.data.units || undefined}
              absent={t("as the shop")}
              disabled={named.isPending}
              onChange={(units) => named.mutate({ name: me.data.name, units: units ?? "" })}
            />
          )}
        </form>
        <Password />
        <div className="sheet p-4">{me.data && <SecondFactor has={me.data.second_factor} />}</div>
        <Sessions />
        {me.data && <Keys secondFactor={me.data.second_factor} />}
        {happened.data && (
          <AccountLog
            title={t("What happened to your account")}
            hint={t("If something here was not you, change your password and tell an owner.")}
            happened={happened.data}
          />
        )}
      </div>
    </section>
  );
}

function Password() {
  const [old, setOld] = useState("");
  const [password, setPassword] = useState("");
  const changed = useMutation({
    mutationFn: () => take(api.PUT("/api/me/password", { body: { old, password } })),
    onSuccess: () => {
      setOld("");
      setPassword("");
    },
  });
  return (
    <form
      className="sheet grid gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        changed.mutate();
      }}
    >
      <h2 className="font-bold">{t("Password")}</h2>
      <TextField
        label={t("Present password")}
        type="password"
        autoComplete="current-password"
        required
        value={old}
        onChange={(event) => setOld(event.target.value)}
      />
      <TextField
        label={t("New password")}
        type="password"
        autoComplete="new-password"
        required
        hint={changed.isSuccess ? t("Changed; you are signed out everywhere else.") : t("Ten signs or more.")}
        error={changed.error?.message}
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      <Button type="submit" disabled={changed.isPending}>
        {t("Change it")}
      </Button>
    </form>
  );
}

function Sessions() {
  const queries = useQueryClient();
  const listed = useQuery({ queryKey: ["my-sessions"], queryFn: () => take(api.GET("/api/me/sessions")) });
  const ended = useMutation({
    mutationFn: () => take(api.DELETE("/api/me/sessions")),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["my-sessions"] }),
  });
  return (
    <div className="sheet grid gap-2 p-4">
      <h2 className="font-bold">{t("Signed in")}</h2>
      <ul className="grid gap-1 text-sm">
        {listed.data?.map((one) => (
          <li key={one.id}>
            {one.here ? <b>{t("here")}</b> : (one.device || t("an unknown device")).slice(0, 80)}
            <span className="caption">{t(", last used {{part}}", { part: new Date(one.seen).toLocaleString() })}</span>
          </li>
        ))}
      </ul>
      <Button disabled={(listed.data?.length ?? 0) < 2 || ended.isPending} onClick={() => ended.mutate()}>
        {t("Sign out everywhere else")}
      </Button>
    </div>
  );
}
