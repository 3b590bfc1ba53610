import { t } from "../../language";
import { useCallback, useState } from "react";
import type { Entries, Recorder } from "../record";
import { addsInWords, changesInWords, offer } from "./onlyAdding";

export interface OnlyAdding {
  /** Record a reading: at once where it changes nothing, and else whole once it was confirmed. */
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
  reading: Entries;
}

/**
 * A reading only adds. Where it would change what somebody said, both are shown, nothing of it is
 * written, and the same key once more writes it whole; anything else leaves all as it stands.
 */
export function useOnlyAdding({ document, cylinder, onRecord }: Pick<Recorder, "document" | "cylinder" | "onRecord">): OnlyAdding {
  const [asked, setAsked] = useState<Asked | undefined>();
  const [told, tell] = useState<string | undefined>();
  const here = asked?.cylinder === cylinder ? asked : undefined;
  const confirm = useCallback(() => {
    if (!here) return;
    setAsked(undefined);
    onRecord(here.reading);
    tell(t("Changed on {{cylinder}}: {{text}}.", { cylinder: here.cylinder, text: here.text }));
  }, [here, onRecord]);
  const read = useCallback(
    (said: Said): Outcome => {
      if (here?.key === said.key && said.cylinder === here.cylinder) {
        confirm();
        return "stands";
      }
      const made = offer(document, said.reading);
      if (made.changes.length > 0) {
        const reading = [...made.adds, ...made.changes.map(({ path, to }) => [path, to] as const)];
        setAsked({ cylinder: said.cylinder, key: said.key, text: changesInWords(made), reading });
        return "asks";
      }
      setAsked(undefined);
      if (made.adds.length > 0) onRecord(made.adds);
      const added = made.adds.length > 0 ? `: ${addsInWords(made.adds)}` : t(", as it stands");
      tell(t("{{label}} on {{cylinder}}{{added}}.", { label: said.label, cylinder: said.cylinder, added }));
      return "stands";
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
