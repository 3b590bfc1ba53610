import { t, wordSaid } from "../../language";
import type { Assessment } from "../../api/client";
import { inWorkOrder } from "../bench";
import type { Recorder } from "../record";
import { Arrival } from "./Arrival";
import type { Fitting, Sheet } from "./fields";
import { Fit } from "./Fit";
import { Gaps } from "./Gaps";
import { Points } from "./Points";
import type { Acting, Round } from "../round";
import { Premix } from "./Premix";
import { Repairs } from "./Repairs";

interface Props {
  part: string;
  recorder: Recorder;
  sheet: Sheet;
  assessment: Assessment;
  round: Round | undefined;
  acting: Acting;
  onUndo: (() => void) | undefined;
  onChoose: (cylinder: number) => void;
}

/** The way back, from the parts box to a closed list, a page at a time. */
export function RefitEntry({ part, recorder, sheet, assessment, round, acting, onUndo, onChoose }: Props) {
  const fitting = sheet.cylinders.find((one) => one.cylinder === recorder.cylinder);
  return (
    <div className="grid gap-3">
      {part !== "fit" && <Tray fittings={inWorkOrder(recorder.document, sheet.cylinders, (one) => one.cylinder)} chosen={recorder.cylinder} onChoose={onChoose} />}
      {sheet.unverified.length > 0 && (
        <p className="border-l-4 border-ochre pl-2 text-sm">{t("Unverified: {{unverified}}.", { unverified: sheet.unverified.join("; ") })}</p>
      )}
      {part === "arrival" && <Arrival recorder={recorder} fitting={fitting} />}
      {part === "gaps" && <Gaps recorder={recorder} sheet={sheet} />}
      {part === "fit" && round && (
        <Fit recorder={recorder} sheet={sheet} round={round} acting={acting} onUndo={onUndo} onChoose={onChoose} />
      )}
      {part === "points" && <Points recorder={recorder} sheet={sheet} />}
      {part === "premix" && <Premix recorder={recorder} assessment={assessment} />}
      {part === "repairs" && <Repairs recorder={recorder} />}
    </div>
  );
}

// Stages at which something is wrong.
const WRONG = new Set(["do-not-fit", "check-a-figure", "gap-out", "hand-tight"]);

function Tray({ fittings, chosen, onChoose }: { fittings: readonly Fitting[]; chosen: number; onChoose: (cylinder: number) => void }) {
  return (
    <ol className="hidden gap-1 overflow-x-auto lg:flex" aria-label={t("New plugs, in the order of the cylinders")}>
      {fittings.map((one) => (
          <li key={one.cylinder} className="min-w-24 flex-1">
            <button
              type="button"
              aria-pressed={one.cylinder === chosen}
              onClick={() => onChoose(one.cylinder)}
              className="target grid w-full rounded-md border border-line px-2 py-1 text-left aria-pressed:border-teal aria-pressed:bg-wash"
            >
              <b className="text-lg leading-tight">{one.cylinder}</b>
              <span className={`text-xs whitespace-nowrap ${WRONG.has(one.stage) ? "font-bold text-rust" : "text-soft"}`}>
                {wordSaid(one.stage)}
              </span>
            </button>
          </li>
      ))}
    </ol>
  );
}
