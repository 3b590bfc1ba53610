import { t } from "../../language";
import { useState } from "react";
import { Button } from "../../primitives/Button";
import { Tick } from "../../primitives/Tick";
import { inWorkOrder, worked } from "../bench";
import { FieldEntry, leading, options, StepEntry, TORQUE_UNITS, type Field, type Recorder } from "../record";
import { RoundEntry, type Acting, type Round } from "../round";
import { WRENCH, type Fitting, type Sheet } from "./fields";
import { useTools } from "./useTools";

const TEMPERATURE: Field = {
  kind: "choice",
  path: "/refit/engine_temperature",
  label: t("The engine is"),
  options: options("cold", "warm", "hot"),
};
const COUNTS: readonly Field[] = [
  { kind: "number", path: "/refit/tools_out", label: t("Tools taken out") },
  { kind: "number", path: "/refit/tools_back", label: t("Tools back") },
];

interface Props {
  recorder: Recorder;
  sheet: Sheet;
  round: Round;
  acting: Acting;
  onUndo: (() => void) | undefined;
  onChoose: (cylinder: number) => void;
}

/** Every plug turned in by hand, torqued and ticked; the list closes when none is missing. */
export function Fit({ recorder, sheet, round, acting, onUndo, onChoose }: Props) {
  const chosen = sheet.cylinders.find((one) => one.cylinder === recorder.cylinder);
  const unit = recorder.document.refit?.wrench?.unit ?? chosen?.setting?.unit;
  // The torque is typed in the wrench's unit.
  const inUnit: Round =
    round.figure?.kind === "quantity" ? { ...round, figure: { ...round.figure, units: leading(TORQUE_UNITS, unit) } } : round;
  return (
    <div className="grid gap-4">
      <RoundEntry
        recorder={recorder}
        round={inUnit}
        acting={acting}
        onUndo={onUndo}
        drawn={chosen && <Aim fitting={chosen} />}
        beside={
          <section aria-label={t("Fitted and torqued")} className="grid content-start gap-2 lg:w-[19rem]">
            <ul className="grid">
              {inWorkOrder(recorder.document, sheet.cylinders, (one) => one.cylinder).map((one) => (
                <FitRow key={one.cylinder} fitting={one} recorder={recorder} onChoose={onChoose} />
              ))}
            </ul>
            <Close recorder={recorder} />
          </section>
        }
      />
      {chosen && <Remarks fitting={chosen} />}
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-2">
        <div className="grid content-start gap-4">
          {sheet.cautions.length > 0 && (
            <ul className="grid gap-1 text-sm" aria-label={t("To mind at this refit")}>
              {sheet.cautions.map((text) => (
                <li key={text} className="border-l-4 border-ochre pl-2">
                  {text}
                </li>
              ))}
            </ul>
          )}
          <WrenchCard recorder={recorder} />
        </div>
        <section aria-label={t("On the way back")} className="grid content-start gap-2">
          <h3 className="border-b border-line font-bold">{t("On the way back")}</h3>
          {sheet.steps.map((step) => (
            <StepEntry key={step.id} recorder={recorder} path={`/refit/steps/${step.id}`} title={step.title} note={step.why} />
          ))}
          <div className="grid grid-cols-2 gap-2">
            {COUNTS.map((field) => (
              <FieldEntry key={field.path} field={field} recorder={recorder} />
            ))}
          </div>
        </section>
      </div>
    </div>
  );
}

/** An angle from finger-tight, once where both its ends are one. */
const angle = (fitting: Fitting) => `${[...new Set(fitting.turn_deg)].join(" to ")}\u00b0`;

/** What this plug is turned to, in the middle of the round. */
function Aim({ fitting }: { fitting: Fitting }) {
  return (
    <p className="text-center leading-tight">
      {fitting.setting ? (
        <>
          <b className="block text-2xl">{fitting.setting.value}</b>
          {fitting.setting.unit}
        </>
      ) : (
        <span className="caption">{t("{{fitting}} from finger-tight", { fitting: angle(fitting) })}</span>
      )}
    </p>
  );
}

interface RowProps {
  fitting: Fitting;
  recorder: Recorder;
  onChoose: (cylinder: number) => void;
}

