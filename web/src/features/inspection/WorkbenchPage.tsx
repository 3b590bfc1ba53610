import { Tabs } from "radix-ui";
import { lazy, startTransition, Suspense, useCallback, useState } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { useParams } from "react-router";
import { Mark } from "../../app/Frame";
import { ThemeSwitch } from "../../app/ThemeSwitch";
import { Trouble } from "../../app/Trouble";
import { Button } from "../../primitives/Button";
import { DraftScope } from "../../primitives/drafts";
import { Reasons, SharedReasons, sharedIsLikelier, useReasons, VerdictCard, Warnings } from "../assessment";
import { CompressionStep } from "../compression";
import { EnginePlan, Numbering } from "../engine";
import { PlugEntry } from "../plug";
import type { Recorder } from "../record";
import { mayWrite, useSession } from "../session/useSession";
import { Conflicts } from "./Conflicts";
import { Sheet } from "./Sheet";
import { SaveState } from "../device";
import { useCylinderKeys } from "./useCylinderKeys";
import { useRecording } from "./useRecording";
import { VerdictAge } from "./VerdictAge";

// In the order in which the job is worked.
const STEPS = [
  ["history", "History"],
  ["plan", "Plan"],
  ["running", "Listen"],
  ["plugs", "Plugs"],
  ["compression", "Compression"],
  ["inside", "Leak-down"],
  ["board", "Compare"],
  ["refit", "Refit"],
  ["prove", "Prove"],
  ["over", "Hand over"],
] as const;
// Where each test is recorded; all others are tried with the engine running.
const STEP_OF: Record<string, (typeof STEPS)[number][0]> = {
  compression: "compression",
  "wet-compression": "compression",
  leakdown: "inside",
  borescope: "inside",
  plug: "plugs",
  well: "plugs",
  seating: "plugs",
};
// What an engine is read by is there at once; the rest is fetched when it is opened, or from the device.
const history = () => import("../history");
const HistoryEntry = lazy(() => history().then((module) => ({ default: module.HistoryEntry })));
const Earlier = lazy(() => history().then((module) => ({ default: module.Earlier })));
const OverTime = lazy(() => history().then((module) => ({ default: module.OverTime })));
const PlanEntry = lazy(() => import("../plan").then((module) => ({ default: module.PlanEntry })));
const RunningEntry = lazy(() => import("../running").then((module) => ({ default: module.RunningEntry })));
const InsideEntry = lazy(() => import("../inside").then((module) => ({ default: module.InsideEntry })));
const Board = lazy(() => import("../board").then((module) => ({ default: module.Board })));
const RefitEntry = lazy(() => import("../refit").then((module) => ({ default: module.RefitEntry })));
const ProveEntry = lazy(() => import("../prove").then((module) => ({ default: module.ProveEntry })));
const HandOver = lazy(() => import("../handover").then((module) => ({ default: module.HandOver })));
const TAB =
  "target min-h-10 whitespace-nowrap border-b-3 border-transparent px-2.5 font-medium text-soft data-[state=active]:border-teal data-[state=active]:text-ink";

// Two columns on a desk; on a phone they dissolve, and the verdict comes right after the plan.
const COLUMN = "contents lg:grid lg:min-w-0 lg:content-start lg:gap-3";

