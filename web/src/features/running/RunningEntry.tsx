import { t } from "../../language";
import { Button } from "../../primitives/Button";
import { LivePanel, useInstrument } from "../instruments";
import type { Recorder } from "../record";
import { RoundEntry, type Acting, type Round } from "../round";
import { FirstGuess } from "./FirstGuess";
import { Swaps } from "./Swaps";

interface Props {
  part: string;
  recorder: Recorder;
  round: Round | undefined;
  acting: Acting;
  onUndo: (() => void) | undefined;
}

/** What is heard, felt and tried with the engine running, a round at a time. */
export function RunningEntry({ part, recorder, round, acting, onUndo }: Props) {
  if (!round) return part === "swap" ? <Swaps recorder={recorder} /> : <FirstGuess recorder={recorder} />;
  return (
    <div className="grid gap-4">
      <RoundEntry recorder={recorder} round={round} acting={acting} onUndo={onUndo} />
      {part === "misfires" && <Counters recorder={recorder} />}
    </div>
  );
}

/** Misfire counters, read live from an instrument. */
function Counters({ recorder }: { recorder: Recorder }) {
  const live = useInstrument();
  const { capture, instrument } = live;
  const keep = () => {
    recorder.onRecord(
      (capture?.counts ?? []).flatMap(({ cylinder, count }) => [
        [`/tests/misfires/${cylinder}/count`, count] as const,
        [`/tests/misfires/${cylinder}/instrument`, instrument?.title] as const,
      ]),
    );
    live.forget();
  };
  return (
    <LivePanel
      live={live}
      begin={{ "misfire-counter": t("Count misses") }}
      cylinder={recorder.cylinder}
      disabled={recorder.disabled}
    >
      <ul className="flex flex-wrap gap-x-4 text-sm" aria-label={t("Misses counted")}>
        {capture?.counts.map((one) => (
          <li key={one.cylinder}>
            {t("cylinder {{cylinder}}:", { cylinder: one.cylinder })}{" "}<b>{one.count}</b>
          </li>
        ))}
      </ul>
      <Button disabled={recorder.disabled || !capture?.counts.length} onClick={keep}>
        {t("Keep these counts")}
      </Button>
    </LivePanel>
  );
}
