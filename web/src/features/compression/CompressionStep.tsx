import { lazy, Suspense, useState } from "react";
import { ErrorBoundary } from "react-error-boundary";
import type { Assessment } from "../../api/client";
import type { Recorder } from "../record";
import { CompressionEntry } from "./CompressionEntry";

// It brings a drawing library along, and few engines are judged by a clamp: fetched once the step is open.
const TracePanel = lazy(() => import("../signals").then((module) => ({ default: module.TracePanel })));

interface Props {
  recorder: Recorder;
  assessment: Assessment;
  inspection: string;
  onChoose: (cylinder: number) => void;
}

/** Everything that compression is judged by: the gauge, typed or live, and the cranking trace. */
export function CompressionStep({ recorder, assessment, inspection, onChoose }: Props) {
  const [trace, setTrace] = useState<File | undefined>();
  return (
    <div className="grid gap-4">
      <CompressionEntry recorder={recorder} assessment={assessment} onChoose={onChoose} onTrace={setTrace} />
      <ErrorBoundary fallback={<p className="caption">The cranking trace is not on this device yet.</p>}>
        <Suspense fallback={null}>
          <TracePanel recorder={recorder} inspection={inspection} file={trace} onFile={setTrace} />
        </Suspense>
      </ErrorBoundary>
    </div>
  );
}
