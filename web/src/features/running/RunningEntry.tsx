import { Button } from "../../primitives/Button";
import { LivePanel, useInstrument } from "../instruments";
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
      <div className="grid gap-6 xl:grid-cols-2">
        <Swaps recorder={recorder} />
        <Counters recorder={recorder} />
      </div>
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
      begin={{ "misfire-counter": "Count misses" }}
      cylinder={recorder.cylinder}
      disabled={recorder.disabled}
    >
      <ul className="flex flex-wrap gap-x-4 text-sm" aria-label="Misses counted">
        {capture?.counts.map((one) => (
          <li key={one.cylinder}>
            cylinder {one.cylinder}: <b>{one.count}</b>
          </li>
        ))}
      </ul>
      <Button disabled={recorder.disabled || !capture?.counts.length} onClick={keep}>
        Keep these counts
      </Button>
    </LivePanel>
  );
}
