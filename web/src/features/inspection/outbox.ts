import { Refused, sendObservations, type Inspection, type Problem } from "../../api/client";
import { database, type Waiting } from "../../storage/database";
import { device } from "../../storage/device";
import { keep } from "../../storage/kept";
import type { Entries } from "../record";
import type { Observation } from "./fold";

export interface OutboxState {
  /** Whether the browser's database has been asked what still waits. */
  ready: boolean;
  /** Made here and not yet confirmed by the server, oldest first. */
  pending: readonly Observation[];
  /** How many of them the browser's database has not taken yet: gone, were the page to end now. */
  unwritten: number;
  /** Why the last attempt did not get through; undefined while all is well. */
  trouble: string | undefined;
  /** What the server would not take, with its reason; gone from `pending`. */
  refused: readonly Problem[];
}

const MOST_AT_ONCE = 100;
const LONGEST_WAIT_MS = 8_000;

/**
 * What was observed on this device and is on its way to the server.
 *
 * Written to the browser's database while it is sent, kept there until the server has confirmed it,
 * sent in order, each once:
 * sending an observation again changes nothing, so after any doubt it is simply sent again. Other
 * tabs on the same inspection share what is kept, and only one of them sends at a time.
 */
export class Outbox {
  private state: OutboxState = {
    ready: false,
    pending: [],
    unwritten: 0,
    trouble: undefined,
    refused: [],
  };
  private readonly listeners = new Set<() => void>();
  private readonly others: BroadcastChannel;
  private sending = false;
  private wait = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** Writes to the database happen one after the other, in the order of the entries. */
  private written: Promise<unknown>;

  constructor(
    private readonly inspection: string,
    private readonly onConfirmed: (inspection: Inspection) => void,
  ) {
    this.others = new BroadcastChannel(`fiacre-outbox-${inspection}`);
    this.others.onmessage = () => void this.reload();
    this.written = this.reload().then(() => this.send());
    window.addEventListener("online", this.retry);
  }

  /** Take in what the database holds, another tab's entries included. */
  private async reload(): Promise<void> {
    const stored = await (await database()).getAllFromIndex("outbox", "inspection", this.inspection);
    const known = new Set(stored.map((one) => one.client_id));
    const unwritten = this.state.pending.filter((one) => !known.has(one.client_id) && this.fresh.has(one.client_id));
    this.change({ ready: true, pending: [...stored, ...unwritten] });
  }

