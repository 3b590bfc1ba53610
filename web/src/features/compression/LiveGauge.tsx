import { t } from "../../language";
import { Button } from "../../primitives/Button";
import { LivePanel, useInstrument, type Capture } from "../instruments";
import type { Entries } from "../record";
import { GaugeCapture } from "./GaugeCapture";

interface Props {
  cylinder: number;
  base: string;
  /** How many strokes the others of this test had; undefined before the first. */
  usual: number | undefined;
  /** The pressure that fills the drawing. */
  most: number;
  disabled: boolean;
  /** A cranking trace captured from a clamp. */
  onTrace: (trace: File) => void;
  onKeep: (entries: Entries, cylinder: number) => void;
}

/** A gauge or a clamp on this machine, read while the engine is cranked. */
export function LiveGauge({ cylinder, base, usual, most, disabled, onTrace, onKeep }: Props) {
  const live = useInstrument();
  return (
    <LivePanel
      live={live}
      begin={{
        gauge: t("Crank cylinder {{cylinder}}", { cylinder }),
        "current-clamp": t("Capture while it is cranked, plugs in"),
      }}
      cylinder={cylinder}
      disabled={disabled}
    >
      {live.capture && live.instrument?.kind === "gauge" && (
        <GaugeCapture
          capture={live.capture}
          instrument={live.instrument.title}
          base={base}
          usual={usual}
          most={most}
          disabled={disabled}
          onKeep={(entries, kept) => {
            onKeep(entries, kept);
            live.forget();
          }}
        />
      )}
      {live.capture && live.instrument?.kind === "current-clamp" && <ClampCapture capture={live.capture} onTrace={onTrace} />}
    </LivePanel>
  );
}

/** A clamp's samples, handed on as the file that the trace panel reads. */
function ClampCapture({ capture, onTrace }: { capture: Capture; onTrace: (trace: File) => void }) {
  const read = () => {
    const rows = capture.samples.map((pair) => pair.join(","));
    onTrace(new File([["time [s],current [A]", ...rows].join("\n")], "live clamp.csv", { type: "text/csv" }));
  };
  return (
    <div className="grid gap-1.5">
      <p className="text-sm" role="status">
        {t("{{samples}} s captured", { samples: (capture.samples.at(-1)?.[0] ?? 0).toFixed(1) })}{capture.running && " ..."}
      </p>
      <Button disabled={capture.running || capture.samples.length === 0} onClick={read}>
        {t("Read this trace")}
      </Button>
    </div>
  );
}
