import type { Assessment, Document } from "../../api/client";
import { TextField } from "../../primitives/Field";
import { Tick } from "../../primitives/Tick";
import { Outcome } from "../handover";
import { FieldEntry, FieldGroups, leading, options, PRESSURE_UNITS, valueAt, type Field, type Group, type Recorder } from "../record";
import type { Sheet } from "../refit";

type Proof = NonNullable<Document["proof"]>;
type ProofCylinder = NonNullable<Proof["cylinders"]>[number];

const RUN: Group = {
  title: "Start it, listen, drive it",
  caution: "Driven where it is permitted, insured and lawful; on the water, as the harbour says. Codes are cleared only after they are written down.",
  fields: [
    { kind: "choice", path: "/proof/start", label: "It started", options: options<NonNullable<Proof["start"]>>("at-once", "after-a-while", "no") },
    { kind: "choice", path: "/proof/beat", label: "Its beat", options: options<NonNullable<Proof["beat"]>>("even", "uneven") },
    { kind: "choice", path: "/proof/codes", label: "Codes", options: options<NonNullable<Proof["codes"]>>("not-cleared", "stay-clear", "came-back") },
    { kind: "flag", path: "/proof/drive", label: "Driven under the conditions of the complaint" },
    { kind: "text", path: "/proof/drive_conditions", label: "Which were" },
    { kind: "choice", path: "/proof/complaint", label: "The complaint is", options: options<NonNullable<Proof["complaint"]>>("gone", "better", "same", "worse") },
    { kind: "text", path: "/proof/note", label: "Note" },
  ],
};
/** What is read again, in the unit in which it was read before. */
const after = (unit: string | undefined): Group => ({
  title: "Read again, this cylinder",
  fields: [
    { kind: "quantity", path: "/proof/cylinders/{n}/pressure", label: "Dry compression, after", units: leading(PRESSURE_UNITS, unit) },
    { kind: "number", path: "/proof/cylinders/{n}/rpm_drop", label: "Cut out, speed drop after" },
    { kind: "choice", path: "/proof/cylinders/{n}/felt", label: "Cut out, what is felt after", options: options<NonNullable<ProofCylinder["felt"]>>("none", "slight", "clear") },
    { kind: "number", path: "/proof/cylinders/{n}/misfires", label: "Misfire count, after" },
  ],
});
const KEPT: readonly Field[] = [
  { kind: "text", path: "/refit/kept/label", label: "Label on the set", hint: "As it is written on the tin. The set shows up under History, beside the next." },
  { kind: "text", path: "/refit/kept/where", label: "Where it lies" },
];

interface Props {
  recorder: Recorder;
  /** For what is recorded after signing off too: the outcome. */
  writes: boolean;
  sheet: Sheet;
  assessment: Assessment;
}

/** Whether the fix held: run, read again, looked at after weeks, and the truth kept. */
export function ProveEntry({ recorder, writes, sheet, assessment }: Props) {
  const readings = recorder.document.tests?.compression?.flatMap((test) => test.readings ?? []);
  const unit = readings?.find((one) => one.pressure)?.pressure?.unit;
  return (
    <div className="grid gap-x-6 gap-y-5 xl:grid-cols-2">
      <div className="grid content-start gap-4">
        {sheet.open.length > 0 ? (
          <p className="border-l-4 border-ochre pl-2 text-sm">
            <b>Not proved yet.</b> Still open: {sheet.open.join("; ")}.
          </p>
        ) : (
          <p className="border-l-4 border-teal pl-2 text-sm font-bold">Everything asked for is recorded.</p>
        )}
        <FieldGroups columns={[[RUN]]} recorder={recorder} />
        <FollowUp recorder={recorder} />
      </div>
      <div className="grid content-start gap-4">
        <BeforeAfter sheet={sheet} />
        <FieldGroups columns={[[after(unit)]]} recorder={recorder} />
        <section aria-label="Old plugs kept" className="grid gap-2">
          <h3 className="border-b border-line font-bold">Keep the old plugs as a set</h3>
          {KEPT.map((field) => (
            <FieldEntry key={field.path} field={field} recorder={recorder} />
          ))}
        </section>
        <Outcome recorder={{ ...recorder, disabled: !writes }} assessment={assessment} />
      </div>
    </div>
  );
}

function FollowUp({ recorder }: { recorder: Recorder }) {
  const { document, onRecord, disabled, problem } = recorder;
  const date = (valueAt(document, "/proof/follow_up") as string | undefined) ?? "";
  return (
    <section aria-label="Look again" className="grid gap-2">
      <h3 className="border-b border-line font-bold">Look again after weeks</h3>
      <TextField
        label="On"
        type="date"
        value={date}
        disabled={disabled}
        error={problem("/proof/follow_up")}
        hint="Stands on the shop's list until it is done."
        onChange={(event) => onRecord([["/proof/follow_up", event.target.value || undefined]])}
      />
      {date !== "" && (
        <Tick
          checked={valueAt(document, "/proof/followed_up") === true}
          disabled={disabled}
          onChange={(checked) => onRecord([["/proof/followed_up", checked || undefined]])}
        >
          looked at again
        </Tick>
      )}
    </section>
  );
}

function BeforeAfter({ sheet }: { sheet: Sheet }) {
  return (
    <section aria-label="Before and after">
      <h3 className="border-b border-line font-bold">Before and after</h3>
      {sheet.before_after.length === 0 ? (
        <p className="caption">Nothing was read again yet: what is entered below stands here beside what was found.</p>
      ) : (
        <table className="w-full text-sm">
          <thead>
            <tr className="caption text-left">
              <th>cylinder</th>
              <th>reading</th>
              <th>before</th>
              <th>after</th>
            </tr>
          </thead>
          <tbody>
            {sheet.before_after.map((row) => (
              <tr key={`${row.what} ${row.cylinder}`} className="border-b border-line">
                <th className="text-left">{row.cylinder}</th>
                <td>{row.what}</td>
                <td className={row.before ? "" : "italic text-soft"}>{row.before || "not read"}</td>
                <td className="font-bold">{row.after}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
