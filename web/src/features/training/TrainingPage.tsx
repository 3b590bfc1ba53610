import { t } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, take, type Schemas } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import { isOwner, useSession } from "../session/useSession";

type Class = Schemas["Class"];
type Begin = Schemas["BeginRequest"];

/** What there is to practise on: plugs to name, engines to find the fault of, classes of both. */
export function TrainingPage() {
  usePageTitle(t("Practise"));
  const navigate = useNavigate();
  const { person } = useSession();
  const { data, error } = useQuery({ queryKey: ["training"], queryFn: () => take(api.GET("/api/training")), staleTime: 0 });
  const begin = useMutation({
    mutationFn: (body: Begin) => take(api.POST("/api/training/rounds", { body })),
    onSuccess: (made) => void navigate(`/training/rounds/${made.id}`),
  });
  const trouble = error ?? begin.error;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-5">
      <header className="flex flex-wrap items-baseline justify-between gap-2">
        <h1 className="text-xl font-bold">{t("Practise")}</h1>
        <Link to="/" className="caption text-teal underline">
          {t("Back to the shop")}
        </Link>
      </header>
      <p className="max-w-prose text-sm text-soft">
        {t("Engines and plugs made up by the simulator, and nameless ones that the shop had. Nothing here is mixed with a real record, and no real engine is judged by it. A network is needed: the instruments answer from the server.")}
      </p>
      {trouble && (
        <p role="alert" className="text-rust">
          {trouble.message}
        </p>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-5 lg:grid-cols-[minmax(0,1fr)_340px]">
        <section aria-label={t("Find the fault")}>
          <h2 className="mb-2 text-lg font-bold">{t("Find the fault")}</h2>
          <p className="mb-2 text-sm">
            {t("An engine comes in. Choose what to do, the instrument answers; then say which cylinder, what it is, how sure you are, and whether it may run.")}
          </p>
          {data?.classes.map((one) => (
            <ClassSheet key={one.id} one={one} busy={begin.isPending} onBegin={(kind, seed) => begin.mutate({ kind, seed, of_class: one.id })} />
          ))}
          <div className="sheet mt-3 p-3">
            <h3 className="font-bold">{t("Alone, an engine of its own each time")}</h3>
            <div className="mt-2 flex flex-wrap gap-2">
              {data?.kinds.map((one) => (
                <Button key={one.kind} disabled={begin.isPending} onClick={() => begin.mutate({ kind: one.kind as Begin["kind"] })}>
                  {one.label}
                </Button>
              ))}
            </div>
          </div>
          {data && data.own.length > 0 && (
            <OwnCases cases={data.own} owner={isOwner(person)} busy={begin.isPending} onBegin={(kind, seed) => begin.mutate({ kind, seed })} />
          )}
          {isOwner(person) && <NewClass />}
        </section>
        <section aria-label={t("Read the plug")} className="sheet grid gap-2 p-3">
          <h2 className="text-lg font-bold">{t("Read the plug")}</h2>
          <p className="text-sm">
            {data && data.plugs_read > 0 ? t("{{plugs_right}} of {{plugs_read}} named rightly.", { plugs_right: data.plugs_right, plugs_read: data.plugs_read }) : t("A firing end is drawn; name what made it so.")}
          </p>
          {data?.confusions.map((one) => (
            <p key={`${one.face} ${one.answered}`} className="text-sm">
              <b>{one.face}</b>{" "}{t("taken for {{answered}}", { answered: one.answered })}
              {one.times > 1 && t(", {{times}} times", { times: one.times })}
            </p>
          ))}
          <Link to="/training/plugs" className="target grid min-h-11 place-items-center rounded-md bg-teal px-3 font-bold text-sheet">
            {t("Read plugs")}
          </Link>
        </section>
      </div>
    </div>
  );
}

interface ClassProps {
  one: Class;
  busy: boolean;
  onBegin: (kind: Begin["kind"], seed: number) => void;
}

interface OwnCasesProps {
  cases: Schemas["Training"]["own"];
  owner: boolean;
  busy: boolean;
  onBegin: (kind: Begin["kind"], seed: number) => void;
}

/** Engines that the shop had, once it was known what was wrong. */
function OwnCases({ cases, owner, busy, onBegin }: OwnCasesProps) {
  const queries = useQueryClient();
  const drop = useMutation({
    mutationFn: (number: number) => take(api.DELETE("/api/training/own/{number}", { params: { path: { number } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["training"] }),
  });
  return (
    <div className="sheet mt-3 p-3">
      <h3 className="font-bold">{t("Engines that this shop had")}</h3>
      <p className="caption">{t("Nameless: what was read of them then, and what they turned out to be.")}</p>
      <ol className="mt-1 divide-y divide-line">
        {cases.map((each) => (
          <li key={each.seed} className="flex items-center gap-3 py-1.5">
            <span className="w-6 text-lg font-bold">{each.seed}</span>
            <CaseLine each={each} busy={busy} onBegin={onBegin} />
            {owner && (
              <Button aria-label={t("Take case {{seed}} out", { seed: each.seed })} disabled={drop.isPending} onClick={() => drop.mutate(each.seed)}>
                {t("out")}
              </Button>
            )}
          </li>
        ))}
      </ol>
    </div>
  );
}

interface CaseLineProps {
  each: Schemas["Case"];
  busy: boolean;
  onBegin: (kind: Begin["kind"], seed: number) => void;
}

/** One case: what it is called, how it went, and the way into it. */
function CaseLine({ each, busy, onBegin }: CaseLineProps) {
  return (
    <>
      <span className="min-w-0 flex-1">{each.label}</span>
      {each.points !== null && <b>{t("{{points}} points", { points: each.points })}</b>}
      {each.attempt && each.points !== null ? (
        <Link to={`/training/rounds/${each.attempt}`} className="target text-teal underline">
          {t("Look back")}
        </Link>
      ) : (
        <Button disabled={busy} onClick={() => onBegin(each.kind as Begin["kind"], each.seed)}>
          {each.attempt ? t("Go on") : t("Begin")}
        </Button>
      )}
    </>
  );
}

/** A class: its cases, and how those who played them did. */
function ClassSheet({ one, busy, onBegin }: ClassProps) {
  return (
    <section aria-label={one.name} className="sheet mb-3 p-3">
      <h3 className="font-bold">{t("Class: {{name}}", { name: one.name })}</h3>
      <ol className="mt-1 divide-y divide-line">
        {one.cases.map((each, at) => (
          <li key={each.seed} className="flex items-center gap-3 py-1.5">
            <span className="w-6 text-lg font-bold">{at + 1}</span>
            <CaseLine each={each} busy={busy} onBegin={onBegin} />
          </li>
        ))}
      </ol>
      {one.players.length > 0 && (
        <table className="mt-2 w-full text-left text-sm">
          <caption className="caption text-left">{t("How it went. Off: the mean square of what was claimed less what was so, 0 is best.")}</caption>
          <thead>
            <tr className="border-b border-line">
              <th scope="col">{t("Name")}</th>
              <th scope="col">{t("Played")}</th>
              <th scope="col">{t("Points")}</th>
              <th scope="col">{t("Off")}</th>
              <th scope="col">{t("Convicted though sound")}</th>
            </tr>
          </thead>
          <tbody>
            {one.players.map((player) => (
              <tr key={player.name}>
                <th scope="row">{player.name}</th>
                <td>{player.done}</td>
                <td>{player.points}</td>
                <td>{player.brier}</td>
                <td>
                  {player.wrong}
                  {player.often && t(", mostly of {{often}}", { often: player.often })}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function NewClass() {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const made = useMutation({
    mutationFn: () => take(api.POST("/api/training/classes", { body: { name } })),
    onSuccess: () => {
      setName("");
      void queries.invalidateQueries({ queryKey: ["training"] });
    },
  });
  return (
    <div className="mt-3 flex items-end gap-2">
      <TextField label={t("A new class, five cases drawn for it")} value={name} onChange={(event) => setName(event.target.value)} />
      <Button disabled={name.trim() === "" || made.isPending} onClick={() => made.mutate()}>
        {t("Make it")}
      </Button>
    </div>
  );
}
