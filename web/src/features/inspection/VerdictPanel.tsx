import type { Assessment, Inspection } from "../../api/client";
import { Reasons, SharedReasons, sharedIsLikelier, VerdictCard, Warnings } from "../assessment";
import { VerdictAge } from "./VerdictAge";

// Where each test is recorded; all others are tried with the engine running.
const PART_OF: Record<string, string> = {
  compression: "dry",
  "wet-compression": "wet",
  leakdown: "leak-down",
  borescope: "inside",
  plug: "faces",
  well: "wells",
  seating: "loosening",
  spark: "spark",
  injector: "injector",
  balance: "cut-out",
  reread: "reread",
  "port-look": "port-look",
};

interface Props {
  inspection: Inspection;
  assessment: Assessment;
  settling: boolean;
  cylinder: number;
  since: number | undefined;
  waiting: boolean;
  onChoose: (cylinder: number) => void;
  /** Go to where a test is recorded. */
  onStart: (part: string, cylinder: number | undefined) => void;
}

/** The answer, and why: beside the round on a desk, pulled up from the bar on a phone. */
export function VerdictPanel({ inspection, assessment, settling, cylinder, since, waiting, onChoose, onStart }: Props) {
  const own = assessment.cylinders.find((one) => one.number === cylinder);
  const sharedFirst = sharedIsLikelier(assessment, own);
  return (
    <>
      {assessment.rules_version !== "" && <VerdictAge since={since} waiting={waiting} />}
      {inspection.locked && (
        <p className="border-l-4 border-teal pl-2 text-sm">
          Signed off: the record is locked. An amendment is opened under Hand over.
        </p>
      )}
      <VerdictCard assessment={assessment} settling={settling} onChoose={onChoose} onStart={(test, on) => onStart(PART_OF[test] ?? "swap", on)} />
      <aside className="grid min-w-0 content-start gap-3">
        {sharedFirst && <SharedReasons assessment={assessment} />}
        {own && <Reasons cylinder={own} settling={settling} />}
        {!sharedFirst && <SharedReasons assessment={assessment} />}
        <Warnings warnings={assessment.warnings} />
      </aside>
    </>
  );
}
