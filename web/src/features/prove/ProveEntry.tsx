import { t } from "../../language";
import type { Assessment } from "../../api/client";
import { TextField } from "../../primitives/Field";
import { Tick } from "../../primitives/Tick";
import { Outcome } from "../handover";
import { FieldEntry, FieldGroups, valueAt, type Recorder } from "../record";
import { RoundEntry, type Acting, type Round } from "../round";
import type { Sheet } from "../refit";
import { AFTERWARDS, KEPT, RUN } from "./fields";


interface Props {
  part: string;
  recorder: Recorder;
  /** The same for what is recorded after signing off too: the outcome. */
  after: Recorder;
  sheet: Sheet;
  assessment: Assessment;
  round: Round | undefined;
  acting: Acting;
  onUndo: (() => void) | undefined;
}

/** Whether the fix held: run, read again, looked at after weeks, and the truth kept. */
export function ProveEntry({ part, recorder, after, sheet, assessment, round, acting, onUndo }: Props) {
  return (
    <div className="grid gap-4">
      {sheet.open.length > 0 ? (
        <p className="border-l-4 border-ochre pl-2 text-sm">
          <b>{t("Not proved yet.")}</b>{" "}{t("Still open: {{open}}.", { open: sheet.open.join("; ") })}
        </p>
      ) : (
        <p className="border-l-4 border-teal pl-2 text-sm font-bold">{t("Everything asked for is recorded.")}</p>
      )}
      {part === "run" && <FieldGroups columns={[[RUN], [AFTERWARDS]]} recorder={recorder} />}
      {part === "again" && round && (
        <>
          <RoundEntry recorder={recorder} round={round} acting={acting} onUndo={onUndo} />
          <BeforeAfter sheet={sheet} />
        </>
      )}
      {part === "later" && (
        <div className="grid gap-x-6 gap-y-4 xl:grid-cols-2">
          <FollowUp recorder={recorder} />
          <section aria-label={t("Old plugs kept")} className="grid content-start gap-2">
            <h3 className="border-b border-line font-bold">{t("Keep the old plugs as a set")}</h3>
            {KEPT.map((field) => (
              <FieldEntry key={field.path} field={field} recorder={recorder} />
            ))}
          </section>
        </div>
      )}
      {part === "outcome" && <Outcome recorder={after} assessment={assessment} />}
    </div>
  );
}

function FollowUp({ recorder }: { recorder: Recorder }) {
  const { document, onRecord, disabled, problem } = recorder;
  const date = (valueAt(document, "/proof/follow_up") as string | undefined) ?? "";
  return (
    <section aria-label={t("Look again")} className="grid gap-2">
      <h3 className="border-b border-line font-bold">{t("Look again after weeks")}</h3>
      <TextField
        label={t("On")}
        type="date"
        value={date}
        disabled={disabled}
        error={problem("/proof/follow_up")}
        hint={t("Stands on the shop's list until it is done.")}
        onChange={(event) => onRecord([["/proof/follow_up", event.target.value || undefined]])}
      />
      {date !== "" && (
        <Tick
          checked={valueAt(document, "/proof/followed_up") === true}
          disabled={disabled}
          onChange={(checked) => onRecord([["/proof/followed_up", checked || undefined]])}
        >
          {t("looked at again")}
        </Tick>
      )}
    </section>
  );
}

function BeforeAfter({ sheet }: { sheet: Sheet }) {
  return (
    <section aria-label={t("Before and after")}>
      <h3 className="border-b border-line font-bold">{t("Before and after")}</h3>
      {sheet.before_after.length === 0 ? (
        <p className="caption">{t("Nothing was read again yet: what is entered below stands here beside what was found.")}</p>
      ) : (
        <table className="w-full text-sm">
          <thead>
            <tr className="caption text-left">
              <th>{t("cylinder")}</th>
              <th>{t("reading")}</th>
              <th>{t("before")}</th>
              <th>{t("after")}</th>
            </tr>
          </thead>
          <tbody>
            {sheet.before_after.map((row) => (
              <tr key={`${row.what} ${row.cylinder}`} className="border-b border-line">
                <th className="text-left">{row.cylinder}</th>
                <td>{row.what}</td>
                <td className={row.before ? "" : "italic text-soft"}>{row.before || t("not read")}</td>
                <td className="font-bold">{row.after}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
