import { FieldGroups, type Recorder } from "../record";
import { DISTRIBUTOR, ENGINE, THIS_INSPECTION } from "./findings";
import { Sources } from "./Sources";

/** The engine and its history: what is known before anything comes off. */
export function HistoryEntry({ recorder }: { recorder: Recorder }) {
  const distributor = recorder.document.engine.ignition === "distributor";
  const first = distributor ? [...THIS_INSPECTION, DISTRIBUTOR] : THIS_INSPECTION;
  return (
    <>
      <FieldGroups columns={[first, ENGINE]} recorder={recorder} />
      <Sources recorder={recorder} />
    </>
  );
}
