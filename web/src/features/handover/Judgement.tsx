import { t } from "../../language";
import type { Assessment } from "../../api/client";
import { Choice } from "../../primitives/Choice";
import { SelectField } from "../../primitives/Field";
import { LineEntry } from "../../primitives/LineEntry";
import { useWords } from "../assessment";
import { valueAt, type Recorder } from "../record";

const GRADES = ["A", "B", "C", "D", "E"].map((value) => ({ value, label: value }));

interface Props {
  recorder: Recorder;
  assessment: Assessment;
}

/** Where the inspector judges otherwise: said beside the computed answer, with a reason, never instead. */
export function Judgement({ recorder, assessment }: Props) {
  const words = useWords();
  const { document, cylinder, onRecord, disabled, problem } = recorder;
  const own = assessment.cylinders.find((one) => one.number === cylinder);
  const base = `/judgement/cylinders/${cylinder}`;
  const at = (path: string) => valueAt(document, path) as string | undefined;
  const reason = (path: string) => (
    <LineEntry
      key={path}
      name={path}
      label={t("Because")}
      value={at(path) ?? ""}
      onCommit={(text) => onRecord([[path, text || undefined]])}
      disabled={disabled}
      error={problem(path)}
    />
  );
  const missing = (where: string) =>
    at(`${where}/grade`) && !at(`${where}/reason`) ? (
      <p className="text-sm text-ochre">{t("Say why: without a reason the report shows only the figure.")}</p>
    ) : null;
  return (
    <section aria-label={t("Your own judgement")} className="grid gap-2.5">
      <h3 className="border-b border-line font-bold">{t("If you judge otherwise")}</h3>
      <p className="caption">{t("Stands beside the computed grade on the report and never replaces it.")}</p>
      <Choice
        label={t("The engine, computed {{grade}}", { grade: assessment.engine.grade })}
        options={GRADES}
        value={at("/judgement/grade")}
        onChange={(grade) => onRecord([["/judgement/grade", grade]])}
        disabled={disabled}
        absent={t("as computed")}
      />
      {at("/judgement/grade") && reason("/judgement/reason")}
      {missing("/judgement")}
      <Choice
        label={t("Cylinder {{cylinder}}, computed {{grade}}", { cylinder, grade: own?.grade ?? "U" })}
        options={GRADES}
        value={at(`${base}/grade`)}
        onChange={(grade) => onRecord([[`${base}/grade`, grade]])}
        disabled={disabled}
        absent={t("as computed")}
      />
      <SelectField
        disabled={disabled}
        label={t("What is wrong with cylinder {{cylinder}}", { cylinder })}
        value={at(`${base}/fault`) ?? ""}
        empty={t("as computed")}
        options={(own?.faults ?? []).map((one) => ({ value: one.fault, label: words.fault(one.fault) }))}
        onChange={(fault) => onRecord([[`${base}/fault`, fault || undefined]])}
      />
      {(at(`${base}/grade`) ?? at(`${base}/fault`)) && reason(`${base}/reason`)}
      {missing(base)}
    </section>
  );
}
