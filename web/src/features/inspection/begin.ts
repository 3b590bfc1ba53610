import type { Document, Engine, Plan } from "../../api/client";
import { queue } from "../../queue";

export interface Known {
  id: string;
  data: Engine;
  plan: Plan;
}

type Said = NonNullable<Document["inspection"]>;

/** Begin an inspection of an engine, with a network or without; its id, where it can be opened at once. */
export function beginInspection(engine: Known, said: Said = {}): string {
  const inspection = crypto.randomUUID();
  const date = today();
  const document = {
    format: "fiacre-inspection",
    version: 1,
    engine: engine.data,
    inspection: { ...said, date },
  } as Document;
  queue.add(engine.data.title ?? "", [
    { kind: "begin", inspection, engine: engine.id, date, document, plan: engine.plan },
  ]);
  return inspection;
}

/** What one inspection of an engine has in common with the next: why, in which order, with what in hand. */
export function again({ purpose, order, scope, instruments, engine_place, altitude_m }: Said): Said {
  const kept = Object.entries({ purpose, order, scope, instruments, engine_place, altitude_m });
  return Object.fromEntries(kept.filter(([, value]) => value !== undefined));
}

/** Add an engine without a network, under an id of this device's; it is sent when somebody answers. */
export function addEngineHere(engine: Known): void {
  queue.add(engine.data.title ?? "", [{ kind: "engine", engine: engine.id, data: engine.data }]);
}

/** The day it is where this device is. */
function today(): string {
  const now = new Date();
  const two = (number: number) => String(number).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
