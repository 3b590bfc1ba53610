import { t } from "../../language";
import { lazy, Suspense, useCallback, useEffect, useState } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { useParams } from "react-router";
import type { Assessment } from "../../api/client";
import { Mark } from "../../app/Frame";
import { ThemeSwitch } from "../../app/ThemeSwitch";
import { Trouble } from "../../app/Trouble";
import { usePageTitle } from "../../app/usePageTitle";
import { BottomSheet } from "../../primitives/BottomSheet";
import { Button } from "../../primitives/Button";
import { DraftScope } from "../../primitives/drafts";
import { useWide } from "../../primitives/useWide";
import { useReasons } from "../assessment";
import { worked } from "../bench";
import { SaveState } from "../device";
import { EngineStrip } from "../engine";
import { useAccompanied } from "../guide/accompanied";
import { roundOf, useHand, usePlace, useReaderBack, useReadsBack } from "../hand";
import type { Entries, Recorder } from "../record";
import { useRound } from "../round";
import { SayPanel } from "../narration";
import { mayWrite, useSession } from "../session/useSession";
import { rememberOpen } from "../../storage/kept";
import { BottomBar } from "./BottomBar";
import { Conflicts } from "./Conflicts";
import { StepBody } from "./StepBody";
import { StepTabs } from "./StepTabs";
import { useRecording } from "./useRecording";
import { VerdictPanel } from "./VerdictPanel";

const KeysPage = lazy(() => import("../hand/KeysPage").then((module) => ({ default: module.KeysPage })));
const Accompany = lazy(() => import("../guide/Accompany").then((module) => ({ default: module.Accompany })));
const SAY_NOTHING = () => undefined;
const NONE: Assessment["warnings"] = [];

/** The workbench of the inspection that the address names; another one is another page. */
export function WorkbenchPage() {
  const { id = "" } = useParams();
  return <Workbench key={id} id={id} />;
}

