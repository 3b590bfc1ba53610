import { t } from "../../language";
import { Button } from "../../primitives/Button";
import type { Capture } from "../instruments";
import type { Entries } from "../record";
import { drawnPsi } from "./useCompressionTest";

interface Props {
  capture: Capture;
  instrument: string;
  base: string;
  /** How many strokes the others of this test had; undefined before the first. */
  usual: number | undefined;
  /** The pressure that fills the drawing. */
  most: number;
  disabled: boolean;
  onKeep: (entries: Entries, cylinder: number) => void;
}

/** What the gauge says stroke by stroke, watched for its count, kept by a person. */
export function GaugeCapture({ capture, instrument, base, usual, most, disabled, onKeep }: Props) {
  const { strokes, cylinder, running } = capture;
  const final = strokes.at(-1);
  const uneven = !running && usual !== undefined && strokes.length !== usual;
  const reading = `${base}/readings/${cylinder}`;
  const keep = () =>
    onKeep(
      [
        [`${reading}/pressure`, final],
        [`${reading}/strokes`, strokes],
        [`${reading}/instrument`, instrument],
      ],
      cylinder,
    );
  return (
    <div className="grid gap-1.5">
      <ol
        aria-label={t("Strokes of cylinder {{cylinder}}", { cylinder })}
        className="flex h-28 items-end gap-1 border-b border-line"
      >
        {strokes.map((pressure, index) => (
          <li key={index} className="flex h-full w-11 flex-col justify-end text-center">
            <span className="caption">{pressure.value}</span>
            <i
              className="block bg-teal"
              style={{ height: `${Math.min(drawnPsi(pressure) / most, 1) * 80}%` }}
            />
          </li>
        ))}
      </ol>
      <p className="text-sm" role="status" aria-live="polite">
        {t("Cylinder {{cylinder}}: {{count}}  {{part}}", { cylinder, count: strokes.length, part: strokes.length === 1 ? t("stroke") : t("strokes") })}
        {final && `, ${final.value} ${final.unit}`}
        {running && " ..."}
      </p>
      {uneven && (
        <p className="border-l-4 border-ochre pl-2 text-sm">
          {t("The others had {{usual}} strokes. Fewer read lower: crank the same number for each.", { usual })}
        </p>
      )}
      <Button disabled={disabled || running || !final} onClick={keep}>
        {t("Keep for cylinder {{cylinder}}", { cylinder })}
      </Button>
    </div>
  );
}
