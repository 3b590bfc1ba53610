import { t } from "../../language";
import { useId, type KeyboardEvent } from "react";
import { NumberNote, useQuantityEntry } from "../../primitives/number";
import { leave } from "../../primitives/typing";
import { PRESSURE_UNITS } from "../record";
import { drawnPsi, type Pressure, type PressureUnit } from "./useCompressionTest";

interface Props {
  /** Where the reading is kept. */
  name: string;
  cylinder: number;
  reading: Pressure | undefined;
  /** The dry reading that a wet one is compared with. */
  before: Pressure | undefined;
  /** Whether the row leaves room to say how far the two differ. */
  compared: boolean;
  unit: PressureUnit;
  scale: { most: number; low: number; high: number };
  failing: boolean;
  disabled: boolean;
  error: string | undefined;
  /** The instrument that said it, where no hand typed it. */
  source: string | undefined;
  onCommit: (value: Pressure | undefined) => void;
  /** Whether its cylinder is the one in hand. */
  chosen: boolean;
  onFocus: () => void;
  onMove: (step: 1 | -1) => void;
  register: (field: HTMLInputElement | null) => void;
}

const PLAIN = "grid-cols-[2.4rem_6.5rem_1fr]";
const COMPARED = "grid-cols-[2.4rem_6.5rem_1fr_3rem]";

/** How far oil raised a reading: "+12 %". */
function gain(wet: Pressure, dry: Pressure): string {
  const percent = Math.round((drawnPsi(wet) / drawnPsi(dry) - 1) * 100);
  return `${percent < 0 ? "−" : "+"}${Math.abs(percent)}\u00a0%`;
}

/** One cylinder's final reading: the figure, and its bar against the expected band. */
export function PressureRow(props: Props) {
  const { cylinder, reading, before, unit, scale, failing, disabled, onMove, onFocus, onCommit, register } = props;
  const entry = useQuantityEntry<PressureUnit>({
    name: props.name,
    // A new figure is read in the unit that is chosen, whatever the old one was read in.
    value: reading && { ...reading, unit },
    units: PRESSURE_UNITS,
    fallback: unit,
    onChange: onCommit,
  });
  const note = useId();
  const error = entry.error ?? props.error;
  const share = (psi: number) => `${Math.min(psi / scale.most, 1) * 100}%`;
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Escape") leave(event.currentTarget);
    const step = { Enter: 1, ArrowDown: 1, ArrowUp: -1 }[event.key] as 1 | -1 | undefined;
    if (!step) return;
    event.preventDefault();
    if (entry.commit()) onMove(step);
  };
  return (
    <div className={`grid items-center gap-2 py-0.5 ${props.compared ? COMPARED : PLAIN}`}>
      <b aria-hidden="true" className={props.chosen ? "text-3xl leading-none" : "text-lg leading-none text-soft"}>
        {cylinder}
      </b>
      <input
        ref={register}
        className="entry text-right lg:min-h-8"
        inputMode="decimal"
        enterKeyHint="next"
        autoComplete="off"
        aria-label={t("Cylinder {{cylinder}}, {{unit}}", { cylinder, unit })}
        aria-invalid={error ? true : undefined}
        aria-describedby={error || entry.question ? note : undefined}
        disabled={disabled}
        value={entry.text}
        onChange={(event) => entry.type(event.target.value)}
        onBlur={entry.commit}
        onFocus={onFocus}
        onKeyDown={onKeyDown}
      />
      <div className="relative h-6" aria-hidden="true">
        <i
          className="absolute inset-y-0 bg-wash"
          style={{ left: share(scale.low), right: `calc(100% - ${share(scale.high)})` }}
        />
        {reading ? (
          <>
            <i
              className={`absolute inset-y-1.5 left-0 ${failing ? "bg-rust" : "bg-teal"}`}
              style={{ width: share(drawnPsi(reading)) }}
            />
            {before && <i className="absolute inset-y-0 border-l-3 border-ink" style={{ left: share(drawnPsi(before)) }} />}
            <span className="caption absolute inset-y-1 right-1">
              {[reading.unit !== unit && reading.unit, props.source].filter(Boolean).join(", ")}
            </span>
          </>
        ) : (
          <span className="caption absolute inset-y-1 left-1 italic">{t("not read")}</span>
        )}
      </div>
      {props.compared && (
        <span className="caption text-right">{reading && before ? gain(reading, before) : ""}</span>
      )}
      <div className="col-span-full empty:hidden">
        <NumberNote id={note} error={error} question={entry.question} onChoose={entry.choose} />
      </div>
    </div>
  );
}
