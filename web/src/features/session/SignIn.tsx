import { t } from "../../language";
import { useState } from "react";
import { Link } from "react-router";
import { Refused } from "../../api/client";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import { useQueue } from "../../queue";
import { Door } from "./Door";
import { useSignIn } from "./useSession";

export function SignIn() {
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const signIn = useSignIn();
  const waiting = useQueue().held.length;
  const refused = signIn.error instanceof Refused ? signIn.error.code : "";
  const second = refused.startsWith("second-factor");
  return (
    <Door title={t("Fiacre")} says={t("The second opinion on an engine, cylinder by cylinder.")}>
      {waiting > 0 && (
        <p role="status" className="mb-3 border-l-4 border-ochre pl-2 text-sm">
          {t("{{part}} on this device for whoever made {{part2}}: nothing is lost, and nobody else can send it.", { part: waiting === 1 ? t("1 entry waits") : t("{{waiting}} entries wait", { waiting }), part2: waiting === 1 ? t("it") : t("them") })}
        </p>
      )}
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate({ email, password, ...(code && { code }) });
        }}
      >
        <TextField
          label={t("E-mail")}
          type="email"
          autoComplete="username"
          required
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
        <TextField
          label={t("Password")}
          type="password"
          autoComplete="current-password"
          required
          value={password}
          error={second ? undefined : signIn.error?.message}
          onChange={(event) => setPassword(event.target.value)}
        />
        {second && (
          <TextField
            label={t("Second factor")}
            autoComplete="one-time-code"
            autoFocus
            required
            value={code}
            hint={refused === "second-factor" ? signIn.error?.message : undefined}
            error={refused === "second-factor-wrong" ? signIn.error?.message : undefined}
            onChange={(event) => setCode(event.target.value)}
          />
        )}
        <Button type="submit" weight="main" disabled={signIn.isPending}>
          {t("Sign in")}
        </Button>
        <Link to="/forgotten" className="target w-fit text-sm text-teal underline">
          {t("Password forgotten?")}
        </Link>
      </form>
    </Door>
  );
}
