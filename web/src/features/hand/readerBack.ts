/** The reader-back: the device's own voice says what each entry was, and where the hand is then. */
import { useCallback, useEffect, useRef, useState } from "react";
import type { Assessment, Document } from "../../api/client";
import { t } from "../../language";
import { choose, useChoice } from "../../storage/choice";
import type { Entries } from "../record";
import { saidOf } from "../record/spoken";
import { sentence } from "../round/said";
import { waiting, type Round } from "../round/rounds";

const STORE = "fiacre-reader-back";
const OF_CYLINDER = /\/(?:cylinders|readings)\/(\d+)\//;
/** Warnings that ask whether what was just entered is what was meant. */
const SURPRISES = new Set(["unit-slip", "contradiction", "surprise", "implausible", "inconsistent"]);
/** Voices come a moment after they were asked for the first time. */
const VOICES_MS = 1500;

/** Whether this device reads back, and the switch for it. */
export function useReadsBack(): readonly [boolean, () => void] {
  const on = useChoice(STORE) === "on";
  return [on, () => choose(STORE, on ? "off" : "on")];
}

export interface ReaderBack {
  /** Say what is being recorded; where nothing reads back, nothing. */
  said: (entries: Entries) => void;
  /** That this device cannot, where somebody asked for it. */
  trouble: string | undefined;
}

interface Place {
  document: Document | undefined;
  round: Round | undefined;
  cylinder: number;
  warnings: Assessment["warnings"];
}

/** Reads back while it is switched on: entry, cylinder and question, and what surprises as soon as it is known. */
export function useReaderBack(on: boolean, { document, round, cylinder, warnings }: Place): ReaderBack {
  const [mute, setMute] = useState(false);
  const left = document && round ? waiting(document, round).length : 0;
  const before = useRef({ left, round: "", known: new Set<string>() });
  useEffect(() => {
    if (!on) return undefined;
    const timer = setTimeout(() => setMute(!canSpeak()), canSpeak() ? 0 : VOICES_MS);
    return () => clearTimeout(timer);
  }, [on]);
  useEffect(() => {
    if (!on || !round) {
      before.current.round = "";
      return;
    }
    const asked = before.current.round === round.id ? "" : `${round.title}. `;
    before.current.round = round.id;
    speak(`${asked}${cylinder}.`);
  }, [on, round, cylinder]);
  useEffect(() => {
    if (on && round && left === 0 && before.current.left > 0) speak(t("That was the last of this round."));
    before.current.left = left;
  }, [on, round, left]);
  useEffect(() => {
    const { known } = before.current;
    for (const { code, text } of warnings) {
      if (on && SURPRISES.has(code) && !known.has(text)) speak(text);
      known.add(text);
    }
  }, [on, warnings]);
  const said = useCallback(
    (entries: Entries) => {
      if (on) for (const text of inWords(entries)) speak(text);
    },
    [on],
  );
  return { said, trouble: on && mute ? t("This device has no voice: nothing is read back.") : undefined };
}

/** "2: black, wet": what is said of each cylinder; of what is of none, only the word. */
function inWords(entries: Entries): readonly string[] {
  const of = new Map<string, string[]>();
  for (const [path, value] of entries) {
    const cylinder = OF_CYLINDER.exec(path)?.[1] ?? "";
    const word = value === undefined ? t("taken back") : path.endsWith("/pressure") ? saidOf(value) : sentence(path, value);
    of.set(cylinder, [...(of.get(cylinder) ?? []), word]);
  }
  return [...of].map(([cylinder, words]) => `${cylinder}${cylinder && ": "}${words.join(", ")}.`);
}

function canSpeak(): boolean {
  return "speechSynthesis" in window && speechSynthesis.getVoices().some((voice) => voice.localService);
}

function speak(text: string): void {
  if (!("speechSynthesis" in window)) return;
  const words = new SpeechSynthesisUtterance(text);
  words.lang = window.document.documentElement.lang || "en";
  speechSynthesis.speak(words);
}
