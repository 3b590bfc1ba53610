import { LineEntry } from "../../primitives/LineEntry";
import { readNumber } from "../../primitives/useQuantityEntry";
import type { Pressure, PressureUnit } from "./useCompressionTest";

interface Props {
  cylinder: number;
  unit: PressureUnit;
  value: readonly Pressure[];
  onChange: (value: readonly Pressure[] | undefined) => void;
  disabled: boolean;
  error: string | undefined;
}

/** What the gauge showed after each stroke, typed one after the other; one alone is the first puff. */
export function Strokes({ cylinder, unit, value, onChange, disabled, error }: Props) {
  const commit = (text: string) => {
    const figures = text.split(/[\s;]+/).filter(Boolean);
    const strokes = figures.map((figure) => ({ value: readNumber(figure) ?? figure, unit }));
    onChange(strokes.length ? (strokes as Pressure[]) : undefined);
  };
  return (
    <LineEntry
      label={`Strokes of cylinder ${cylinder} in ${value[0]?.unit ?? unit}; the first puff alone will do`}
      inputMode="text"
      value={value.map((one) => one.value).join(" ")}
      onCommit={commit}
      disabled={disabled}
      error={error}
    />
  );
}
