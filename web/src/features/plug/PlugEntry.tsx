import { t } from "../../language";
import { Pieces } from "../plan/Pieces";
import { PhotoStrip, type Photos } from "../photos";
import type { Recorder } from "../record";
import { RoundEntry, type Acting, type Round } from "../round";
import { FiringEnd } from "./FiringEnd";
import { drawnAs, ELECTRODES, FACES } from "./rounds";

interface Props {
  recorder: Recorder;
  round: Round;
  acting: Acting;
  photos: Photos;
  onUndo: (() => void) | undefined;
}

// Rounds whose answers are looks of the firing end.
const DRAWN: readonly Round[] = [FACES, ELECTRODES];

/** A round of plugs, wells or boots: the plug drawn from what was recorded, photos with its words. */
export function PlugEntry({ recorder, round, acting, photos, onUndo }: Props) {
  const { document, cylinder } = recorder;
  const plug = document.cylinders?.find((one) => one.number === cylinder)?.plug ?? {};
  return (
    <RoundEntry
      recorder={recorder}
      round={round}
      acting={acting}
      onUndo={onUndo}
      drawn={<FiringEnd plug={plug} className="w-full" />}
      drawAnswer={DRAWN.includes(round) ? (sets) => <FiringEnd plug={drawnAs(sets)} className="size-full" /> : undefined}
      more={
        <>
          {!recorder.practice && (
            <PhotoStrip recorder={recorder} photos={photos} path={`/cylinders/${cylinder}/photos`} of={t("Cylinder {{cylinder}}", { cylinder })} />
          )}
          {DRAWN.includes(round) && <Pieces recorder={recorder} />}
        </>
      }
    />
  );
}
