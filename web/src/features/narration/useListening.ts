import { useCallback, useEffect, useRef, useState } from "react";

interface Recognition extends EventTarget {
  lang: string;
  processLocally: boolean;
  start: () => void;
  stop: () => void;
  onresult: ((event: { results: ArrayLike<ArrayLike<{ transcript: string }>> }) => void) | null;
  onend: (() => void) | null;
}

interface Recognising {
  new (): Recognition;
  available?: (asked: { langs: string[]; processLocally: boolean }) => Promise<string>;
}

const LANGUAGE = "en-US";

function recogniser(): Recognising | undefined {
  return (window as unknown as { SpeechRecognition?: Recognising }).SpeechRecognition;
}

/**
 * The browser's own recognition, where it works on this device alone: a service elsewhere is never
 * asked. Everywhere else the keyboard's own dictation does the same.
 */
export function useListening(onHeard: (line: string) => void): { listen: (() => void) | undefined; listening: boolean } {
  const [able, setAble] = useState(false);
  const [listening, setListening] = useState(false);
  const running = useRef<Recognition | undefined>(undefined);
  useEffect(() => {
    void recogniser()
      ?.available?.({ langs: [LANGUAGE], processLocally: true })
      .then((state) => setAble(state === "available"))
      .catch(() => undefined);
    return () => running.current?.stop();
  }, []);
  const listen = useCallback(() => {
    if (running.current) return running.current.stop();
    const Made = recogniser();
    if (!Made) return;
    const made = new Made();
    made.lang = LANGUAGE;
    made.processLocally = true;
    made.onresult = ({ results }) => {
      const line = results[results.length - 1]?.[0]?.transcript;
      if (line) onHeard(line);
    };
    made.onend = () => {
      running.current = undefined;
      setListening(false);
    };
    running.current = made;
    setListening(true);
    made.start();
  }, [onHeard]);
  return { listen: able ? listen : undefined, listening };
}

/** Said back in a few words, by a voice of this device; where there is none, nothing. */
export function readBack(words: string): void {
  const voice = window.speechSynthesis?.getVoices().find((one) => one.localService && one.lang.startsWith("en"));
  if (!voice) return;
  const said = new SpeechSynthesisUtterance(words);
  said.voice = voice;
  window.speechSynthesis.speak(said);
}
