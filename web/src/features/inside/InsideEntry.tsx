import { FieldGroups, type Recorder } from "../record";
import { INSIDE } from "./findings";

/** What the borescope and the air tell of one cylinder. */
export function InsideEntry({ recorder }: { recorder: Recorder }) {
  return <FieldGroups columns={INSIDE} recorder={recorder} />;
}
