import { Refused } from "../api/client";
import { databaseIfAny } from "./database";

/** An answer of the server, and when it was given. */
interface Kept {
  at: number;
  answer: unknown;
}

/** Whose answers are kept and read now; nobody reads another's. */
let owner: string | undefined;

const SESSION = "session";

function named(key: string): string {
  return key === SESSION ? key : `${owner} ${key}`;
}

/** Keep an answer, so that it is there when the server is not; where nothing can be kept, go on. */
export async function keep(key: string, answer: unknown): Promise<void> {
  if (owner === undefined && key !== SESSION) return;
  const place = named(key);
  try {
    await (await databaseIfAny())?.put("answers", { at: Date.now(), answer } satisfies Kept, place);
  } catch {
    // A full or broken device keeps no answers; what people enter is the queue's business.
  }
}

/** The last answer kept under a key, and when it was given; undefined where none is. */
export async function kept<T>(key: string): Promise<{ at: number; answer: T } | undefined> {
  if (owner === undefined && key !== SESSION) return undefined;
  const place = named(key);
  try {
    const found = (await (await databaseIfAny())?.get("answers", place)) as Kept | undefined;
    return found && { at: found.at, answer: found.answer as T };
  } catch {
    return undefined;
  }
}

/** Ask the server; where nobody answers, the last answer stands in. */
export async function askOrRecall<T>(key: string, ask: () => Promise<T>): Promise<T> {
  try {
    const answer = await ask();
    await keep(key, answer);
    return answer;
  } catch (error) {
    if (!(error instanceof Refused) || !error.passing) throw error;
    const known = await kept<T>(key);
    if (known === undefined) throw error;
    return known.answer;
  }
}

/** From now on answers are this person's; those of everybody else on this device are forgotten. */
export async function answersOf(person: string): Promise<void> {
  if (owner === person) return;
  owner = person;
  await forget((key) => key !== SESSION && !key.startsWith(`${person} `));
}

/** Forget every answer: whoever signs in next starts with a clean device. What waits is kept. */
export async function forgetAnswers(): Promise<void> {
  owner = undefined;
  await forget(() => true);
}

async function forget(which: (key: string) => boolean): Promise<void> {
  try {
    const db = await databaseIfAny();
    if (!db) return;
    const transaction = db.transaction("answers", "readwrite");
    for (const key of await transaction.store.getAllKeys()) {
      if (which(key)) void transaction.store.delete(key);
    }
    await transaction.done;
  } catch {
    // Nothing is kept where nothing can be kept.
  }
}

const OPEN = "fiacre-open-inspection";

/** The inspection that this page's person opened last: what stands by itself may take its figures. */
export function openInspection(): string | null {
  return sessionStorage.getItem(OPEN);
}

export function rememberOpen(inspection: string): void {
  sessionStorage.setItem(OPEN, inspection);
}
