import type { Recorder } from "../record";
import { RoundEntry, type Acting, type Round } from "../round";

interface Props {
  recorder: Recorder;
  round: Round;
  acting: Acting;
  onUndo: (() => void) | undefined;
}

/** What the borescope shows of one cylinder. */
export function InsideEntry(props: Props) {
  return <RoundEntry {...props} />;
}
