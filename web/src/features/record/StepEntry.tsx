import { t } from "../../language";
import { Choice } from "../../primitives/Choice";
import { FieldEntry, type Recorder } from "./FieldEntry";
import { valueAt } from "./valueAt";

const STATES = [
  { value: "done", label: t("done") },
  { value: "skipped", label: t("skipped") },
] as const;

interface Props {
  recorder: Recorder;
  /** Where the step is kept. */
  path: string;
  title: string;
  /** How long, and why. */
  note: string;
  /** Whether what it is for stands in the record: then it is done, unless somebody says otherwise. */
  recorded?: boolean;
}

/** One step of the work, done or skipped; neither is still open. */
export function StepEntry({ recorder, path, title, note, recorded = false }: Props) {
  const state = valueAt(recorder.document, `${path}/state`);
  return (
    <>
    <Choice
      beside
      label={title}
      options={STATES}
      value={(state ?? (recorded ? "done" : undefined)) as (typeof STATES)[number]["value"] | undefined}
      onChange={(state) => recorder.onRecord([[`${path}/state`, state]])}
      disabled={recorder.disabled}
      absent={t("open")}
      note={<span className="caption block">{note}</span>}
    />
    {state === "skipped" && <FieldEntry field={{ kind: "text", path: `${path}/reason`, label: "Skipped because" }} recorder={recorder} />}
    </>
  );
}
