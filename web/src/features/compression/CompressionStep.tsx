import { t } from "../../language";
import { lazy, Suspense, useState } from "react";
import { ErrorBoundary } from "react-error-boundary";
import type { Assessment } from "../../api/client";
import type { Recorder } from "../record";
import type { Acting, Round } from "../round";
import { CompressionEntry } from "./CompressionEntry";

// It brings a drawing library along, and few engines are judged by a clamp: fetched once its part is open.
const TracePanel = lazy(() => import("../signals").then((module) => ({ default: module.TracePanel })));

interface Props {
  part: string;
  recorder: Recorder;
  assessment: Assessment;
  inspection: string;
  round: Round | undefined;
  acting: Acting;
  onChoose: (cylinder: number) => void;
  onPart: (part: string) => void;
  onUndo: (() => void) | undefined;
}

/** Everything that compression is judged by: the gauge, typed or live, and the cranking current. */
export function CompressionStep({ part, recorder, assessment, inspection, round, acting, onChoose, onPart, onUndo }: Props) {
  const [trace, setTrace] = useState<File | undefined>();
  if (part === "cranking") {
    return (
      <ErrorBoundary fallback={<p className="caption">{t("The cranking trace is not on this device yet.")}</p>}>
        <Suspense fallback={null}>
          <TracePanel recorder={recorder} inspection={inspection} file={trace} onFile={setTrace} />
        </Suspense>
      </ErrorBoundary>
    );
  }
  return (
    round && (
      <CompressionEntry
        key={part}
        recorder={recorder}
        assessment={assessment}
        onChoose={onChoose}
        onTrace={(captured) => {
          setTrace(captured);
          onPart("cranking");
        }}
        kind={part === "wet" ? "wet" : "dry"}
        round={round}
        acting={acting}
        onUndo={onUndo}
      />
    )
  );
}
