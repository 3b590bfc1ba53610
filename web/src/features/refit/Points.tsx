import { t } from "../../language";
import { NumberField, QuantityEntry, type Quantity } from "../../primitives/number";
import { FieldEntry, FieldGroups, LENGTH_UNITS, TRIGGER, type Field, type LengthUnit, type Recorder } from "../record";
import { POINTS, type Sheet } from "./fields";

const BASE = "/refit/points";
const RENEWED: Field = { kind: "flag", path: `${BASE}/renewed`, label: t("Points renewed") };
const GREASED: Field = { kind: "flag", path: `${BASE}/cam_greased`, label: t("Cam greased") };
const BACKLASH: Field = { kind: "flag", path: `${BASE}/backlash_out`, label: t("Backlash taken out") };

interface Props {
  recorder: Recorder;
  sheet: Sheet;
}

/** Gap first, then timing: what is set, what follows from it, and whether the timing still stands. */
export function Points({ recorder, sheet }: Props) {
  const { document, onRecord, disabled, problem } = recorder;
  const given = document.refit?.points;
  const state = sheet.points;
  if (!state) {
    return (
      <div className="grid gap-2">
        <FieldEntry field={TRIGGER} recorder={recorder} />
        <p className="caption">
          {document.engine.trigger ? t("No points on this engine, so none are set.") : t("Said once of the engine; with points, gap and timing are set here.")}
        </p>
      </div>
    );
  }
  const specification = document.engine.specification;
  const wanted = specification?.timing_deg_btdc;
  const time = (degrees: number | undefined) =>
    onRecord([
      [`${BASE}/timing_deg_btdc`, degrees],
      // What the timing was set with: a later change of the gap undoes it.
      [`${BASE}/timing_gap`, degrees === undefined ? undefined : given?.gap],
      [`${BASE}/timing_dwell_deg`, degrees === undefined ? undefined : given?.dwell_deg],
    ]);
  return (
    <div className="grid gap-4">
      <p
        role={state.timing_undone ? "alert" : "status"}
        className={`border-l-4 pl-2 font-medium ${state.timing_undone ? "border-rust" : "border-teal"}`}
      >
        {state.text}
      </p>
      <div className="grid gap-x-6 gap-y-3 xl:grid-cols-2">
        <section aria-label={t("First the gap")} className="grid content-start gap-2">
          <h3 className="border-b border-line font-bold">{t("1. The gap, by feeler or by meter")}</h3>
          <FieldEntry field={RENEWED} recorder={recorder} />
          <QuantityEntry<LengthUnit>
            label={t("Points gap as set")}
            units={LENGTH_UNITS}
            fallback={(specification?.points_gap_min?.unit ?? "mm") as LengthUnit}
            value={given?.gap as Quantity<LengthUnit> | undefined}
            onChange={(value) => onRecord([[`${BASE}/gap`, value]])}
            disabled={disabled}
            error={problem(`${BASE}/gap`)}
          />
          <FieldEntry field={{ kind: "number", path: `${BASE}/dwell_deg`, label: "Dwell as set, degrees" }} recorder={recorder} />
          {state.computed && (
            <p className="text-sm">
              {state.computed === "gap"
                ? t("That dwell goes with a gap of about {{gap_mm}} mm", { gap_mm: state.gap_mm?.toFixed(2) })
                : t("That gap goes with a dwell of about {{dwell_deg}}°", { dwell_deg: state.dwell_deg?.toFixed(0) })}
              <span className="caption">{" "}{t("by {{basis}}", { basis: state.basis })}</span>
            </p>
          )}
          {state.within !== null && (
            <p className={`text-sm font-bold ${state.within ? "text-teal" : "text-rust"}`}>
              {t("{{part}} what its maker says", { part: state.within ? t("within") : t("outside") })}
            </p>
          )}
          <FieldEntry field={GREASED} recorder={recorder} />
        </section>
        <section aria-label={t("Then the timing")} className="grid content-start gap-2">
          <h3 className="border-b border-line font-bold">{t("2. The timing, by lamp")}</h3>
          <NumberField
            label={t("Set to, degrees before top")}
            value={given?.timing_deg_btdc}
            onChange={time}
            disabled={disabled}
            error={problem(`${BASE}/timing_deg_btdc`)}
          />
          {wanted !== undefined && (
            <p className="text-sm">
              {t("Its maker says {{wanted}}° before top", { wanted })}
              {state.arc && t(": {{value}} {{unit}} along the rim of the pulley", { value: state.arc.value, unit: state.arc.unit })}.
            </p>
          )}
          <FieldEntry field={BACKLASH} recorder={recorder} />
          <ol className="list-inside list-decimal text-sm">
            {sheet.points_steps.map((text) => (
              <li key={text} className="py-0.5">
                {text}
              </li>
            ))}
          </ol>
          <ul className="caption list-inside list-disc" aria-label={t("Care by distance")}>
            {state.care.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </section>
      </div>
      <FieldGroups columns={POINTS.map((group) => [group])} recorder={recorder} />
    </div>
  );
}
