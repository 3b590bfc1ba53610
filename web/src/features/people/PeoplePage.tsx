import { t } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, take, type Schemas } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { SelectField, TextField } from "../../primitives/Field";
import { useSession } from "../session";
import { AccountLog } from "./AccountLog";
import { ShopDetails } from "./ShopDetails";
import { ShopKeys } from "./ShopKeys";

type Colleague = Schemas["Colleague"];
type Role = Colleague["role"];

export const ROLES: readonly { value: Role; label: string }[] = [
  { value: "owner", label: t("owner: decides, and all below") },
  { value: "inspector", label: t("inspector: records and signs") },
  { value: "viewer", label: t("viewer: looks") },
];

/** Who works here and what they may do; what the shop says of itself. */
export function PeoplePage() {
  usePageTitle(t("People and shop"));
  const { person } = useSession();
  const queries = useQueryClient();
  const owner = person?.role === "owner";
  const people = useQuery({ queryKey: ["people"], queryFn: () => take(api.GET("/api/people")) });
  const happened = useQuery({ queryKey: ["shop-log"], queryFn: () => take(api.GET("/api/shop/log")), enabled: owner });
  const renewed = () => void queries.invalidateQueries({ queryKey: ["people"] });
  const changed = useMutation({
    mutationFn: ({ id, ...body }: Colleague) =>
      take(api.PUT("/api/people/{person_id}", { params: { path: { person_id: id } }, body })),
    onSettled: renewed,
  });
  const link = useMutation({
    mutationFn: (id: string) => take(api.POST("/api/people/{person_id}", { params: { path: { person_id: id } } })),
  });
  const trouble = people.error ?? changed.error ?? link.error;
  return (
    <section className="grid gap-4" aria-label={t("People and shop")}>
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h1 className="text-xl font-bold">{t("People and shop")}</h1>
        <Link to="/" className="caption text-teal underline">
          {t("Back to the shop")}
        </Link>
      </div>
      {!owner && <p className="text-sm text-soft">{t("An owner of the shop changes these.")}</p>}
      {trouble && (
        <p role="alert" className="text-rust">
          {trouble.message}
        </p>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <div className="grid gap-4">
          <ul className="sheet divide-y divide-line" aria-label={t("People")}>
            {people.data?.map((one) => (
              <li key={one.id} className={`grid gap-2 p-3 ${one.active ? "" : "text-soft"}`}>
                <p className="min-w-0">
                  <b>{one.name}</b>
                  {one.id === person?.id && t(" (you)")}
                  {!one.active && t(" - shut out")}
                  <span className="caption block truncate">{one.email}</span>
                </p>
                {owner && (
                  <div className="flex flex-wrap items-end gap-2">
                    <SelectField
                      label={t("Role of {{name}}", { name: one.name })}
                      value={one.role}
                      options={ROLES}
                      disabled={!one.active}
                      onChange={(role) => role && changed.mutate({ ...one, role })}
                    />
                    {one.active && <Button onClick={() => link.mutate(one.id)}>{t("New link")}</Button>}
                    {one.id !== person?.id && (
                      <Button onClick={() => changed.mutate({ ...one, active: !one.active })}>
                        {one.active ? t("Shut out") : t("Let in again")}
                      </Button>
                    )}
                  </div>
                )}
              </li>
            ))}
          </ul>
          {link.data && <Made made={link.data} />}
          {owner && <Invite onDone={renewed} />}
          {owner && <ShopKeys />}
          {happened.data && (
            <AccountLog
              title={t("What happened to accounts")}
              hint={t("Who came in, what was changed, and from where. It is part of the shop's archive.")}
              happened={happened.data}
            />
          )}
        </div>
        <ShopDetails owner={owner} />
      </div>
    </section>
  );
}

function Made({ made }: { made: Schemas["PersonalLink"] }) {
  return (
    <p role="status" className="text-sm">
      {made.mailed ? t("Sent to their own e-mail address.") : t("Hand this link over; it works once, for three days: ")}
      <b className="break-all select-all">{made.address}</b>
    </p>
  );
}

function Invite({ onDone }: { onDone: () => void }) {
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<Role>("inspector");
  const invited = useMutation({
    mutationFn: () => take(api.POST("/api/people", { body: { name, email, role } })),
    onSuccess: () => {
      setName("");
      setEmail("");
      onDone();
    },
  });
  return (
    <form
      className="sheet grid gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        invited.mutate();
      }}
    >
      <h2 className="font-bold">{t("Ask somebody in")}</h2>
      <TextField label={t("Name")} required value={name} onChange={(event) => setName(event.target.value)} />
      <TextField
        label={t("E-mail")}
        type="email"
        required
        value={email}
        error={invited.error?.message}
        onChange={(event) => setEmail(event.target.value)}
      />
      <SelectField label={t("Role")} value={role} options={ROLES} onChange={(next) => setRole(next || role)} />
      <Button type="submit" weight="main" disabled={invited.isPending}>
        {t("Make their link")}
      </Button>
      {invited.data && <Made made={invited.data} />}
    </form>
  );
}
