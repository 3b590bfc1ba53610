import type { Assessment } from "../../api/client";
import { Reasons } from "./Reasons";
import { SharedReasons, sharedComesFirst } from "./SharedReasons";
import { Warnings } from "./Warnings";

interface Props {
  assessment: Assessment;
  cylinder: number;
  /** Whether reasons are still of an earlier record. */
  settling: boolean;
}

/** What speaks for and against, first what is told first: of the cylinder in hand, or of what cylinders share. */
export function Why({ assessment, cylinder, settling }: Props) {
  const own = assessment.cylinders.find((one) => one.number === cylinder);
  const sharedFirst = sharedComesFirst(assessment, cylinder);
  return (
    <aside className="grid min-w-0 content-start gap-3">
      {sharedFirst && <SharedReasons assessment={assessment} />}
      {own && <Reasons cylinder={own} claims={assessment.engine.claims} settling={settling} />}
      {!sharedFirst && <SharedReasons assessment={assessment} />}
      <Warnings warnings={assessment.warnings} />
    </aside>
  );
}
