import { t, wordSaid } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, take, type Schemas } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { useWords } from "../assessment";
import { AnswerForm } from "./AnswerForm";
import { PracticeBench } from "./PracticeBench";
import { cost, Replay } from "./Replay";
import { Shown } from "./Shown";
import { inTurn } from "./useWriting";

export type Round = Schemas["Attempt"];
type Open = Round["open"][number];
const JUMP = "target grid min-h-10 place-items-center rounded-md border border-line bg-sheet px-3";

/** A round: what the instruments show, what one writes down, what can be done, and at the end what it is. */
export function CasePage() {
  const { id = "" } = useParams();
  const queries = useQueryClient();
  const key = ["training", "round", id];
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: () => take(api.GET("/api/training/rounds/{attempt_id}", { params: { path: { attempt_id: id } } })),
    staleTime: Infinity,
  });
  usePageTitle(data?.label ?? t("Find the fault"));
  const keep = (made: Round) => queries.setQueryData(key, made);
  const done = useMutation({
    scope: inTurn(id),
    mutationFn: (body: { test: string; cylinders: number[] }) =>
      take(api.POST("/api/training/rounds/{attempt_id}/acts", { params: { path: { attempt_id: id } }, body })),
    onSuccess: keep,
  });
  const trouble = error ?? done.error;
  const job = data?.document.inspection;
  const words = useWords();
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <header className="flex flex-wrap items-baseline justify-between gap-2">
        <h1 className="text-xl font-bold">{data?.label ?? t("Find the fault")}</h1>
        {data && !data.score && (
          <nav aria-label={t("On this page")} className="flex gap-2 lg:hidden">
            <a href="#acts" className={JUMP}>
              {t("What to do")}
            </a>
            <a href="#verdict" className={JUMP}>
              {t("What it is")}
            </a>
          </nav>
        )}
        <Link to="/training" className="caption text-teal underline">
          {t("Back to practising")}
        </Link>
      </header>
      {trouble && (
        <p role="alert" className="text-rust">
          {trouble.message}
        </p>
      )}
      {data && (
        <>
          <p className="first-letter:uppercase">
            {t("{{layout}}, {{cylinders}} cylinders, {{cycle}}, fuel by ", { layout: data.document.engine.layout, cylinders: data.document.engine.cylinders, cycle: data.document.engine.cycle })}
            {wordSaid(data.document.engine.fuel_system ?? "")}{t(", spark by")}{" "}{wordSaid(data.document.engine.ignition ?? "")}{t(". It comes with:")}{" "}<b>{job?.complaints?.map(wordSaid).join(", ")}</b>
            {job?.trouble_codes && job.trouble_codes.length > 0 && <>{t(", codes {{trouble_codes}}", { trouble_codes: job.trouble_codes.join(", ") })}</>}.{" "}
            <span className={data.minutes > 0.8 * data.budget ? "text-rust" : "text-soft"}>
              {t("{{minutes}} of {{budget}} minutes used, {{minutes2}} of {{budget2}}.", { minutes: data.minutes, budget: data.budget, minutes2: cost(data.minutes, data), budget2: cost(data.budget, data) })}
            </span>
          </p>
          {data.score ? (
            <>
              <Shown document={data.shown} />
              <Replay round={data} words={words} />
            </>
          ) : (
            <PracticeBench key={data.id} round={data} onKept={keep}>
              <Acts open={data.open} busy={done.isPending} left={data.budget - data.minutes} onDo={(test, cylinders) => done.mutate({ test, cylinders })} />
              <AnswerForm round={data} words={words} onEnded={keep} />
            </PracticeBench>
          )}
        </>
      )}
    </div>
  );
}

interface ActsProps {
  open: readonly Open[];
  busy: boolean;
  /** Minutes that are left. */
  left: number;
  onDo: (test: string, cylinders: number[]) => void;
}

/** What can still be done, on all that it would tell something of or on some. */
function Acts({ open, busy, left, onDo }: ActsProps) {
  const [chosen, setChosen] = useState<Record<string, readonly number[]>>({});
  return (
    <section id="acts" aria-label={t("What to do")} className="sheet scroll-mt-4 p-3">
      <h2 className="font-bold">{t("What to do")}</h2>
      {open.length === 0 && <p className="caption">{t("Everything was read.")}</p>}
      <ul className="divide-y divide-line">
        {open.map((act) => {
          const wanted = (chosen[act.test] ?? act.cylinders).filter((one) => act.cylinders.includes(one));
          const minutes = act.setup + act.each * wanted.length;
          const flip = (number: number) =>
            setChosen({ ...chosen, [act.test]: wanted.includes(number) ? wanted.filter((one) => one !== number) : [...wanted, number] });
          return (
            <li key={act.test} className="grid gap-1 py-2">
              <div className="flex items-center gap-2">
                <span className="min-w-0 flex-1">
                  <b className="inline-block first-letter:uppercase">{act.label}</b> <span className="caption">{act.tells}</span>
                </span>
                <Button disabled={busy || wanted.length === 0 || minutes > left} onClick={() => onDo(act.test, [...wanted])}>
                  {t("Do it, {{minutes}} min", { minutes })}
                </Button>
              </div>
              <div role="group" aria-label={t("{{label}} on", { label: act.label })} className="flex flex-wrap gap-1">
                {act.cylinders.map((number) => (
                  <button
                    key={number}
                    type="button"
                    aria-pressed={wanted.includes(number)}
                    onClick={() => flip(number)}
                    className="target size-9 rounded-md border border-line font-bold aria-pressed:bg-teal aria-pressed:text-sheet"
                  >
                    {number}
                  </button>
                ))}
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
