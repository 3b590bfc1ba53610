import { t } from "../../language";
import { lazy, Suspense, useRef, useState, type ClipboardEvent } from "react";
import { ErrorBoundary } from "react-error-boundary";
import type { Assessment } from "../../api/client";
import { Button } from "../../primitives/Button";
import { SelectField } from "../../primitives/Field";
import { column } from "../../primitives/number";
import { beside, worked } from "../bench";
import { EntryLine, type Acting, type Round } from "../round";
import { AnswerKey } from "../round/AnswerKey";
import { at, FieldEntry, PRESSURE_UNITS, startingUnit, valueAt, type Recorder } from "../record";
import { Schools } from "../assessment";
import { conditions } from "./conditions";
import { PressureRow } from "./PressureRow";
import { Strokes } from "./Strokes";
import { drawnPsi, nextTest, testOf, type Kind, type Pressure, type PressureUnit } from "./useCompressionTest";

// Few benches have a gauge that talks: fetched once the step is open.
const LiveGauge = lazy(() => import("./LiveGauge").then((module) => ({ default: module.LiveGauge })));
const CAUTION =
  t("Fuel and ignition off, all plugs out, throttle held open, battery full; the same number of strokes for each. Never crank with fuel and open plug holes near a spark.");
/** More rows than these stand in two columns. */
const MOST_IN_A_ROW = 12;
const WET_CAUTION = t("About 1 mL of oil for each 100 cm³, never enough to fill the chamber, the same dose in each.");

interface Props {
  recorder: Recorder;
  assessment: Assessment;
  onChoose: (cylinder: number) => void;
  /** A cranking trace captured from a clamp. */
  onTrace: (trace: File) => void;
  kind: Kind;
  round: Round;
  acting: Acting;
  onUndo: (() => void) | undefined;
}

