import { useState } from "react";
import { useDraft } from "../drafts";
import { readNumber, writeNumber, type Reading, type Unit } from "./readNumber";

export interface Quantity<U extends string = string> {
  value: number;
  unit: U;
}

export interface Options<U extends string> {
  /** What tells the field apart: its half-typed text is kept under it. */
  name: string;
  value: Quantity<U> | undefined;
  units: readonly Unit<U>[];
  /** The unit that an empty field starts in. */
  fallback: U;
  onChange: (value: Quantity<U> | undefined) => void;
  /** What may have been meant by a figure that cannot be, itself the last; nothing where it can. */
  meant?: ((typed: Quantity<U>) => readonly Quantity<U>[]) | undefined;
}

export interface QuantityEntryState<U extends string> {
  text: string;
  unit: U;
  error: string | undefined;
  /** What may be meant: a comma or a point may stand for thousands, a unit for another. */
  question: readonly Quantity<U>[] | undefined;
  type: (text: string) => void;
  setUnit: (unit: U) => void;
  /** Whether the field is done: what was typed is said, or nothing was. */
  commit: () => boolean;
  choose: (value: Quantity<U>) => void;
}

/**
 * Keeps exactly what was typed until it is committed, the value once it is usable, and what is wrong
 * or to be asked. Leaving the field empty takes the quantity back.
 */
export function useQuantityEntry<U extends string>({
  name,
  value,
  units,
  fallback,
  onChange,
  meant,
}: Options<U>): QuantityEntryState<U> {
  const draft = useDraft(name);
  const [chosen, setChosen] = useState<U | undefined>();
  const [asked, setAsked] = useState(false);
  const read: Reading = readNumber(draft.text ?? "", units);
  const typedUnit = "unit" in read ? (read.unit as U | undefined) : undefined;
  const unit = typedUnit ?? chosen ?? value?.unit ?? fallback;
  const offered = (reading: Reading): readonly Quantity<U>[] | undefined => {
    if (reading.kind === "either") return reading.values.map((number) => ({ value: number, unit }));
    const doubted = reading.kind === "number" ? meant?.({ value: reading.value, unit }) : undefined;
    return doubted?.length ? doubted : undefined;
  };
  const say = (number: number, as: U) => {
    draft.set(undefined);
    setChosen(undefined);
    if (number !== value?.value || as !== value.unit) onChange({ value: number, unit: as });
  };
  return {
    text: draft.text ?? (value ? writeNumber(value.value) : ""),
    unit,
    error: read.kind === "wrong" ? read.error : undefined,
    question: asked ? offered(read) : undefined,
    type: (text) => {
      setAsked(false);
      draft.set(text);
    },
    setUnit: (next) => {
      setChosen(next);
      if (value && draft.text === undefined && next !== value.unit) onChange({ value: value.value, unit: next });
    },
    commit: () => {
      // Enter moves the focus, and leaving the field commits too: the second finds nothing.
      const typed = draft.now();
      if (typed === undefined) return true;
      const now = readNumber(typed, units);
      switch (now.kind) {
        case "none":
          draft.set(undefined);
          if (value) onChange(undefined);
          return true;
        case "number":
          if (offered(now)) {
            setAsked(true);
            return false;
          }
          say(now.value, (now.unit as U | undefined) ?? unit);
          return true;
        case "either":
          setAsked(true);
          return false;
        case "wrong":
          return false;
      }
    },
    choose: (chosen) => say(chosen.value, chosen.unit),
  };
}
