import { t } from "../../language";
import { LineEntry } from "../../primitives/LineEntry";
import { doubt, usable, writeNumber } from "../../primitives/number";
import type { Pressure, PressureUnit } from "./useCompressionTest";

interface Props {
  cylinder: number;
  unit: PressureUnit;
  value: readonly Pressure[];
  onChange: (value: readonly Pressure[] | undefined) => void;
  disabled: boolean;
  error: string | undefined;
}

function figures(text: string): string[] {
  return text.split(/[\s;]+/).filter(Boolean);
}

/** What the gauge showed after each stroke, typed one after the other; one alone is the first puff. */
export function Strokes({ cylinder, unit, value, onChange, disabled, error }: Props) {
  const commit = (text: string) => {
    const strokes = figures(text).map((figure) => ({ value: usable(figure) ?? 0, unit }));
    onChange(strokes.length ? strokes : undefined);
  };
  return (
    <LineEntry
      label={t("Strokes of cylinder {{cylinder}} in {{unit}}; the first puff alone will do", { cylinder, unit: value[0]?.unit ?? unit })}
      inputMode="text"
      name={`strokes ${cylinder}`}
      value={value.map((one) => writeNumber(one.value)).join(" ")}
      check={(text) => figures(text).map(doubt).find(Boolean)}
      onCommit={commit}
      disabled={disabled}
      error={error}
    />
  );
}
