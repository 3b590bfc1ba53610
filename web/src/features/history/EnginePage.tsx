import { t } from "../../language";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { today } from "../../storage/today";
import { GradeMark, useWords } from "../assessment";
import type { Grade } from "../assessment/GradeMark";
import { mayWrite, useSession } from "../session/useSession";
import { BeginQuestion } from "../shop/BeginQuestion";
import { CylindersOverTime } from "./CylindersOverTime";
import { Owner } from "./Owner";
import { KeptSet, named, useHistory } from "./OverTime";

export type History = Schemas["OverTime"];
export type Visit = History["visits"][number];

const KINDS: Record<Schemas["EventKindEnum"], string> = {
  asked: t("came with"),
  done: "done",
  kept: t("put away"),
  proof: "afterwards",
  again: "again",
  opened: t("turned out"),
  left: t("not looked at"),
  cost: "cost",
};

/** One engine: what is due, its story, and each cylinder from inspection to inspection. */
export function EnginePage() {
  const { id = "" } = useParams();
  const { data, error } = useHistory(id);
  const { person } = useSession();
  const [beginning, setBeginning] = useState(false);
  usePageTitle(data?.title ?? t("Engine"));
  if (error) {
    return (
      <p role="alert" className="text-rust">
        {error.message}
      </p>
    );
  }
  if (!data) return <p className="text-soft">{t("One moment ...")}</p>;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-5">
      <header className="flex flex-wrap items-baseline justify-between gap-2">
        <h1 className="text-xl font-bold">
          {data.title} <span className="caption">{data.identifier}</span>
        </h1>
        <span className="flex items-center gap-3">
          {mayWrite(person) && (
            <Button weight="main" onClick={() => setBeginning(true)}>
              {t("Inspect")}
            </Button>
          )}
          <Link to="/" className="caption text-teal underline">
            {t("Back to the shop")}
          </Link>
        </span>
      </header>
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-5 lg:grid-cols-[minmax(0,1fr)_340px]">
        <Story history={data} />
        <aside className="grid gap-4">
          <DueHere due={data.due} />
          {mayWrite(person) && <Owner engine={id} />}
          <PlugsIn plugs={data.plugs} />
        </aside>
      </div>
      {data.visits.length > 0 && <CylindersOverTime history={data} />}
      {beginning && <BeginQuestion engine={{ id, data: data.engine, plan: data.plan }} onClose={() => setBeginning(false)} />}
      {data.sets.length > 0 && (
        <section aria-label={t("Plugs put away")}>
          <h2 className="mb-2 text-lg font-bold">{t("Plugs put away")}</h2>
          <div className="sheet grid gap-2 p-3">
            {data.sets.map((set) => (
              <KeptSet key={set.inspection} set={set} />
            ))}
          </div>
        </section>
      )}
    </div>
  );
}

/** What became of it, the newest first. */
function Story({ history }: { history: History }) {
  const words = useWords();
  if (history.visits.length === 0) return <p className="sheet p-4 text-soft">{t("It was never inspected.")}</p>;
  return (
    <section aria-label={t("Its story")}>
      <h2 className="mb-2 text-lg font-bold">{t("Its story")}</h2>
      <ol className="sheet divide-y divide-line">
        {[...history.visits].reverse().map((visit) => {
          const step = history.steps.find((one) => one.date === visit.date);
          return (
            <li key={visit.inspection} className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 px-3 py-2">
              <Grades visit={visit} />
              <div className="min-w-0">
                <Link to={`/inspections/${visit.inspection}`} className="target flex flex-wrap items-baseline gap-x-3 hover:underline">
                  <b>{visit.date || t("undated")}</b>
                  <span className="caption">
                    {visit.run}
                    {visit.signed && t(", signed")}
                  </span>
                </Link>
                <p className="text-sm">{visit.verdict}</p>
                <dl className="mt-1 grid grid-cols-[6.5rem_minmax(0,1fr)] gap-x-2 text-sm">
                  {visit.events.map((event) => (
                    <Told key={`${event.kind} ${event.text}`} label={KINDS[event.kind]} text={event.text} />
                  ))}
                  {visit.left && visit.left !== visit.verdict && <Told label={t("left as")} text={visit.left} />}
                  {step && step.appeared.length > 0 && <Told label={t("new")} text={named(step.appeared, words)} />}
                  {step && step.gone.length > 0 && <Told label={t("no longer")} text={named(step.gone, words)} />}
                </dl>
              </div>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

function Grades({ visit }: { visit: Visit }) {
  return (
    <span className="grid content-start justify-items-center gap-1">
      <GradeMark grade={visit.grade as Grade} />
      {visit.grade_left && visit.grade_left !== visit.grade && (
        <>
          <span className="caption leading-none">{t("left as")}</span>
          <GradeMark grade={visit.grade_left as Grade} />
        </>
      )}
    </span>
  );
}

function Told({ label, text }: { label: string; text: string }) {
  return (
    <>
      <dt className="caption">{label}</dt>
      <dd>{text}</dd>
    </>
  );
}

function DueHere({ due }: { due: History["due"] }) {
  return (
    <section aria-label={t("Due")} className="sheet p-3">
      <h2 className="font-bold">{t("Due")}</h2>
      {due.length === 0 && <p className="caption">{t("Nothing that is known of.")}</p>}
      <ul className="grid gap-1 text-sm">
        {due.map((one) => (
          <li key={`${one.kind} ${one.text}`}>
            <b className={one.on && one.on <= today() ? "text-rust" : ""}>{one.on || t("no day yet")}</b>: {one.text}
          </li>
        ))}
      </ul>
    </section>
  );
}

function PlugsIn({ plugs }: { plugs: History["plugs"] }) {
  return (
    <section aria-label={t("Plugs in it")} className="sheet p-3">
      <h2 className="font-bold">{t("Plugs in it")}</h2>
      <ul className="grid gap-1 text-sm">
        {plugs.map((one) => (
          <li key={one.cylinders.join()}>
            <b>{one.cylinders.join(", ")}</b>: {one.since ? t("since {{since}}", { since: one.since }) : t("since before its first inspection here")}
            {one.run && `, ${one.run.value.toLocaleString("en-GB")}\u00a0${one.run.unit}`}
          </li>
        ))}
      </ul>
    </section>
  );
}
