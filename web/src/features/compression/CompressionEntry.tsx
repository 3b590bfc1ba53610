import { useRef, useState } from "react";
import type { Assessment, Document } from "../../api/client";
import { Choice } from "../../primitives/Choice";
import { SelectField, TextField } from "../../primitives/Field";
import { Schools } from "../assessment";
import { PressureRow } from "./PressureRow";
import { drawnPsi, dryTest, PRESSURE_UNITS, type Pressure, type PressureUnit } from "./useCompressionTest";

const TEMPERATURES = [
  { value: "cold", label: "cold" },
  { value: "warm", label: "warm" },
  { value: "hot", label: "hot" },
] as const;
const THROTTLES = [
  { value: "open", label: "held open" },
  { value: "closed", label: "closed" },
] as const;

interface Props {
  document: Document;
  assessment: Assessment;
  onRecord: (entries: readonly (readonly [string, unknown])[]) => void;
  onChoose: (cylinder: number) => void;
  disabled: boolean;
  problem: (path: string) => string | undefined;
}

/** The dry test, typed straight down the row; bars compare at once. */
export function CompressionEntry({ document, assessment, onRecord, onChoose, disabled, problem }: Props) {
  const dry = dryTest(document);
  const fields = useRef(new Map<number, HTMLInputElement>());
  const numbers = Array.from({ length: document.engine.cylinders }, (_, index) => index + 1);
  const readings = numbers.map(dry.reading);
  const [chosenUnit, setUnit] = useState<PressureUnit | "">("");
  const used = readings.find((reading) => reading !== undefined)?.unit;
  const unit = chosenUnit || used || document.engine.specification?.compression_min?.unit || "psi";
  const set = (path: string, value: unknown) => onRecord([...dry.opening, [`${dry.base}/${path}`, value]]);
  const { expected } = assessment.compression;
  const values = readings.map((reading) => (reading ? drawnPsi(reading) : 0));
  const low = drawnPsi(expected.low as Pressure);
  const high = drawnPsi(expected.high as Pressure);
  const most = Math.max(high, ...values) * 1.04;
  const failing = assessment.compression.rules.find((rule) => rule.decides)?.failing ?? [];
  const move = (from: number, step: number) => fields.current.get(from + step)?.focus();
  return (
    <div className="grid gap-5 xl:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
      <div>
        <div className="mb-2 w-28">
          <SelectField
            label="Gauge reads in"
            value={unit}
            options={PRESSURE_UNITS}
            onChange={(next) => setUnit(next)}
          />
        </div>
        <div role="group" aria-label="Dry compression, final reading">
          {numbers.map((number) => (
            <PressureRow
              key={number}
              cylinder={number}
              reading={dry.reading(number)}
              unit={unit}
              scale={{ most, low, high }}
              failing={failing.includes(number)}
              disabled={disabled}
              error={problem(`${dry.base}/readings/${number}/pressure`)}
              onCommit={(value) => set(`readings/${number}/pressure`, value)}
              onFocus={() => onChoose(number)}
              onMove={(step) => move(number, step)}
              register={(field) => {
                if (field) fields.current.set(number, field);
                else fields.current.delete(number);
              }}
            />
          ))}
        </div>
        <p className="caption mt-1">
          Shaded: {expected.low.value} to {expected.high.value} {expected.low.unit}, {expected.basis}.
          Enter or the arrow keys go down the row.
        </p>
      </div>
      <div className="grid content-start gap-3">
        <div className="grid gap-3 sm:grid-cols-2">
          <Choice
            label="Engine"
            options={TEMPERATURES}
            value={dry.test?.engine_temperature}
            onChange={(value) => set("engine_temperature", value)}
            disabled={disabled}
          />
          <Choice
            label="Throttle"
            options={THROTTLES}
            value={dry.test?.throttle}
            onChange={(value) => set("throttle", value)}
            disabled={disabled}
          />
          <TextField
            key={dry.test?.cranking_rpm ?? "none"}
            label="Cranking speed, rpm"
            inputMode="numeric"
            disabled={disabled}
            defaultValue={dry.test?.cranking_rpm ?? ""}
            error={problem(`${dry.base}/cranking_rpm`)}
            onBlur={(event) => {
              const typed = event.target.value.trim();
              const value = typed === "" ? undefined : Number(typed.replace(",", "."));
              if (value !== dry.test?.cranking_rpm) set("cranking_rpm", Number.isNaN(value) ? typed : value);
            }}
          />
        </div>
        <Schools compression={assessment.compression} />
      </div>
    </div>
  );
}
