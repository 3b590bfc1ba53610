import { FieldGroups, type Recorder } from "../record";
import { LISTEN, PORT_LOOK, TRY } from "./findings";
import { FirstGuess } from "./FirstGuess";
import { Swaps } from "./Swaps";

/** What is heard, felt and tried on one cylinder. */
export function RunningEntry({ recorder }: { recorder: Recorder }) {
  const twoStroke = recorder.document.engine.cycle === "two-stroke";
  return (
    <div className="grid gap-4">
      <FirstGuess recorder={recorder} />
      <FieldGroups columns={twoStroke ? [LISTEN, [...TRY, PORT_LOOK]] : [LISTEN, TRY]} recorder={recorder} />
      <Swaps recorder={recorder} />
    </div>
  );
}
