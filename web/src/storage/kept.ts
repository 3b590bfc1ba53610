import { Refused } from "../api/client";
import { database } from "./database";

/** Keep an answer, so that it is there when the server is not. */
export async function keep(key: string, answer: unknown): Promise<void> {
  await (await database()).put("answers", answer, key);
}

/** The last answer kept under a key; undefined where none is. */
export async function kept<T>(key: string): Promise<T | undefined> {
  return (await (await database()).get("answers", key)) as T | undefined;
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
    return known;
  }
}

/** Forget every answer: whoever signs in next starts with a clean device. What waits is kept. */
export async function forgetAnswers(): Promise<void> {
  await (await database()).clear("answers");
}
