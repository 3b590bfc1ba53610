import type { Assessment } from "../../api/client";
import { Schools } from "../assessment";
import { FieldGroups, type Recorder } from "../record";
import { Escapes } from "./Escapes";
import { INSIDE, LEAKDOWN } from "./findings";

interface Props {
  recorder: Recorder;
  assessment: Assessment;
}

/** What the borescope and the air tell of one cylinder. */
export function InsideEntry({ recorder, assessment }: Props) {
  const read = recorder.document.tests?.leakdown?.some((test) => test.readings?.length);
  return (
    <div className="grid gap-x-6 xl:grid-cols-2">
      <div className="min-w-0">
        <Escapes recorder={recorder} />
        <FieldGroups columns={[LEAKDOWN]} recorder={recorder} />
        {read && <Schools rules={assessment.leakdown.rules} label="Leak-down schools" />}
      </div>
      <FieldGroups columns={[INSIDE]} recorder={recorder} />
    </div>
  );
}
