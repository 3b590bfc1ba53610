import { t } from "../../language";
import { lazy, Suspense } from "react";
import { ErrorBoundary } from "react-error-boundary";
import type { Assessment, Inspection } from "../../api/client";
import { VerdictCard } from "../assessment";
import { VerdictAge } from "./VerdictAge";

// They are weighed once recording pauses, and fetched beside the first of it.
const Why = lazy(() => import("../assessment/Why").then((module) => ({ default: module.Why })));

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
  "renew-plugs": "fit",
  listen: "listen",
  "set-gap": "gaps",
  points: "distributor",
  timing: "distributor",
  "fuel-supply": "repairs",
  "air-leak": "repairs",
  piece: "plan",
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
  return (
    <>
      {assessment.rules_version !== "" && <VerdictAge since={since} waiting={waiting} />}
      {inspection.locked && (
        <p className="border-l-4 border-teal pl-2 text-sm">
          {t("Signed off: the record is locked. An amendment is opened under Hand over.")}
        </p>
      )}
      <VerdictCard assessment={assessment} settling={settling} onChoose={onChoose} onStart={(test, on) => onStart(PART_OF[test] ?? "swap", on)} />
      <ErrorBoundary fallback={<p className="caption">{t("The reasons are not on this device yet.")}</p>}>
        <Suspense fallback={null}>
          <Why assessment={assessment} cylinder={cylinder} settling={settling} />
        </Suspense>
      </ErrorBoundary>
    </>
  );
}
