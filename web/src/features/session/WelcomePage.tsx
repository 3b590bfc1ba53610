import { t } from "../../language";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, take } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import { Door } from "./Door";
import { comeIn, useArrive } from "./useSession";

const PASSWORD = t("Ten signs or more, and nothing that everybody takes.");

/** The first owner makes a shop, by the link that the server's shell printed. */
export function SetUpPage() {
  usePageTitle(t("A new shop"));
  const { code = "" } = useParams();
  const [given, setGiven] = useState({ shop: "", name: "", email: "", password: "" });
  const navigate = useNavigate();
  const arrive = useArrive();
  // The door's own token comes with the question who is there.
  useQuery({ queryKey: ["door"], queryFn: () => take(api.GET("/api/session")).catch(() => null) });
  const made = useMutation({
    mutationFn: () => comeIn(() => take(api.POST("/api/set-up", { body: { ...given, code } }))),
    onSuccess: async (person) => {
      await arrive(person);
      void navigate("/");
    },
  });
  const field = (name: keyof typeof given) => ({
    value: given[name],
    required: true,
    onChange: (event: { target: { value: string } }) => setGiven({ ...given, [name]: event.target.value }),
  });
  return (
    <Door title={t("A new shop")} says={t("You will be its first owner; others are asked in afterwards.")}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          made.mutate();
        }}
      >
        <TextField label={t("Name of the shop")} autoComplete="organization" {...field("shop")} />
        <TextField label={t("Your name")} autoComplete="name" {...field("name")} />
        <TextField label={t("E-mail")} type="email" autoComplete="username" {...field("email")} />
        <TextField
          label={t("Password")}
          type="password"
          autoComplete="new-password"
          hint={PASSWORD}
          error={made.error?.message}
          {...field("password")}
        />
        <Button type="submit" weight="main" disabled={made.isPending}>
          {t("Make the shop")}
        </Button>
      </form>
    </Door>
  );
}

/** Whoever was asked in, or forgot, sets a password by their own link. */
export function WelcomePage() {
  usePageTitle(t("Welcome"));
  const { who = "", token = "" } = useParams();
  const path = { params: { path: { who, token } } };
  const asked = useQuery({
    queryKey: ["welcome", who, token],
    queryFn: async () => {
      await take(api.GET("/api/session")).catch(() => null);
      return take(api.GET("/api/welcome/{who}/{token}", path));
    },
    retry: false,
  });
  const [name, setName] = useState<string | undefined>();
  const [password, setPassword] = useState("");
  const navigate = useNavigate();
  const arrive = useArrive();
  const set = useMutation({
    mutationFn: () =>
      comeIn(() => take(api.POST("/api/welcome/{who}/{token}", { ...path, body: { name: name ?? asked.data?.name ?? "", password } }))),
    onSuccess: async (person) => {
      await arrive(person);
      void navigate("/");
    },
  });
  if (asked.error) {
    return (
      <Door title={t("This link is closed")} says={t("It was used already, or is older than three days.")}>
        <Link to="/forgotten" className="text-teal underline">
          {t("Ask for a new one")}
        </Link>
      </Door>
    );
  }
  return (
    <Door title={asked.data?.shop ?? t("One moment ...")} says={asked.data ? t("For {{email}}", { email: asked.data.email }) : ""}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          set.mutate();
        }}
      >
        <TextField
          label={t("Your name")}
          autoComplete="name"
          required
          value={name ?? asked.data?.name ?? ""}
          onChange={(event) => setName(event.target.value)}
        />
        <TextField
          label={t("Password")}
          type="password"
          autoComplete="new-password"
          required
          hint={PASSWORD}
          error={set.error?.message}
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <Button type="submit" weight="main" disabled={set.isPending || !asked.data}>
          {t("Come in")}
        </Button>
      </form>
    </Door>
  );
}

/** Asking for a new way in; the answer is the same for every address. */
export function ForgottenPage() {
  usePageTitle(t("Password forgotten"));
  const [email, setEmail] = useState("");
  const asked = useMutation({
    mutationFn: async () => {
      await take(api.GET("/api/session")).catch(() => null);
      await take(api.POST("/api/forgotten", { body: { email } }));
    },
  });
  return (
    <Door title={t("Password forgotten")} says={t("A link to set a new one is sent to your address, if it is known here.")}>
      {asked.isSuccess ? (
        <p role="status">
          {t("Asked for. Where this server sends no mail, an owner of your shop can make you a link under People.")}
        </p>
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            asked.mutate();
          }}
        >
          <TextField
            label={t("E-mail")}
            type="email"
            autoComplete="username"
            required
            value={email}
            error={asked.error?.message}
            onChange={(event) => setEmail(event.target.value)}
          />
          <Button type="submit" weight="main" disabled={asked.isPending}>
            {t("Send me a link")}
          </Button>
        </form>
      )}
      <Link to="/" className="target mt-3 block w-fit text-sm text-teal underline">
        {t("Back to the door")}
      </Link>
    </Door>
  );
}