/** A test typed straight down the row; bars compare at once, a wet one against its dry one. */
export function CompressionEntry({ recorder, assessment, onChoose, onTrace, kind, round, acting, onUndo }: Props) {
  const { document, cylinder, onRecord, disabled, problem } = recorder;
  const [again, setAgain] = useState(false);
  const test = again ? nextTest(document, kind) : testOf(document, kind);
  const dry = testOf(document, "dry");
  const fields = useRef(new Map<number, HTMLInputElement>());
  const numbers = worked(document);
  const [chosenUnit, setUnit] = useState<PressureUnit | "">("");
  const used = numbers.map((number) => test.reading(number) ?? dry.reading(number)).find(Boolean)?.unit;
  const unit = chosenUnit || used || (startingUnit(document, "/pressure", PRESSURE_UNITS, recorder.measures) as PressureUnit);
  const { expected } = assessment.compression;
  const values = numbers.map((number) => test.reading(number)).map((one) => (one ? drawnPsi(one) : 0));
  const low = drawnPsi(expected.low as Pressure);
  const high = drawnPsi(expected.high as Pressure);
  const most = Math.max(high, ...values) * 1.04;
  const failing = assessment.compression.rules.find((rule) => rule.decides)?.failing ?? [];
  const move = (from: number, step: 1 | -1) => {
    const next = beside(document, from, step);
    if (next !== undefined) fields.current.get(next)?.focus();
    else if (step > 0) fields.current.get(from)?.closest<HTMLElement>("[role=tabpanel]")?.focus({ preventScroll: true });
  };
  const begun = (entries: Parameters<typeof onRecord>[0]) => {
    onRecord([...test.opening, ...entries]);
    setAgain(false);
  };
  const asked = { ...recorder, onRecord: begun };
  const paste = (event: ClipboardEvent) => {
    const pasted = column(event.clipboardData.getData("text"), PRESSURE_UNITS, unit);
    if (!pasted || disabled) return;
    event.preventDefault();
    const rows = numbers.slice(numbers.indexOf(cylinder));
    begun(rows.flatMap((number, index) => (pasted[index] ? [[`${test.base}/readings/${number}/pressure`, pasted[index]] as const] : [])));
    const last = rows[Math.min(pasted.length, rows.length) - 1];
    if (last !== undefined) move(last, 1);
  };
  const counted = numbers.filter((number) => number !== cylinder).map((number) => test.strokes(number).length);
  const usual = test.test?.puffs ?? counted.find((count) => count > 1);
  return (
    <div className="grid gap-5 xl:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
      <div>
        <div className="mb-2 flex flex-wrap items-end gap-3">
          <h3 className="self-center text-lg font-bold">{round.title}</h3>
          <div className="ml-auto w-28">
            <SelectField label={t("Gauge reads in")} value={unit} options={PRESSURE_UNITS} onChange={setUnit} />
          </div>
          <Button disabled={disabled || !test.started} onClick={() => setAgain(true)}>
            {t("Read again")}
          </Button>
        </div>
        <div className={numbers.length > MOST_IN_A_ROW ? "grid gap-x-4 sm:grid-cols-2" : ""} role="group" onPaste={paste} aria-label={kind === "dry" ? t("Dry compression, final reading") : t("Wet compression, final reading")}>
          {numbers.map((number) => (
            <PressureRow
              key={`${test.base} ${number}`}
              name={`${test.base}/readings/${number}/pressure`}
              cylinder={number}
              reading={test.reading(number)}
              before={kind === "wet" ? dry.reading(number) : undefined}
              compared={kind === "wet"}
              unit={unit}
              scale={{ most, low, high }}
              failing={kind === "dry" && failing.includes(number)}
              disabled={disabled}
              error={problem(`${test.base}/readings/${number}/pressure`)}
              source={test.test?.readings?.find((one) => one.cylinder === number)?.instrument}
              onCommit={(value) => begun([[`${test.base}/readings/${number}/pressure`, value]])}
              onFocus={() => onChoose(number)}
              onMove={(step) => move(number, step)}
              chosen={number === cylinder}
              register={(field) => {
                if (field) fields.current.set(number, field);
                else fields.current.delete(number);
                if (number === cylinder) acting.holdFigure(field);
              }}
            />
          ))}
        </div>
        <p className="caption mt-1">
          {t("{{basis}}Enter or the arrow keys go down the row; a column that was copied is pasted from the first on.", { basis: expected.basis && t("Shaded: {{value}} to {{value2}} {{unit}}, {{basis}}. ", { value: expected.low.value, value2: expected.high.value, unit: expected.low.unit, basis: expected.basis }) })}
        </p>
        {!recorder.practice && (
          <ErrorBoundary fallback={<p className="caption">{t("Live instruments are not on this device yet.")}</p>}>
            <Suspense fallback={null}>
              <LiveGauge
                cylinder={cylinder}
                base={test.base}
                usual={usual}
                most={most}
                disabled={disabled}
                onTrace={onTrace}
                onKeep={(entries, kept) => {
                  begun(entries);
                  const next = beside(document, kept, 1);
                  if (next !== undefined) onChoose(next);
                }}
              />
            </Suspense>
          </ErrorBoundary>
        )}
      </div>
      <div className="grid content-start gap-2.5">
        <p className="border-l-4 border-ochre pl-2 text-sm">{kind === "wet" ? WET_CAUTION : CAUTION}</p>
        <div className="grid grid-cols-3 gap-1.5" role="group" aria-label={t("Quality of the reading of cylinder {{cylinder}}", { cylinder })}>
          {round.answers.map((answer) => (
            <AnswerKey
              key={answer.key}
              answer={answer}
              set={answer.sets.every(([path, value]) => valueAt(document, at(path, cylinder)) === value)}
              disabled={disabled}
              drawn={undefined}
              onAnswer={acting.answer}
            />
          ))}
        </div>
        <EntryLine adding={acting.adding} onUndo={onUndo} />
        <div className="grid gap-x-3 gap-y-2 sm:grid-cols-2">
          {conditions(test.base, kind).map((field) => (
            <FieldEntry key={field.path} field={field} recorder={asked} />
          ))}
          <Strokes
            key={`${test.base} ${cylinder}`}
            cylinder={cylinder}
            unit={unit}
            value={test.strokes(cylinder)}
            onChange={(value) => begun([[`${test.base}/readings/${cylinder}/strokes`, value]])}
            disabled={disabled}
            error={problem(`${test.base}/readings/${cylinder}/strokes`)}
          />
        </div>
        <Schools rules={assessment.compression.rules} />
      </div>
    </div>
  );
}