  /** Made here and not yet in the database. */
  private readonly fresh = new Set<string>();

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    if (this.state.pending.length > 0) this.retry();
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): OutboxState => this.state;

  private change(next: Partial<OutboxState>): void {
    this.state = { ...this.state, ...next };
    for (const listener of this.listeners) listener();
  }

  /** Record some entries; `seen` is the sequence of the inspection as it stands on the screen. */
  add(entries: Entries, seen: number): void {
    const made = entries.map(([path, value]) => ({
      client_id: crypto.randomUUID(),
      path,
      value: value ?? null,
      device: device(),
      seen,
    }));
    const paths = new Set(made.map((one) => one.path));
    for (const one of made) this.fresh.add(one.client_id);
    this.state = {
      ...this.state,
      pending: [...this.state.pending, ...made],
      unwritten: this.fresh.size,
      refused: this.state.refused.filter((problem) => !paths.has(problem.path)),
    };
    this.written = this.written.then(() => this.write(made));
    // Sent before it is drawn: the server works while the screen does.
    void this.send();
    this.change({});
  }

  private async write(made: readonly Observation[]): Promise<void> {
    const transaction = (await database()).transaction("outbox", "readwrite", { durability: "strict" });
    for (const one of made) {
      const waiting: Waiting = { inspection: this.inspection, ...one };
      await transaction.store.add(waiting);
    }
    await transaction.done;
    for (const one of made) this.fresh.delete(one.client_id);
    this.change({ unwritten: this.fresh.size });
    this.others.postMessage("changed");
  }

  private async remove(sent: ReadonlySet<string>): Promise<void> {
    await this.written;
    const transaction = (await database()).transaction("outbox", "readwrite");
    for await (const cursor of transaction.store.index("inspection").iterate(this.inspection)) {
      if (sent.has(cursor.value.client_id)) await cursor.delete();
    }
    await transaction.done;
    this.others.postMessage("changed");
  }

  readonly retry = (): void => {
    clearTimeout(this.timer);
    this.wait = 0;
    void this.send();
  };

  private async send(): Promise<void> {
    if (this.sending || this.state.pending.length === 0) return;
    this.sending = true;
    try {
      // What only this tab knows no other can be sending.
      if (this.state.pending.every((one) => this.fresh.has(one.client_id))) await this.attempt();
      else await alone(`fiacre-outbox-${this.inspection}`, () => this.attempt());
    } finally {
      this.sending = false;
    }
    if (this.state.pending.length > 0 && this.wait === 0) void this.send();
  }

  private async attempt(): Promise<void> {
    const batch = this.state.pending.slice(0, MOST_AT_ONCE);
    if (batch.length === 0) return;
    try {
      await this.deliver(batch);
      this.wait = 0;
    } catch (error) {
      await this.handle(error, batch);
    }
  }

  private async deliver(batch: readonly Observation[]): Promise<void> {
    const said = batch.map(({ client_id, path, value, device: from, seen }) => ({
      client_id,
      path,
      value,
      device: from,
      seen,
    }));
    const confirmed = await sendObservations(this.inspection, said);
    const sent = new Set(batch.map((one) => one.client_id));
    // Shown first: were the page to end here, what is still in the database is sent again, in vain.
    this.onConfirmed(confirmed);
    this.change({
      pending: this.state.pending.filter((one) => !sent.has(one.client_id)),
      trouble: undefined,
    });
    await keep(`inspection ${this.inspection}`, confirmed);
    await this.remove(sent);
  }

  private async handle(error: unknown, batch: readonly Observation[]): Promise<void> {
    const refused = error instanceof Refused ? error : undefined;
    if (refused && !refused.passing && refused.status !== 401 && refused.status !== 403) {
      await this.sortOut(refused, batch);
      return;
    }
    this.wait = Math.min(this.wait ? this.wait * 2 : 500, LONGEST_WAIT_MS);
    this.change({ trouble: trouble(refused) });
    this.timer = setTimeout(() => void this.send(), this.wait);
    if (!refused) throw error;
  }

  /** One of a batch was refused, so all were: send them one by one and set the culprit aside. */
  private async sortOut(error: Refused, batch: readonly Observation[]): Promise<void> {
    for (const one of batch) {
      try {
        if (batch.length === 1) throw error;
        await this.deliver([one]);
      } catch (again) {
        if (!(again instanceof Refused)) throw again;
        if (again.passing) return;
        const problem = again.problems[0];
        await this.remove(new Set([one.client_id]));
        this.change({
          pending: this.state.pending.filter((other) => other.client_id !== one.client_id),
          refused: [
            ...this.state.refused,
            {
              code: again.code,
              path: one.path,
              value: JSON.stringify(one.value),
              expected: problem?.expected ?? again.message,
            },
          ],
        });
      }
    }
  }
}

function trouble(refused: Refused | undefined): string {
  if (refused?.status === 401) return "Sign in again to save.";
  return refused?.message ?? "The answer could not be used.";
}

/** Run something while no other tab does; where the browser cannot say, just run it. */
async function alone(name: string, run: () => Promise<void>): Promise<void> {
  if ("locks" in navigator) await navigator.locks.request(name, run);
  else await run();
}

const boxes = new Map<string, Outbox>();

/** The outbox of an inspection; one for the life of the page. */
export function outboxOf(inspection: string, onConfirmed: (inspection: Inspection) => void): Outbox {
  const known = boxes.get(inspection);
  if (known) return known;
  const made = new Outbox(inspection, onConfirmed);
  boxes.set(inspection, made);
  return made;
}
