import { t } from "../../language";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import { api, take, type Schemas } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import { Question } from "../../primitives/Question";
import { isOwner, useSession } from "../session/useSession";

type Client = Schemas["Client"];
type Given = Schemas["ClientRequest"];

const NOBODY: Given = { name: "", email: "", phone: "", address: "", note: "", version: 1 };

/** Whom the shop works for: found, changed, given out whole, forgotten. */
export function ClientsPage() {
  usePageTitle(t("Clients"));
  const { person } = useSession();
  const queries = useQueryClient();
  const [q, setQ] = useState("");
  const asked = useDeferredValue(q.trim());
  const clients = useQuery({
    queryKey: ["clients", asked],
    queryFn: () => take(api.GET("/api/clients", { params: { query: { q: asked } } })),
    placeholderData: keepPreviousData,
  });
  const [editing, setEditing] = useState<Client | undefined>();
  const [erasing, setErasing] = useState<Client | undefined>();
  const renewed = () => void queries.invalidateQueries({ queryKey: ["clients"] });
  const erased = useMutation({
    mutationFn: (id: string) => take(api.DELETE("/api/clients/{client_id}", { params: { path: { client_id: id } } })),
    onSuccess: () => {
      setErasing(undefined);
      renewed();
    },
  });
  return (
    <section className="grid gap-4" aria-label={t("Clients")}>
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h1 className="text-xl font-bold">{t("Clients")}</h1>
        <Link to="/" className="caption text-teal underline">
          {t("Back to the shop")}
        </Link>
      </div>
      {clients.error && (
        <p role="alert" className="text-rust">
          {clients.error.message}
        </p>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_380px]">
        <div className="grid gap-2">
          <TextField label={t("Find: name, e-mail, telephone")} type="search" value={q} onChange={(event) => setQ(event.target.value)} />
          {clients.data?.length === 0 && <p className="sheet p-4 text-soft">{asked ? t("Nobody is called that.") : t("None yet.")}</p>}
          <ul className="sheet divide-y divide-line" aria-label={t("Clients")}>
            {clients.data?.map((one) => (
              <li key={one.id} className="flex flex-wrap items-start gap-3 p-3">
                <div className="min-w-48 flex-1">
                  <b>{one.name}</b>
                  <span className="caption block">{[one.email, one.phone, one.address].filter(Boolean).join(" · ")}</span>
                  {one.engines.length > 0 && <span className="block text-sm">{one.engines.join(", ")}</span>}
                  {one.note && <span className="block text-sm text-soft">{one.note}</span>}
                </div>
                <div className="flex gap-2">
                  <Button onClick={() => setEditing(one)}>{t("Change")}</Button>
                  <a className="target grid min-h-10 place-items-center rounded-md border border-line px-3" href={`/api/clients/${one.id}/data`} download>
                    {t("Their data")}
                  </a>
                  {isOwner(person) && <Button onClick={() => setErasing(one)}>{t("Erase")}</Button>}
                </div>
              </li>
            ))}
          </ul>
        </div>
        <ClientForm key={editing?.id ?? "new"} client={editing} onDone={() => (setEditing(undefined), renewed())} />
      </div>
      {erasing && (
        <Question title={t("Erase {{name}}", { name: erasing.name })} onClose={() => setErasing(undefined)}>
          <p className="text-sm">
            {t("Name, e-mail, telephone, address and note are gone for good. Their engines and what was found on them stay, without the name. Notes of inspections are not looked through: a name that was written there is changed there. Backups keep it until they run out.")}
          </p>
          {erased.error && (
            <p role="alert" className="text-sm text-rust">
              {erased.error.message}
            </p>
          )}
          <div className="flex gap-2">
            <Button weight="main" disabled={erased.isPending} onClick={() => erased.mutate(erasing.id)}>
              {t("Erase for good")}
            </Button>
            <Button onClick={() => setErasing(undefined)}>{t("Leave it")}</Button>
          </div>
        </Question>
      )}
    </section>
  );
}

/** A new client, or one whose data change. */
function ClientForm({ client, onDone }: { client: Client | undefined; onDone: () => void }) {
  const queries = useQueryClient();
  const [given, setGiven] = useState<Given>(client ?? NOBODY);
  const kept = useMutation({
    mutationFn: () =>
      client
        ? take(api.PUT("/api/clients/{client_id}", { params: { path: { client_id: client.id } }, body: given }))
        : take(api.POST("/api/clients", { body: given })),
    onSuccess: () => {
      setGiven(NOBODY);
      onDone();
    },
    onError: () => void queries.invalidateQueries({ queryKey: ["clients"] }),
  });
  const field = (name: keyof Given, label: string, type = "text") => (
    <TextField label={label} type={type} required={name === "name"} value={given[name] ?? ""} onChange={(event) => setGiven({ ...given, [name]: event.target.value })} />
  );
  return (
    <form
      className="sheet grid gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        kept.mutate();
      }}
    >
      <h2 className="font-bold">{client ? t("Change {{name}}", { name: client.name }) : t("A new client")}</h2>
      {field("name", t("Name"))}
      {field("email", t("E-mail"), "email")}
      {field("phone", t("Telephone"), "tel")}
      {field("address", t("Address"))}
      {field("note", t("Note"))}
      <p className="caption">{t("Personal data: only who records sees it, on request it is given out whole or erased.")}</p>
      {kept.error && (
        <p role="alert" className="text-sm text-rust">
          {kept.error.message}
        </p>
      )}
      <div className="flex gap-2">
        <Button type="submit" weight="main" disabled={kept.isPending}>
          {client ? t("Keep") : t("Add")}
        </Button>
        {client && <Button onClick={onDone}>{t("Leave it")}</Button>}
      </div>
    </form>
  );
}
