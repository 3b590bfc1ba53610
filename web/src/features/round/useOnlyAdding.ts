import { t } from "../../language";
import { useCallback, useState } from "react";
import type { Entries, Recorder } from "../record";
import { addsInWords, changesInWords, offer } from "./onlyAdding";

export interface OnlyAdding {
  /** Record a reading: what is empty at once, what would change after it was confirmed. */
  read: (said: Said) => Outcome;
  /** What the last reading did, or what it would change. */
  told: { text: string; asking: boolean } | undefined;
  confirm: () => void;
  leave: () => void;
  /** Say something of the round itself. */
  tell: (text: string) => void;
}

/** A reading as it is said: by which key, in which words, of which cylinder. */
export interface Said {
  key: string;
  label: string;
  cylinder: number;
  reading: Entries;
}

/** Whether a reading stands now, or asks first. */
export type Outcome = "stands" | "asks";

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
export function useOnlyAdding({ document, cylinder, onRecord }: Pick<Recorder, "document" | "cylinder" | "onRecord">): OnlyAdding {
  const [asked, setAsked] = useState<Asked | undefined>();
  const [told, tell] = useState<string | undefined>();
  const here = asked?.cylinder === cylinder ? asked : undefined;
  const confirm = useCallback(() => {
    if (!here) return;
    setAsked(undefined);
    onRecord(here.changes);
    tell(t("Changed on {{cylinder}}: {{text}}.", { cylinder: here.cylinder, text: here.text }));
  }, [here, onRecord]);
  const read = useCallback(
    (said: Said): Outcome => {
      if (here?.key === said.key && said.cylinder === here.cylinder) {
        confirm();
        return "stands";
      }
      const made = offer(document, said.reading);
      if (made.adds.length > 0) onRecord(made.adds);
      const added = made.adds.length > 0 ? `: ${addsInWords(made.adds)}` : t(", as it stands");
      tell(t("{{label}} on {{cylinder}}{{added}}.", { label: said.label, cylinder: said.cylinder, added }));
      const changes = made.changes.map(({ path, to }) => [path, to] as const);
      const asks = changes.length > 0;
      setAsked(asks ? { cylinder: said.cylinder, key: said.key, text: changesInWords(made), changes } : undefined);
      return asks ? "asks" : "stands";
    },
    [here, confirm, document, onRecord],
  );
  return {
    read,
    told: here ? { text: t("It would change {{text}}.", { text: here.text }), asking: true } : told === undefined ? undefined : { text: told, asking: false },
    confirm,
    leave: useCallback(() => setAsked(undefined), []),
    tell,
  };
}
