import { t } from "../../language";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, take } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { SelectField } from "../../primitives/Field";
import type { Words } from "../assessment";
import type { Round } from "./CasePage";
import { inTurn } from "./useWriting";

const SURE = [50, 60, 70, 80, 90, 95, 99].map((one) => ({ value: String(one), label: `${one} %` }));
const RUN = [
  { value: "yes", label: t("may run") },
  { value: "no", label: t("must not run") },
] as const;

interface Props {
  round: Round;
  words: Words;
  onEnded: (round: Round) => void;
}

/** Which cylinder, what, how sure; and whether it may run. */
export function AnswerForm({ round, words, onEnded }: Props) {
  const numbers = Array.from({ length: round.document.engine.cylinders }, (_, at) => at + 1);
  const [faults, setFaults] = useState<Record<number, string>>({});
  const [sure, setSure] = useState<Record<number, string>>({});
  const [needs, setNeeds] = useState("");
  const [runs, setRuns] = useState<"yes" | "no" | undefined>();
  const end = useMutation({
    scope: inTurn(round.id),
    mutationFn: () =>
      take(
        api.POST("/api/training/rounds/{attempt_id}/answer", {
          params: { path: { attempt_id: round.id } },
          body: {
            claims: numbers.map((cylinder) => ({ cylinder, fault: (faults[cylinder] ?? "") as "", percent: Number(sure[cylinder] ?? 80) })),
            may_run: runs === "yes",
            needs: needs as "",
          },
        }),
      ),
    onSuccess: onEnded,
  });
  const offered = round.faults.map((fault) => ({ value: fault, label: words.fault(fault) }));
  return (
    <section id="verdict" aria-label={t("What it is")} className="sheet grid scroll-mt-4 gap-2 p-3">
      <h2 className="font-bold">{t("What it is")}</h2>
      {numbers.map((number) => (
        <div key={number} className="grid grid-cols-[2rem_minmax(0,1fr)_6rem] items-end gap-2">
          <b className="pb-2 text-xl">{number}</b>
          <SelectField
            label={t("Fault of {{number}}", { number })}
            value={faults[number] ?? ""}
            empty={t("plug or seal at most")}
            options={offered}
            onChange={(fault) => setFaults({ ...faults, [number]: fault })}
          />
          <SelectField label={t("How sure of {{number}}", { number })} value={sure[number] ?? "80"} options={SURE} onChange={(one) => setSure({ ...sure, [number]: one })} />
        </div>
      ))}
      <Choice label={t("Until it is put right it")} options={RUN} value={runs} onChange={setRuns} absent={t("to be said")} />
      <SelectField
        label={t("What the buyer is told that it needs, at the dearest")}
        value={needs}
        empty={t("not said")}
        options={round.works.map((one) => ({ value: one.needs, label: one.label }))}
        onChange={setNeeds}
      />
      {end.error && (
        <p role="alert" className="text-rust">
          {end.error.message}
        </p>
      )}
      <Button weight="main" disabled={runs === undefined || end.isPending} onClick={() => end.mutate()}>
        {t("That is my verdict")}
      </Button>
    </section>
  );
}
