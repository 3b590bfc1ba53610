import { useCallback, useRef } from "react";
import { QuantityEntry } from "../../primitives/number";
import { beside } from "../bench";
import { PhotoStrip, type Photos } from "../photos";
import { at, FieldGroups, LENGTH_UNITS, type Entries, type Recorder } from "../record";
import { EntryLine } from "./EntryLine";
import { FiringEnd } from "./FiringEnd";
import { FIRING_END, ITSELF, sameAs, WELL, type Reading } from "./findings";
import { ReadAs } from "./ReadAs";
import { useOnlyAdding } from "./useOnlyAdding";
import { useReadingKeys } from "./useReadingKeys";

interface Props {
  recorder: Recorder;
  onChoose: (cylinder: number) => void;
  photos: Photos;
}

/** One plug, its well and its boot: a whole reading in one act, exceptions after. */
export function PlugEntry({ recorder, onChoose, photos }: Props) {
  const { document, cylinder, onRecord, disabled, problem } = recorder;
  const gap = useRef<HTMLDivElement>(null);
  const records = document.cylinders ?? [];
  const plug = records.find((one) => one.number === cylinder)?.plug ?? {};
  const last = beside(document, cylinder, -1);
  const before = records.find((one) => one.number === last);
  const here = useCallback(
    (sets: Entries): Entries => sets.map(([path, value]) => [at(`/cylinders/{n}/${path}`, cylinder), value]),
    [cylinder],
  );
  const adding = useOnlyAdding(recorder);
  const { read, leave } = adding;
  const onRead = useCallback(
    (reading: Reading) => read(reading.key, reading.label, here(reading.sets)),
    [read, here],
  );
  const onSame = before?.plug ? () => read("=", "The same as the one before", here(sameAs(before))) : undefined;
  const onGap = useCallback(() => gap.current?.querySelector("input")?.select(), []);
  const onStep = useCallback(
    (step: 1 | -1) => {
      const next = beside(document, cylinder, step);
      if (next !== undefined) onChoose(next);
    },
    [cylinder, document, onChoose],
  );
  useReadingKeys({ onRead, onSame, onGap, onLeave: leave, onStep, disabled });
  return (
    <div className="grid gap-4">
      <div className="grid gap-x-5 gap-y-3 md:grid-cols-[190px_1fr]">
        <div className="flex items-center gap-3 md:block">
          <FiringEnd plug={plug} profile className="w-40 shrink-0 md:w-full" />
          <div ref={gap} className="mt-2 min-w-0 flex-1">
            <QuantityEntry
              key={cylinder}
              label="Gap"
              name={`/cylinders/${cylinder}/plug/gap`}
              units={LENGTH_UNITS}
              fallback="mm"
              value={plug.gap}
              onChange={(value) => onRecord([[`/cylinders/${cylinder}/plug/gap`, value]])}
              disabled={disabled}
              error={problem(`/cylinders/${cylinder}/plug/gap`)}
            />
            <p className="caption mt-1 hidden md:block">
              Digits choose a cylinder, arrows walk, <kbd className="keycap">g</kbd> goes to the gap, Enter back.
            </p>
          </div>
        </div>
        <div className="grid min-w-0 content-start gap-2">
          <EntryLine adding={adding} />
          <ReadAs onRead={onRead} onSame={onSame} disabled={disabled} />
        </div>
      </div>
      <PhotoStrip
        recorder={recorder}
        photos={photos}
        path={`/cylinders/${cylinder}/photos`}
        of={`Cylinder ${cylinder}`}
      />
      <FieldGroups columns={[[WELL, ITSELF], [FIRING_END]]} recorder={recorder} />
    </div>
  );
}
