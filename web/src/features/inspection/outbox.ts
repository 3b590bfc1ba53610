import { api, Refused, take, type Inspection, type Problem } from "../../api/client";
import type { Observation } from "./fold";

export interface OutboxState {
  /** Made here and not yet confirmed by the server, oldest first. */
  pending: readonly Observation[];
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
 * Kept in the browser's storage until the server has confirmed it, sent in order, each once:
 * sending an observation again changes nothing, so after any doubt it is simply sent again.
 */
export class Outbox {
  private state: OutboxState;
  private readonly listeners = new Set<() => void>();
  private sending = false;
  private wait = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly inspection: string,
    private readonly onConfirmed: (inspection: Inspection) => void,
  ) {
    this.state = { pending: this.stored(), trouble: undefined, refused: [] };
    window.addEventListener("online", this.retry);
  }

  private get key(): string {
    return `fiacre-outbox-${this.inspection}`;
  }

  private stored(): Observation[] {
    try {
      return JSON.parse(localStorage.getItem(this.key) ?? "[]") as Observation[];
    } catch {
      return [];
    }
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    if (this.state.pending.length > 0) this.retry();
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): OutboxState => this.state;

  private change(next: Partial<OutboxState>): void {
    this.state = { ...this.state, ...next };
    if (next.pending) localStorage.setItem(this.key, JSON.stringify(next.pending));
    for (const listener of this.listeners) listener();
  }

  add(entries: readonly (readonly [path: string, value: unknown])[]): void {
    const made = entries.map(([path, value]) => ({
      client_id: crypto.randomUUID(),
      path,
      value: value ?? null,
    }));
    const paths = new Set(made.map((one) => one.path));
    this.change({
      pending: [...this.state.pending, ...made],
      refused: this.state.refused.filter((problem) => !paths.has(problem.path)),
    });
    void this.send();
  }

  readonly retry = (): void => {
    clearTimeout(this.timer);
    this.wait = 0;
    void this.send();
  };

  private async send(): Promise<void> {
    if (this.sending || this.state.pending.length === 0) return;
    this.sending = true;
    const batch = this.state.pending.slice(0, MOST_AT_ONCE);
    try {
      await this.deliver(batch);
      this.wait = 0;
    } catch (error) {
      await this.handle(error, batch);
    } finally {
      this.sending = false;
    }
    if (this.state.pending.length > 0 && this.wait === 0) void this.send();
  }

  private async deliver(batch: readonly Observation[]): Promise<void> {
    const confirmed = await take(
      api.POST("/api/inspections/{inspection_id}/observations", {
        params: { path: { inspection_id: this.inspection } },
        body: { observations: batch as never },
      }),
    );
    const sent = new Set(batch.map((one) => one.client_id));
    this.onConfirmed(confirmed);
    this.change({
      pending: this.state.pending.filter((one) => !sent.has(one.client_id)),
      trouble: undefined,
    });
  }

  private async handle(error: unknown, batch: readonly Observation[]): Promise<void> {
    if (!(error instanceof Refused)) throw error;
    if (error.passing || error.status === 401 || error.status === 403) {
      this.wait = Math.min(this.wait ? this.wait * 2 : 500, LONGEST_WAIT_MS);
      this.change({ trouble: error.status === 401 ? "Sign in again to save." : error.message });
      this.timer = setTimeout(() => void this.send(), this.wait);
      return;
    }
    await this.sortOut(error, batch);
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

const boxes = new Map<string, Outbox>();

/** The outbox of an inspection; one for the life of the page. */
export function outboxOf(inspection: string, onConfirmed: (inspection: Inspection) => void): Outbox {
  const known = boxes.get(inspection);
  if (known) return known;
  const made = new Outbox(inspection, onConfirmed);
  boxes.set(inspection, made);
  return made;
}
