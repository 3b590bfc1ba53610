import { useState } from "react";

export interface Quantity<U extends string = string> {
  value: number;
  unit: U;
}

export interface QuantityEntryState<U extends string> {
  text: string;
  unit: U;
  error: string | undefined;
  type: (text: string) => void;
  setUnit: (unit: U) => void;
  commit: () => void;
}

/** A number as typed, comma or point; undefined where it is none. */
export function readNumber(text: string): number | undefined {
  const trimmed = text.trim().replace(",", ".");
  if (!/^\d*\.?\d+$|^\d+\.$/.test(trimmed)) return undefined;
  return Number(trimmed);
}

/**
 * Keeps exactly what was typed until it is committed, the value once it is usable, and the error.
 * Leaving the field empty takes the quantity back.
 */
export function useQuantityEntry<U extends string>(
  value: Quantity<U> | undefined,
  fallback: U,
  onChange: (value: Quantity<U> | undefined) => void,
): QuantityEntryState<U> {
  const [draft, setDraft] = useState<string | undefined>();
  const [chosen, setChosen] = useState<U | undefined>();
  const unit = value?.unit ?? chosen ?? fallback;
  const text = draft ?? (value ? String(value.value) : "");
  const number = readNumber(text);
  const unusable = draft !== undefined && draft.trim() !== "" && number === undefined;
  return {
    text,
    unit,
    error: unusable ? "Not a number: digits, with a point or a comma." : undefined,
    type: setDraft,
    setUnit: (next) => {
      setChosen(next);
      if (value && number !== undefined) onChange({ value: number, unit: next });
    },
    commit: () => {
      if (draft === undefined || unusable) return;
      setDraft(undefined);
      if (draft.trim() === "") {
        if (value) onChange(undefined);
      } else if (number !== undefined && number !== value?.value) {
        onChange({ value: number, unit });
      }
    },
  };
}
