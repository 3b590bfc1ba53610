import { useCallback, useState } from "react";
import type { Entries, Recorder } from "../record";
import { addsInWords, changesInWords, offer } from "./onlyAdding";

export interface OnlyAdding {
  /** Record a reading: what is empty at once, what would change after it was confirmed. */
  read: (key: string, label: string, reading: Entries) => void;
  /** What the last reading did, or what it would change. */
  told: { text: string; asking: boolean } | undefined;
  confirm: () => void;
  leave: () => void;
}

interface Asked {
  cylinder: number;
  key: string;
  text: string;
  changes: Entries;
}

/**
 * A reading only adds. Where it would change what somebody said, both are shown and the same key once
 * more changes it; anything else leaves it as it stands.
 */
export function useOnlyAdding({ document, cylinder, onRecord }: Recorder): OnlyAdding {
  const [asked, setAsked] = useState<Asked | undefined>();
  const [told, setTold] = useState<{ cylinder: number; text: string } | undefined>();
  const here = asked?.cylinder === cylinder ? asked : undefined;
  const confirm = useCallback(() => {
    if (!here) return;
    setAsked(undefined);
    onRecord(here.changes);
    setTold({ cylinder, text: `Changed on ${cylinder}: ${here.text}.` });
  }, [here, cylinder, onRecord]);
  const read = useCallback(
    (key: string, label: string, reading: Entries) => {
      if (here?.key === key) return confirm();
      const made = offer(document, reading);
      if (made.adds.length > 0) onRecord(made.adds);
      const added = made.adds.length > 0 ? `: ${addsInWords(made.adds)}` : ", as it stands";
      setTold({ cylinder, text: `${label} on ${cylinder}${added}.` });
      const changes = made.changes.map(({ path, to }) => [path, to] as const);
      setAsked(changes.length > 0 ? { cylinder, key, text: changesInWords(made), changes } : undefined);
    },
    [here, confirm, document, cylinder, onRecord],
  );
  const shown = told?.cylinder === cylinder ? told : undefined;
  return {
    read,
    told: here ? { text: `It would change ${here.text}.`, asking: true } : shown && { text: shown.text, asking: false },
    confirm,
    leave: useCallback(() => setAsked(undefined), []),
  };
}
