import { t } from "../../language";
import type { Assessment } from "../../api/client";
import { Schools } from "../assessment";
import type { Recorder } from "../record";
import { RoundEntry, type Acting, type Round } from "../round";
import { Escapes } from "./Escapes";

interface Props {
  recorder: Recorder;
  assessment: Assessment;
  round: Round;
  acting: Acting;
  onUndo: (() => void) | undefined;
}

/** What the air tells of one cylinder: the loss typed straight down, its way out tapped or keyed. */
export function LeakdownEntry({ recorder, assessment, round, acting, onUndo }: Props) {
  const read = recorder.document.tests?.leakdown?.some((test) => test.readings?.length);
  return (
    <RoundEntry
      recorder={recorder}
      round={round}
      acting={acting}
      onUndo={onUndo}
      beside={<Escapes recorder={recorder} />}
      more={read && <Schools rules={assessment.leakdown.rules} label={t("Leak-down schools")} />}
    />
  );
}
