import { useState } from "react";
import type { Assessment } from "../../api/client";
import type { Recorder } from "../record";
import { TracePanel } from "../signals";
import { CompressionEntry } from "./CompressionEntry";

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
      <TracePanel recorder={recorder} inspection={inspection} file={trace} onFile={setTrace} />
    </div>
  );
}