function FitRow({ fitting, recorder, onChoose }: RowProps) {
  const { cylinder } = fitting;
  const base = `/refit/cylinders/${cylinder}`;
  const set = fitting.setting;
  // What is ticked here shows at once, also with no network; what follows from it is the server's.
  const own = recorder.document.refit?.cylinders?.find((one) => one.cylinder === cylinder);
  const tick = (field: "fitted" | "torqued") => (
    <Tick
      name={`Cylinder ${cylinder} ${field}`}
      checked={own?.[field] === true}
      disabled={recorder.disabled || recorder.document.refit?.closed === true}
      onChange={(checked) => recorder.onRecord([[`${base}/${field}`, checked]])}
    >
      {field}
    </Tick>
  );
  return (
    <li className={`grid grid-cols-[2.2rem_1fr_auto_auto] items-center gap-x-3 border-b border-line ${recorder.cylinder === cylinder ? "bg-wash" : ""}`}>
      <button type="button" className="target min-h-11 text-lg font-bold" aria-label={t("Details of cylinder {{cylinder}}", { cylinder })} onClick={() => onChoose(cylinder)}>
        {cylinder}
      </button>
      <span>
        {set ? (
          <b>
            {set.value} {set.unit}
            {fitting.unverified.includes("torque") && <span className="caption font-normal">{" "}{t("not the maker's")}</span>}
          </b>
        ) : (
          <span className="caption italic">{t("{{fitting}} from finger-tight", { fitting: angle(fitting) })}</span>
        )}
        {fitting.slips.length > 0 && <span className="block text-sm text-rust">{t("check the figure")}</span>}
      </span>
      {tick("fitted")}
      {tick("torqued")}
    </li>
  );
}

function Close({ recorder }: Pick<Props, "recorder">) {
  const closed = recorder.document.refit?.closed === true;
  const done = recorder.document.refit?.cylinders?.filter((one) => one.fitted && one.torqued).map((one) => one.cylinder);
  const missing = worked(recorder.document).filter((number) => !done?.includes(number));
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Button
        weight="main"
        disabled={recorder.disabled || (!closed && missing.length > 0)}
        onClick={() => recorder.onRecord([["/refit/closed", closed ? undefined : true]])}
      >
        {closed ? t("Open the list again") : t("Close the list")}
      </Button>
      <p className="caption">
        {closed
          ? t("Closed: every plug is fitted and torqued.")
          : missing.length > 0
            ? t("Still to fit and torque: {{missing}}", { missing: missing.join(", ") })
            : t("Every plug is fitted and torqued.")}
      </p>
    </div>
  );
}

/** What speaks against a figure, and what to mind at this cylinder. */
function Remarks({ fitting }: { fitting: Fitting }) {
  return (
    <section aria-label={t("Fitting cylinder {{cylinder}}", { cylinder: fitting.cylinder })} className="grid gap-2">
      {fitting.slips.map((slip) => (
        <p key={slip.path} role="alert" className="border-l-4 border-rust pl-2 text-sm font-medium">
          {slip.text}
        </p>
      ))}
      {fitting.hints.map((hint) => (
        <p key={hint.code} className="border-l-4 border-ochre pl-2 text-sm">
          {hint.text}
        </p>
      ))}
      <p className="caption">
        {t("By hand first, five free turns at least, through a hose that slips before a thread crosses. Without a wrench: {{fitting}} from finger-tight, which is {{handle}}.", { fitting: angle(fitting), handle: fitting.handle })}
      </p>
    </section>
  );
}

function WrenchCard({ recorder }: { recorder: Recorder }) {
  const { tools, keep } = useTools();
  const [open, setOpen] = useState(false);
  const { wrench } = recorder.document.refit ?? {};
  const own = tools?.own.wrench;
  const unit = wrench?.unit;
  return (
    <section aria-label={t("Torque wrench")} className="grid gap-2">
      <h3 className="border-b border-line font-bold">{t("The wrench")}</h3>
      <FieldEntry field={TEMPERATURE} recorder={recorder} />
      <p className="text-sm">
        {unit
          ? t("Reads {{unit}}{{part}}{{part2}}{{part3}}.", { unit, part: wrench.minimum !== undefined ? t(" from {{minimum}}", { minimum: wrench.minimum }) : "", part2: wrench.maximum !== undefined ? t(" to {{maximum}}", { maximum: wrench.maximum }) : "", part3: wrench.step !== undefined ? t(" in steps of {{step}}", { step: wrench.step }) : "" })
          : t("Not said: the figures are in the maker's unit, and no scale is minded.")}
      </p>
      <div className="flex flex-wrap gap-2">
        {own && (
          <Button
            disabled={recorder.disabled}
            onClick={() => recorder.onRecord(Object.entries(own).map(([field, value]) => [`/refit/wrench/${field}`, value]))}
          >
            {t("Use mine")}
          </Button>
        )}
        {tools && wrench && (
          <Button onClick={() => keep({ ...tools.own, wrench })}>{t("Keep as mine")}</Button>
        )}
        <Button aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? t("Fold away") : t("Describe it")}
        </Button>
      </div>
      {open && WRENCH.map((field) => <FieldEntry key={field.path} field={field} recorder={recorder} />)}
    </section>
  );
}
