import { lazy } from "react";
import type { Assessment, Inspection } from "../../api/client";
import { CompressionStep } from "../compression";
import type { Place } from "../hand";
import type { Photos } from "../photos";
import { PlugEntry } from "../plug";
import type { Entries, Recorder } from "../record";
import type { Acting, Round } from "../round";
import { Sheet } from "./Sheet";

// What an engine is read by is there at once; the rest is fetched when it is opened, or from the device.
const story = () => import("../history");
const StoryEntry = lazy(() => story().then((module) => ({ default: module.StoryEntry })));
const EngineEntry = lazy(() => story().then((module) => ({ default: module.EngineEntry })));
const Carried = lazy(() => story().then((module) => ({ default: module.Carried })));
const Earlier = lazy(() => story().then((module) => ({ default: module.Earlier })));
const Again = lazy(() => story().then((module) => ({ default: module.Again })));
const OverTime = lazy(() => story().then((module) => ({ default: module.OverTime })));
const PlanEntry = lazy(() => import("../plan").then((module) => ({ default: module.PlanEntry })));
const RunningEntry = lazy(() => import("../running").then((module) => ({ default: module.RunningEntry })));
const LeakdownEntry = lazy(() => import("../inside").then((module) => ({ default: module.LeakdownEntry })));
const InsideEntry = lazy(() => import("../inside").then((module) => ({ default: module.InsideEntry })));
const Board = lazy(() => import("../board").then((module) => ({ default: module.Board })));
const RefitEntry = lazy(() => import("../refit").then((module) => ({ default: module.RefitEntry })));
const ProveEntry = lazy(() => import("../prove").then((module) => ({ default: module.ProveEntry })));
const HandOver = lazy(() => import("../handover").then((module) => ({ default: module.HandOver })));

interface Props {
  place: Place;
  round: Round | undefined;
  acting: Acting;
  inspection: Inspection;
  assessment: Assessment;
  recorder: Recorder;
  /** The same for what is recorded after signing off too. */
  after: Recorder;
  photos: Photos;
  /** Whether anything recorded here is still on its way. */
  waiting: boolean;
  onUndo: (() => void) | undefined;
  onRenumber: (order: readonly number[], alongside: Entries) => void;
}

/** The part of the job that is open. */
export function StepBody({ place, round, acting, inspection, assessment, recorder, after, photos, waiting, onUndo, onRenumber }: Props) {
  const { document, cylinder } = recorder;
  const part = place.part.id;
  const { choose } = place;
  switch (place.step.id) {
    case "story":
      if (part === "earlier")
        return (
          <>
            <Carried inspection={inspection.id} sequence={inspection.sequence} recorder={recorder} />
            <Earlier engine={inspection.engine} inspection={inspection.id} />
            <OverTime engine={inspection.engine} />
            {!after.disabled && <Again recorder={recorder} inspection={inspection} />}
          </>
        );
      if (part === "engine") return <EngineEntry recorder={recorder} plan={inspection.plan} onRenumber={onRenumber} />;
      return (
        <>
          {part === "job" && <Carried inspection={inspection.id} sequence={inspection.sequence} recorder={recorder} />}
          <StoryEntry part={part} recorder={recorder} photos={photos} />
        </>
      );
    case "plan":
      return (
        <Sheet of="work-order" inspection={inspection}>
          {(order) => <PlanEntry recorder={recorder} order={order} plan={inspection.plan} photos={photos} />}
        </Sheet>
      );
    case "running":
      return <RunningEntry part={part} recorder={recorder} round={round} acting={acting} onUndo={onUndo} />;
    case "compression":
      return (
        <CompressionStep
          part={part}
          recorder={recorder}
          assessment={assessment}
          inspection={inspection.id}
          round={round}
          acting={acting}
          onChoose={choose}
          onPart={place.go}
          onUndo={onUndo}
        />
      );
    case "leak-down":
      return round && <LeakdownEntry recorder={recorder} assessment={assessment} round={round} acting={acting} onUndo={onUndo} />;
    case "inside":
      return round && <InsideEntry recorder={recorder} round={round} acting={acting} onUndo={onUndo} />;
    case "compare":
      return (
        <Sheet of="board" inspection={inspection}>
          {(board) => <Board board={board} document={document} chosen={cylinder} onChoose={choose} />}
        </Sheet>
      );
    case "refit":
      return (
        <Sheet of="refit" inspection={inspection}>
          {(sheet) => (
            <RefitEntry
              part={part}
              recorder={recorder}
              sheet={sheet}
              assessment={assessment}
              round={round}
              acting={acting}
              onUndo={onUndo}
              onChoose={choose}
            />
          )}
        </Sheet>
      );
    case "prove":
      return (
        <Sheet of="refit" inspection={inspection}>
          {(sheet) => (
            <ProveEntry
              part={part}
              recorder={recorder}
              after={after}
              sheet={sheet}
              assessment={assessment}
              round={round}
              acting={acting}
              onUndo={onUndo}
            />
          )}
        </Sheet>
      );
    case "hand-over":
      return <HandOver recorder={recorder} writes={!after.disabled} assessment={assessment} inspection={inspection} waiting={waiting} />;
    default:
      return round && <PlugEntry recorder={recorder} round={round} acting={acting} photos={photos} onUndo={onUndo} />;
  }
}
