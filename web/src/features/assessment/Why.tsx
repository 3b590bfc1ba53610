import type { Assessment } from "../../api/client";
import { Reasons } from "./Reasons";
import { SharedReasons, sharedIsLikelier } from "./SharedReasons";
import { Warnings } from "./Warnings";

interface Props {
  assessment: Assessment;
  cylinder: number;
  /** Whether reasons are still of an earlier record. */
  settling: boolean;
}

/** What speaks for and against, first where it is likelier: of the cylinder in hand, or of what cylinders share. */
export function Why({ assessment, cylinder, settling }: Props) {
  const own = assessment.cylinders.find((one) => one.number === cylinder);
  const sharedFirst = sharedIsLikelier(assessment, own);
  return (
    <aside className="grid min-w-0 content-start gap-3">
      {sharedFirst && <SharedReasons assessment={assessment} />}
      {own && <Reasons cylinder={own} settling={settling} />}
      {!sharedFirst && <SharedReasons assessment={assessment} />}
      <Warnings warnings={assessment.warnings} />
    </aside>
  );
}