/** The engine as a strip that stays in sight, the round below it, the answer beside it. */
function Workbench({ id }: { id: string }) {
  const { person } = useSession();
  const recording = useRecording(id);
  const { inspection, document } = recording;
  const wide = useWide();
  const [accompanied] = useAccompanied();
  const [showing, show] = useState<"keys" | "verdict" | "say" | undefined>();
  const waiting = recording.entries.some((one) => !one.aside);
  const { assessment, settling } = useReasons(id, inspection?.sequence, inspection?.assessment);
  const cylinders = document?.engine.cylinders ?? 0;
  // Where the address names no cylinder: the one that matters most, else the first of the job.
  const start = inspection?.assessment.engine.most_suspect[0] ?? (document && worked(document)[0]) ?? 1;
  const place = usePlace(`/inspections/${id}`, document, start);
  const { cylinder } = place;
  const round = roundOf(place.part, document);
  const writes = mayWrite(person);
  const disabled = !writes || (inspection?.locked ?? true);
  const [aloud, onAloud] = useReadsBack();
  const reader = useReaderBack(aloud, { document, round, cylinder, warnings: inspection?.assessment.warnings ?? NONE });
  const { said } = reader;
  const { record: keep } = recording;
  const record = useCallback(
    (entries: Entries) => {
      said(entries);
      keep(entries);
    },
    [said, keep],
  );
  const recorderFor = (allowed: boolean): Recorder | undefined =>
    document && {
      document,
      cylinder,
      onRecord: allowed ? record : SAY_NOTHING,
      disabled: !allowed,
      problem: recording.problem,
      measures: person?.measures,
    };
  const recorder = recorderFor(!disabled);
  const after = recorderFor(writes);
  const { turn, press, choose } = place;
  const acting = useRound(recorder, round, { onChoose: choose, onWhole: () => turn(1) });
  const undo = disabled ? undefined : recording.undo;
  const redo = disabled ? undefined : recording.redo;
  const [summons, summon] = useState(0);
  const onSay = () => {
    show("say");
    summon(summons + 1);
  };
  useHand({ acting, cylinders, onChoose: choose, onStep: press, onTurn: turn, onUndo: undo, onRedo: redo, onHelp: () => show("keys"), onSay, onAloud });
  useEffect(() => rememberOpen(id), [id]);
  usePageTitle(`${cylinder} · ${place.part.label} · ${document?.engine.title ?? t("Engine")}`);
  useFocusOnArrival(place.part.id, inspection !== undefined, round?.typed === true ? acting.awaitFigure : undefined);

  if (!inspection || !document || !assessment || !recorder || !after) {
    return (
      <main className="p-6">
        <Mark />
        <p role="status" className="mt-4">
          {recording.error ? recording.error.message : t("Fetching the inspection ...")}
        </p>
      </main>
    );
  }
  const elsewhere = (
    <>
      <Button aria-pressed={aloud} title="," onClick={onAloud} className={aloud ? "border-teal bg-wash" : ""}>
        {t("Aloud")}
      </Button>
      <a
        className="target grid min-h-10 place-items-center rounded-md border border-line px-3"
        href={`/api/inspections/${id}/document`}
        download
      >
        {t("Export")}
      </a>
      <ThemeSwitch />
    </>
  );
  const verdict = (
    <VerdictPanel
      inspection={inspection}
      assessment={assessment}
      settling={settling}
      cylinder={cylinder}
      since={recording.since}
      waiting={waiting}
      onChoose={choose}
      onStart={(part, on) => {
        show(undefined);
        place.go(part, on);
      }}
    />
  );
  return (
    <DraftScope value={`${person?.id} ${id}`}>
      <div className="flex min-h-screen flex-col pb-20 lg:pb-0 print:pb-0">
        <header className="flex items-center gap-x-3 border-b border-line bg-sheet px-2 py-1 lg:px-3 print:hidden">
          <Mark />
          <h1 className="min-w-0 truncate font-bold">{document.engine.title ?? t("Engine")}</h1>
          <span className="caption mr-auto hidden whitespace-nowrap md:inline">
            {document.inspection?.purpose} {document.inspection?.date}
          </span>
          <span className="flex-1 md:hidden" />
          <SaveState />
          <Button onClick={undo} disabled={!undo} title={t("z, or Ctrl and z")}>
            {t("Undo")}
          </Button>
          {redo && (
            <Button onClick={redo} title={t("Shift and z, or Ctrl, Shift and z")}>
              {t("Redo")}
            </Button>
          )}
          <span className="hidden items-center gap-2 lg:flex">
            <Button onClick={onSay} title="/">
              {t("Say it")}
            </Button>
            {elsewhere}
          </span>
          <Button aria-label={t("Keys and more")} onClick={() => show("keys")}>
            ?
          </Button>
        </header>
        <div className="sticky top-0 z-10 bg-paper px-2 py-1.5 lg:px-3 print:hidden">
          <EngineStrip plan={inspection.plan} document={document} assessment={assessment} chosen={cylinder} onChoose={(to) => (acting.settle(), choose(to))} round={round} />
        </div>
        {showing === "say" && (
          <SayPanel
            inspection={id}
            recorder={recorder}
            round={place.step.spoken ?? "faces"}
            kind={place.part.id === "wet" ? "wet" : "dry"}
            cylinder={cylinder}
            summons={summons}
            onChoose={choose}
            onClose={() => show(undefined)}
          />
        )}
        {reader.trouble && (
          <p role="status" className="border-l-4 border-ochre px-2 text-sm print:hidden">
            {reader.trouble}
          </p>
        )}
        <main data-sequence={inspection.sequence} className="flex-1 lg:px-3 lg:pb-3">
          {accompanied && (
            <Suspense fallback={null}>
              <Accompany step={place.step.id} />
            </Suspense>
          )}
          <StepTabs
            place={place}
            document={document}
            aside={
              <div className="grid min-w-0 content-start gap-3 print:hidden">
                <div className="empty:hidden">
                  <Conflicts conflicts={inspection.conflicts} onRecord={recorder.onRecord} onKeep={recording.keepAsIs} disabled={disabled} />
                </div>
                {wide && verdict}
              </div>
            }
          >
            <ErrorBoundary fallback={<Trouble what={t("This step")} />} resetKeys={[place.part.id]}>
              <Suspense fallback={<p className="p-3 text-soft">{t("One moment ...")}</p>}>
                <StepBody
                  key={place.step.id}
                  place={place}
                  round={round}
                  acting={acting}
                  inspection={inspection}
                  assessment={assessment}
                  recorder={recorder}
                  after={after}
                  photos={{ entries: recording.entries, add: recording.addPhotos }}
                  waiting={waiting}
                  onUndo={undo}
                  onRenumber={disabled ? SAY_NOTHING : recording.renumber}
                />
              </Suspense>
            </ErrorBoundary>
          </StepTabs>
        </main>
        <BottomBar acting={acting} assessment={assessment} onVerdict={() => show("verdict")} onSay={onSay} />
        {showing === "verdict" && !wide && (
          <BottomSheet label={t("The verdict and its reasons")} onClose={() => show(undefined)}>
            {verdict}
          </BottomSheet>
        )}
        {showing === "keys" && (
          <ErrorBoundary fallback={null}>
            <Suspense fallback={null}>
              <KeysPage step={place.step.id} round={round} onClose={() => show(undefined)}>
                <div className="flex gap-2 lg:hidden">{elsewhere}</div>
              </KeysPage>
            </Suspense>
          </ErrorBoundary>
        )}
      </div>
    </DraftScope>
  );
}

/** Where a step is gone to, the keyboard goes along: into its number, where that is the answer, else into the step. */
function useFocusOnArrival(part: string, ready: boolean, intoNumber: (() => void) | undefined): void {
  useEffect(() => {
    if (!ready) return;
    const held = window.document.activeElement;
    // Who walks along the tabs stays on them; who says something goes on saying it.
    if (held instanceof HTMLElement && held.closest("[role=tablist], dialog, [data-keeps-focus]")) return;
    if (intoNumber) return intoNumber();
    const panels = window.document.querySelectorAll<HTMLElement>("main [role=tabpanel]");
    panels[panels.length - 1]?.focus({ preventScroll: true });
    // On arrival alone: what is asked there changes as it is answered.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [part, ready]);
}
