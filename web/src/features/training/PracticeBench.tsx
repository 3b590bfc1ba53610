import { t } from "../../language";
import { lazy, Suspense, useMemo, useState, type ReactNode } from "react";
import { EngineStrip } from "../engine";
import { roundOf, someOf, useHand, usePlace } from "../hand";
import { StepBody } from "../inspection/StepBody";
import { StepTabs } from "../inspection/StepTabs";
import { notWeighed } from "../inspection/unweighed";
import { useRound } from "../round";
import type { Recorder } from "../record";
import type { Round } from "./CasePage";
import { Shown } from "./Shown";
import { useWriting } from "./useWriting";

const KeysPage = lazy(() => import("../hand/KeysPage").then((module) => ({ default: module.KeysPage })));
const NOTHING = () => undefined;
const NO_PHOTOS = { entries: [], add: NOTHING };
/** What an instrument of a practice engine answers is written down there. */
const STEPS = someOf({
  running: ["cut-out", "spark"],
  wells: [],
  loosening: [],
  faces: [],
  electrodes: [],
  compression: ["dry", "wet"],
  "leak-down": [],
  inside: [],
});

interface Props {
  round: Round;
  onKept: (round: Round) => void;
  /** What stands beside the bench. */
  children: ReactNode;
}

/** The workbench of a round: the same steps, keys and drawings, and nothing that weighs. */
export function PracticeBench({ round, onKept, children }: Props) {
  const { document, write, undo, problem, waiting } = useWriting(round, onKept);
  const [keys, showKeys] = useState(false);
  const place = usePlace(`/training/rounds/${round.id}`, document, 1, STEPS);
  const { cylinder, choose, turn, press } = place;
  const asked = roundOf(place.part, document);
  const recorder: Recorder = { document, cylinder, onRecord: write, disabled: false, problem, practice: true };
  const acting = useRound(recorder, asked, { onChoose: choose, onWhole: () => turn(1) });
  useHand({
    acting,
    cylinders: document.engine.cylinders,
    onChoose: choose,
    onStep: press,
    onTurn: turn,
    onUndo: undo,
    onRedo: undefined,
    onHelp: () => showKeys(true),
    onSay: NOTHING,
    onAloud: NOTHING,
  });
  const inspection = useMemo(
    () => notWeighed({ inspection: round.id, engine: round.id, document, plan: round.plan }, t("Nothing is weighed for you here.")),
    [round.id, round.plan, document],
  );
  const { assessment } = inspection;
  return (
    <>
      <Shown document={round.shown} chosen={cylinder} />
      <section aria-label={t("Your record")} className="grid grid-cols-[minmax(0,1fr)] gap-2">
        <h2 className="font-bold">
          {t("Your record")} <span className="caption">{waiting ? t("on its way ...") : t("write down what you see; nobody does it for you")}</span>
        </h2>
        <EngineStrip plan={round.plan} document={document} assessment={assessment} chosen={cylinder} onChoose={choose} round={asked} />
        <StepTabs place={place} document={document} aside={<div className="grid min-w-0 content-start gap-3">{children}</div>}>
          <Suspense fallback={<p className="p-3 text-soft">{t("One moment ...")}</p>}>
            <StepBody
              key={place.step.id}
              place={place}
              round={asked}
              acting={acting}
              inspection={inspection}
              assessment={assessment}
              recorder={recorder}
              after={recorder}
              photos={NO_PHOTOS}
              waiting={waiting}
              onUndo={undo}
              onRenumber={NOTHING}
            />
          </Suspense>
        </StepTabs>
        {keys && (
          <Suspense fallback={null}>
            <KeysPage step={place.step.id} round={asked} onClose={() => showKeys(false)} />
          </Suspense>
        )}
      </section>
    </>
  );
}
