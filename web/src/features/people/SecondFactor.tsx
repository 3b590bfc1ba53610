import { t } from "../../language";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, take } from "../../api/client";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";

/** An authenticator is added in two steps; its recovery codes are shown once. */
export function SecondFactor({ has }: { has: boolean }) {
  const queries = useQueryClient();
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const begun = useMutation({ mutationFn: () => take(api.POST("/api/me/second-factor", { body: { password } })) });
  const confirmed = useMutation({
    mutationFn: () => take(api.PUT("/api/me/second-factor", { body: { code } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["me"] }),
  });
  const forgotten = useMutation({
    mutationFn: () => take(api.POST("/api/me/second-factor/forget", { body: { password } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["me"] }),
  });
  const done = () => void queries.invalidateQueries({ queryKey: ["session"] });
  if (confirmed.data) {
    return (
      <div className="grid gap-2">
        <h2 className="font-bold">{t("Recovery codes")}</h2>
        <p className="text-sm">{t("Each lets you in once without the authenticator. They are shown only now: write them down.")}</p>
        <ul className="grid grid-cols-2 gap-1 font-mono">
          {confirmed.data.codes.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
        <Button weight="main" onClick={done}>
          {t("I have written them down")}
        </Button>
      </div>
    );
  }
  if (begun.data) {
    return (
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          confirmed.mutate();
        }}
      >
        <h2 className="font-bold">{t("Scan this with your authenticator")}</h2>
        <img
          alt={t("The secret as a picture; the same stands below in words")}
          className="w-48 bg-white"
          src={`data:image/svg+xml;utf8,${encodeURIComponent(begun.data.picture)}`}
        />
        <p className="caption break-all select-all">{begun.data.address}</p>
        <TextField
          label={t("The figures that it shows now")}
          autoComplete="one-time-code"
          inputMode="numeric"
          required
          value={code}
          error={confirmed.error?.message}
          onChange={(event) => setCode(event.target.value)}
        />
        <Button type="submit" weight="main" disabled={confirmed.isPending}>
          {t("Put in force")}
        </Button>
      </form>
    );
  }
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (has) forgotten.mutate();
        else begun.mutate();
      }}
    >
      <h2 className="font-bold">{t("Second factor")}</h2>
      <p className="text-sm">
        {has
          ? t("Signing in asks for the figures of your authenticator.")
          : t("With one, a password alone lets nobody in. Any authenticator that counts by time will do.")}
      </p>
      <TextField
        label={t("Your password, to change this")}
        type="password"
        autoComplete="current-password"
        required
        value={password}
        error={(begun.error ?? forgotten.error)?.message}
        onChange={(event) => setPassword(event.target.value)}
      />
      <Button type="submit" disabled={begun.isPending || forgotten.isPending}>
        {has ? t("Take it away") : t("Add one")}
      </Button>
    </form>
  );
}
