import { Tabs } from "radix-ui";
import { useState } from "react";
import type { Assessment } from "../../api/client";
import type { Recorder } from "../record";
import { Arrival } from "./Arrival";
import type { Sheet } from "./fields";
import { Fit } from "./Fit";
import { Gaps } from "./Gaps";
import { Points } from "./Points";
import { Premix } from "./Premix";

interface Props {
  recorder: Recorder;
  sheet: Sheet;
  assessment: Assessment;
  onChoose: (cylinder: number) => void;
}

const PART =
  "target min-h-9 rounded-md px-3 text-sm data-[state=active]:bg-wash data-[state=active]:font-bold";

/** The way back, from the parts box to a closed list. */
export function RefitEntry({ recorder, sheet, assessment, onChoose }: Props) {
  const [part, setPart] = useState("arrival");
  const fitting = sheet.cylinders.find((one) => one.cylinder === recorder.cylinder);
  const parts = [
    ["arrival", "New plugs"],
    ["gaps", "Gaps"],
    ["fit", "Fit and torque"],
    ...(sheet.points ? [["points", "Points"]] : []),
    ...(recorder.document.engine.cycle === "two-stroke" ? [["premix", "Premix"]] : []),
  ] as const;
  return (
    <div className="grid gap-3">
      <Tray sheet={sheet} chosen={recorder.cylinder} onChoose={onChoose} />
      {sheet.unverified.length > 0 && (
        <p className="border-l-4 border-ochre pl-2 text-sm">Unverified: {sheet.unverified.join("; ")}.</p>
      )}
      <Tabs.Root value={part} onValueChange={setPart}>
        <Tabs.List className="mb-3 flex flex-wrap gap-1 border-b border-line pb-1" aria-label="Part of the refit">
          {parts.map(([value, label]) => (
            <Tabs.Trigger key={value} value={value ?? ""} className={PART}>
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="arrival">
          <Arrival recorder={recorder} fitting={fitting} />
        </Tabs.Content>
        <Tabs.Content value="gaps">
          <Gaps recorder={recorder} sheet={sheet} />
        </Tabs.Content>
        <Tabs.Content value="fit">
          <Fit recorder={recorder} sheet={sheet} onChoose={onChoose} />
        </Tabs.Content>
        <Tabs.Content value="points">
          <Points recorder={recorder} sheet={sheet} />
        </Tabs.Content>
        <Tabs.Content value="premix">
          <Premix recorder={recorder} assessment={assessment} />
        </Tabs.Content>
      </Tabs.Root>
    </div>
  );
}

// Stages at which something is wrong.
const WRONG = new Set(["do-not-fit", "check-a-figure", "gap-out", "hand-tight"]);

function Tray({ sheet, chosen, onChoose }: { sheet: Sheet; chosen: number; onChoose: (cylinder: number) => void }) {
  return (
    <ol className="flex gap-1 overflow-x-auto" aria-label="New plugs, in the order of the cylinders">
      {sheet.cylinders.map((one) => (
          <li key={one.cylinder} className="min-w-24 flex-1">
            <button
              type="button"
              aria-pressed={one.cylinder === chosen}
              onClick={() => onChoose(one.cylinder)}
              className="target grid w-full rounded-md border border-line px-2 py-1 text-left aria-pressed:border-teal aria-pressed:bg-wash"
            >
              <b className="text-lg leading-tight">{one.cylinder}</b>
              <span className={`text-xs whitespace-nowrap ${WRONG.has(one.stage) ? "font-bold text-rust" : "text-soft"}`}>
                {one.stage.replaceAll("-", " ")}
              </span>
            </button>
          </li>
      ))}
    </ol>
  );
}
