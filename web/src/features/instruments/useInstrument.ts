import { t } from "../../language";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";

export type InstrumentKind = "gauge" | "current-clamp" | "misfire-counter";
type Pressure = NonNullable<
  NonNullable<NonNullable<NonNullable<Schemas["Inspection"]["document"]["tests"]>["compression"]>[number]["readings"]>[number]["pressure"]
>;

export interface Capture {
  /** Which cylinder the gauge was in when it began. */
  cylinder: number;
  running: boolean;
  strokes: readonly Pressure[];
  samples: readonly (readonly [second: number, value: number])[];
  counts: readonly { cylinder: number; count: number }[];
}

export interface Instrument {
  kind: InstrumentKind;
  title: string;
}

const PORT = "fiacre-instrument-port";
const USUAL_PORT = "8031";

/**
 * An instrument that streams over loopback (see instruments/stream.py): connect once, then capture.
 * What it says is only shown here; a person keeps it.
 */
export function useInstrument() {
  const [port, setPort] = useState(() => localStorage.getItem(PORT) ?? USUAL_PORT);
  const [instrument, setInstrument] = useState<Instrument | undefined>();
  const [trouble, setTrouble] = useState<string | undefined>();
  const [capture, setCapture] = useState<Capture | undefined>();
  const source = useRef<EventSource | undefined>(undefined);
  const address = `http://127.0.0.1:${port}`;

  const stop = useCallback(() => {
    source.current?.close();
    source.current = undefined;
    setCapture((known) => known && { ...known, running: false });
  }, []);
  useEffect(() => () => source.current?.close(), []);

  const connect = async () => {
    setTrouble(undefined);
    setInstrument(undefined);
    setCapture(undefined);
    if (!/^\d{2,5}$/.test(port)) {
      setTrouble(t("A port is a number, such as 8031."));
      return;
    }
    try {
      const said = (await (await fetch(`${address}/`)).json()) as { instrument: InstrumentKind; title: string };
      setInstrument({ kind: said.instrument, title: said.title });
      localStorage.setItem(PORT, port);
    } catch {
      setTrouble(t("Nothing answers at 127.0.0.1:{{port}}. Is the instrument switched on?", { port }));
    }
  };

  const begin = (cylinder: number) => {
    source.current?.close();
    setTrouble(undefined);
    setCapture({ cylinder, running: true, strokes: [], samples: [], counts: [] });
    const events = new EventSource(`${address}/capture?cylinder=${cylinder}`);
    source.current = events;
    const on = <T,>(name: string, take: (known: Capture, data: T) => Partial<Capture>) =>
      events.addEventListener(name, (event) => {
        const data = JSON.parse((event as MessageEvent<string>).data) as T;
        setCapture((known) => known && { ...known, ...take(known, data) });
      });
    on<{ pressure: Pressure }>("stroke", (known, { pressure }) => ({ strokes: [...known.strokes, pressure] }));
    on<{ samples: [number, number][] }>("samples", (known, { samples }) => ({
      samples: [...known.samples, ...samples],
    }));
    on<{ counts: Capture["counts"] }>("counts", (_, { counts }) => ({ counts }));
    events.addEventListener("done", stop);
    events.onerror = () => {
      stop();
      setTrouble(t("The instrument fell silent; what it said so far is below."));
    };
  };
  const forget = () => setCapture(undefined);
  return { port, setPort, connect, instrument, trouble, capture, begin, stop, forget };
}