/** The workbench: the engine's plan on top, what is being recorded below, the answer beside it. */
export function WorkbenchPage() {
  const { id = "" } = useParams();
  const { person } = useSession();
  const recording = useRecording(id);
  const photos = { entries: recording.entries, add: recording.addPhotos };
  const [chosen, setChosen] = useState<number | undefined>();
  const [step, setStep] = useState<string>("plugs");
  // The step stays as it is until the next one has been fetched.
  const go = (next: string) => startTransition(() => setStep(next));
  const { inspection, document } = recording;
  const waiting = recording.entries.some((one) => !one.aside);
  const { assessment, settling } = useReasons(id, inspection?.sequence, inspection?.assessment);
  const cylinders = document?.engine.cylinders ?? 0;
  const suspect = inspection?.assessment.engine.most_suspect[0];
  const cylinder = chosen ?? suspect ?? 1;
  const choose = useCallback((number: number) => setChosen(number), []);
  useCylinderKeys(cylinders, choose, recording.undo);

  if (!inspection || !document || !assessment) {
    return (
      <main className="p-6">
        <Mark />
        <p role="status" className="mt-4">
          {recording.error ? recording.error.message : "Fetching the inspection ..."}
        </p>
      </main>
    );
  }
  const own = assessment.cylinders.find((one) => one.number === cylinder);
  const sharedFirst = sharedIsLikelier(assessment, own);
  const writes = mayWrite(person);
  const disabled = !writes || inspection.locked;
  const start = (test: string, on: number | undefined) => {
    go(STEP_OF[test] ?? "running");
    if (on !== undefined) choose(on);
  };
  const recorder: Recorder = {
    document,
    cylinder,
    onRecord: recording.record,
    disabled,
    problem: recording.problem,
  };
  return (
    <DraftScope value={`${person?.id} ${id}`}>
    <div className="flex min-h-screen flex-col">
      <header className="print:hidden flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-sheet px-3 py-1.5">
        <Mark />
        <h1 className="min-w-0 truncate font-bold">{document.engine.title ?? "Engine"}</h1>
        <span className="caption hidden md:inline">
          {document.inspection?.purpose} {document.inspection?.date}
        </span>
        <span className="ml-auto flex items-center gap-2">
          <SaveState />
          <Button onClick={recording.undo} disabled={!recording.canUndo || disabled} title="Ctrl-Z">
            Undo
          </Button>
          <a
            className="target grid min-h-10 place-items-center rounded-md border border-line px-3"
            href={`/api/inspections/${id}/document`}
            download
          >
            Export
          </a>
          <ThemeSwitch />
        </span>
      </header>
      <main data-sequence={inspection.sequence} className="grid flex-1 content-start gap-3 p-3 lg:grid-cols-[1fr_370px]">
        <div className={COLUMN}>
          <div className="order-1 min-w-0">
            <EnginePlan
              plan={inspection.plan}
              document={document}
              assessment={assessment}
              chosen={cylinder}
              onChoose={choose}
            />
          </div>
          <Tabs.Root value={step} onValueChange={go} className="sheet order-3 min-w-0">
            <Tabs.List className="print:hidden flex gap-1 overflow-x-auto border-b border-line px-2" aria-label="What to record">
              {STEPS.map(([value, label]) => (
                <Tabs.Trigger key={value} value={value} className={TAB}>
                  {label}
                </Tabs.Trigger>
              ))}
              <span className="caption ml-auto hidden self-center whitespace-nowrap 2xl:inline">cylinder {cylinder}</span>
            </Tabs.List>
            <ErrorBoundary fallback={<Trouble what="This step" />} resetKeys={[step]}>
              <Suspense fallback={<p className="p-3 text-soft">One moment ...</p>}>
                <Tabs.Content value="history" className="p-3">
                  <HistoryEntry recorder={recorder} />
                  <Earlier engine={inspection.engine} inspection={id} />
                  <OverTime engine={inspection.engine} />
                  <Numbering
                    plan={inspection.plan}
                    radial={document.engine.layout === "radial"}
                    onRenumber={recording.renumber}
                    disabled={disabled}
                  />
                </Tabs.Content>
                <Tabs.Content value="plan" className="p-3">
                  <Sheet of="work-order" inspection={inspection}>
                    {(order) => <PlanEntry recorder={recorder} order={order} plan={inspection.plan} photos={photos} />}
                  </Sheet>
                </Tabs.Content>
                <Tabs.Content value="running" className="p-3">
                  <RunningEntry recorder={recorder} />
                </Tabs.Content>
                <Tabs.Content value="plugs" className="p-3">
                  <PlugEntry recorder={recorder} onChoose={choose} photos={photos} />
                </Tabs.Content>
                <Tabs.Content value="compression" className="p-3">
                  <CompressionStep recorder={recorder} assessment={assessment} inspection={id} onChoose={choose} />
                </Tabs.Content>
                <Tabs.Content value="inside" className="p-3">
                  <InsideEntry recorder={recorder} assessment={assessment} />
                </Tabs.Content>
                <Tabs.Content value="board" className="p-3">
                  <Sheet of="board" inspection={inspection}>
                    {(board) => <Board board={board} document={document} chosen={cylinder} onChoose={choose} />}
                  </Sheet>
                </Tabs.Content>
                <Tabs.Content value="refit" className="p-3">
                  <Sheet of="refit" inspection={inspection}>
                    {(sheet) => <RefitEntry recorder={recorder} sheet={sheet} assessment={assessment} onChoose={choose} />}
                  </Sheet>
                </Tabs.Content>
                <Tabs.Content value="prove" className="p-3">
                  <Sheet of="refit" inspection={inspection}>
                    {(sheet) => <ProveEntry recorder={recorder} writes={writes} sheet={sheet} assessment={assessment} />}
                  </Sheet>
                </Tabs.Content>
                <Tabs.Content value="over" className="p-3">
                  <HandOver
                    recorder={recorder}
                    writes={writes}
                    assessment={assessment}
                    inspection={id}
                    waiting={waiting}
                  />
                </Tabs.Content>
              </Suspense>
            </ErrorBoundary>
          </Tabs.Root>
        </div>
        <div className={`${COLUMN} print:hidden`}>
          <div className="order-2 grid gap-2">
            {assessment.rules_version !== "" && <VerdictAge since={recording.since} waiting={waiting} />}
            {inspection.locked && (
              <p className="border-l-4 border-teal pl-2 text-sm">
                Signed off: the record is locked. An amendment is opened under Hand over.
              </p>
            )}
            <VerdictCard assessment={assessment} settling={settling} onChoose={choose} onStart={start} />
          </div>
          <div className="order-2 empty:hidden">
            <Conflicts
              conflicts={inspection.conflicts}
              onRecord={recording.record}
              onKeep={recording.keepAsIs}
              disabled={disabled}
            />
          </div>
          <aside className="order-4 grid min-w-0 content-start gap-3">
            {sharedFirst && <SharedReasons assessment={assessment} />}
            {own && <Reasons cylinder={own} settling={settling} />}
            {!sharedFirst && <SharedReasons assessment={assessment} />}
            <Warnings warnings={assessment.warnings} />
          </aside>
        </div>
      </main>
    </div>
    </DraftScope>
  );
}
