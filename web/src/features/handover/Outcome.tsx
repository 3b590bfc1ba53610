import { t } from "../../language";
import { useMutation } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { api, take, type Assessment } from "../../api/client";
import { Button } from "../../primitives/Button";
import { LineEntry } from "../../primitives/LineEntry";
import { Tags } from "../../primitives/Tags";
import { Tick } from "../../primitives/Tick";
import { useWords } from "../assessment";
import { FieldEntry, valueAt, type Recorder } from "../record";
import { isOwner, useSession } from "../session/useSession";

const OUTCOMES = ["found", "nothing"] as const;
/** The one fault that two cylinders have between them. */
const BETWEEN = "head-gasket-between";

interface Props {
  recorder: Recorder;
  assessment: Assessment;
}

/** What it turned out to be, once apart or mended: kept beside the prediction, signed off or not. */
export function Outcome({ recorder, assessment }: Props) {
  const words = useWords();
  const { document, cylinder, onRecord, disabled, problem } = recorder;
  const base = `/outcome/cylinders/${cylinder}`;
  const found = valueAt(document, `${base}/found`) as readonly string[] | undefined;
  const nothing = valueAt(document, `${base}/nothing`) === true;
  const oneOf = valueAt(document, `${base}/one_of`) === true;
  const faults = assessment.cylinders.find((one) => one.number === cylinder)?.faults ?? [];
  const ofAll = assessment.engine.faults.map((one) => one.fault);
  const open = assessment.cylinders
    .map((one) => one.number)
    .filter((number) => OUTCOMES.every((name) => valueAt(document, `/outcome/cylinders/${number}/${name}`) === undefined));
  const told = nothing ? ["none"] : found;
  const set = (next: readonly string[] | undefined) => {
    const sound = next?.includes("none") ? true : undefined;
    onRecord([
      [`${base}/found`, sound ? undefined : next],
      [`${base}/nothing`, sound],
      ...(next && next.length > 1 ? [] : [[`${base}/one_of`, undefined] as const]),
    ]);
  };
  return (
    <section aria-label={t("What it turned out to be")} className="grid gap-2.5">
      <h3 className="border-b border-line font-bold">{t("What it turned out to be")}</h3>
      <FieldEntry field={{ kind: "date", path: "/outcome/date", label: "Known since" }} recorder={recorder} />
      <p className="caption">{t("Recorded when it comes apart or after the mend; the shop's own record learns from it.")}</p>
      <Tags
        label={t("Found on cylinder {{cylinder}}", { cylinder })}
        options={[
          { value: "none", label: t("nothing wrong") },
          ...faults.map((one) => ({ value: one.fault, label: words.fault(one.fault) })),
          { value: BETWEEN, label: words.fault(BETWEEN, "pair") },
          { value: "gap-wide", label: t("gap too wide, plug not worn") },
          { value: "gap-narrow", label: t("gap too narrow") },
        ]}
        value={told}
        onChange={set}
        disabled={disabled}
        absent={t("not known yet")}
      />
      {found && found.length > 1 && (
        <Tick
          className="text-sm"
          checked={oneOf}
          disabled={disabled}
          onChange={(checked) => onRecord([[`${base}/one_of`, checked || undefined]])}
        >
          {t("one of these: both were renewed together")}
        </Tick>
      )}
      <LineEntry
        key={`${base}/note`}
        name={`${base}/note`}
        label={t("Note")}
        value={(valueAt(document, `${base}/note`) as string | undefined) ?? ""}
        onCommit={(text) => onRecord([[`${base}/note`, text || undefined]])}
        disabled={disabled}
        error={problem(`${base}/note`)}
      />
      <Tags
        label={t("Found on the engine as a whole")}
        options={ofAll.map((fault) => ({ value: fault, label: words.fault(fault, "engine") }))}
        value={valueAt(document, "/outcome/engine_faults") as readonly string[] | undefined}
        onChange={(next) => onRecord([["/outcome/engine_faults", next]])}
        disabled={disabled}
        absent={t("not known yet")}
      />
      <FieldEntry field={{ kind: "text", path: "/outcome/note", label: "Note about the whole" }} recorder={recorder} />
      {open.length > 0 ? (
        <Button
          className="w-fit"
          disabled={disabled || open.length === assessment.cylinders.length}
          onClick={() => onRecord(open.map((number) => [`/outcome/cylinders/${number}/nothing`, true]))}
        >
          {t("Nothing wrong on the others: {{open}}", { open: open.join(", ") })}
        </Button>
      ) : (
        <KeepCase />
      )}
    </section>
  );
}

/** What every cylinder had is known: apprentices may look for it too. */
function KeepCase() {
  const { id = "" } = useParams();
  const { person } = useSession();
  const keep = useMutation({ mutationFn: () => take(api.POST("/api/training/own", { body: { inspection: id } })) });
  if (!isOwner(person)) return null;
  return (
    <div className="grid gap-1">
      <Button className="w-fit" disabled={keep.isPending || keep.isSuccess} onClick={() => keep.mutate()}>
        {t("Make it a case to practise on")}
      </Button>
      <p className="caption" role="status">
        {keep.isSuccess ? (
          <>
            {t("It stands under")}{" "}<Link to="/training">{t("Practise")}</Link>{t(", without names, numbers or dates.")}
          </>
        ) : (
          t("What was read and what it was, without names, numbers or dates; nobody's record is touched.")
        )}
      </p>
      {keep.error && (
        <p role="alert" className="text-sm text-rust">
          {keep.error.message}
        </p>
      )}
    </div>
  );
}
