/** The edge of the queue: what the machine asks for is done here, and what came of it told to it. */
import type { EntryAnswer } from "../api/client";
import { database, watchDatabase } from "../storage/database";
import { device, nextInOrder } from "../storage/device";
import { deliver, failure } from "./deliver";
import { inspectionOf, type Act, type Author, type Entry } from "./entry";
import { initial, step, summary, type Effect, type Event, type State } from "./machine";

export interface Edge {
  /** An inspection as it is kept after something of it was delivered. */
  onConfirmed: (answer: EntryAnswer) => void;
  /** Another page of this browser delivered something of an inspection. */
  onElsewhere: (inspection: string) => Promise<unknown>;
  /** Something else was delivered: lists may have changed. */
  onAdded: () => void;
  /** Who is signed in may have changed. */
  askSession: () => void;
}

type News = { about: "entries"; inspection?: string | undefined } | { about: "session" };

/** So long may a page that sleeps keep an entry before one that is looked at sends it. */
const ASLEEP_MS = 15_000;
const TABS = "fiacre-page-";

class Queue {
  private state: State = initial(crypto.randomUUID());
  private edge: Edge | undefined;
  private readonly listeners = new Set<() => void>();
  private readonly news = typeof BroadcastChannel === "undefined" ? undefined : new BroadcastChannel("fiacre-queue");
  private timer: ReturnType<typeof setTimeout> | undefined;
  private asked = false;
  private touched = 0;

  /** Begin; once a page. */
  start(edge: Edge): void {
    this.edge = edge;
    // Held for the life of the page: who holds none is gone, and what it had is taken over.
    if ("locks" in navigator) void navigator.locks.request(TABS + this.state.tab, () => new Promise(() => undefined));
    watchDatabase((now) => {
      this.tell({ type: "storage", storage: now });
      if (now === "open") void this.read();
    });
    this.news?.addEventListener("message", ({ data }: MessageEvent<News>) => void this.hear(data));
    window.addEventListener("online", () => this.retry());
    document.addEventListener("visibilitychange", () => {
      if (document.visibilityState === "visible") void this.read(ASLEEP_MS).then(() => this.retry());
    });
    window.addEventListener("beforeunload", (event) => {
      if (summary(this.state).unwritten > 0) event.preventDefault();
    });
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): State => this.state;

  /** Tell who is signed in, other pages of this browser included where it was done here. */
  signed(person: Author | null): void {
    const before = this.state.person;
    this.tell({ type: "signed", person });
    if (before !== undefined && before?.id !== person?.id) this.news?.postMessage({ about: "session" } satisfies News);
  }

  /** Take in what somebody did; the signed-in person is its author. */
  add(title: string, acts: readonly Act[]): void {
    const author = this.state.person;
    if (!author) return;
    this.touched = Date.now();
    const entries = acts.map((act): Entry => {
      const { tab } = this.state;
      const made = new Date().toISOString();
      return { id: crypto.randomUUID(), order: nextInOrder(), author, device: device(), made, tab, title, act };
    });
    this.tell({ type: "made", entries });
    this.askToPersist();
  }

  /** Take back what was exported to a file, unless it is here; it keeps its author and its name. */
  takeIn(list: readonly Omit<Entry, "order" | "tab">[]): void {
    const here = new Set(this.state.held.map((one) => one.entry.id));
    const entries = list
      .filter((one) => !here.has(one.id))
      .map((one): Entry => ({ ...one, order: nextInOrder(), tab: this.state.tab }));
    if (entries.length > 0) this.tell({ type: "made", entries });
  }

  /** Whether something was entered so lately that the next may follow. */
  busyWithin(ms: number): boolean {
    return Date.now() - this.touched < ms;
  }

  retry = (): void => this.tell({ type: "retry", afresh: true });
  again = (ids: readonly string[]): void => this.tell({ type: "again", ids });
  hand = (author: string): void => this.tell({ type: "hand", author });
  discard = (ids: readonly string[]): void => this.tell({ type: "discard", ids });

  private tell(event: Event): void {
    const [next, effects] = step(this.state, event);
    const changed = next !== this.state;
    this.state = next;
    // Sent before it is drawn: the server works while the screen does.
    for (const effect of effects) void this.run(effect);
    if (changed) for (const listener of this.listeners) listener();
  }

  private async run(effect: Effect): Promise<void> {
    switch (effect.do) {
      case "write":
        return this.write(effect.entries);
      case "erase":
        return this.erase(effect.ids);
      case "send":
        return this.send(effect.entries);
      case "wait":
        clearTimeout(this.timer);
        this.timer = setTimeout(() => this.tell({ type: "retry", afresh: false }), effect.ms);
        return;
      case "ask-session":
        this.edge?.askSession();
    }
  }

  private async write(entries: readonly Entry[]): Promise<void> {
    const ids = entries.map((one) => one.id);
    try {
      const transaction = (await database()).transaction("entries", "readwrite", { durability: "strict" });
      for (const entry of entries) void transaction.store.put(entry);
      await transaction.done;
      this.tell({ type: "written", ids });
      this.news?.postMessage({ about: "entries" } satisfies News);
    } catch (error) {
      const full = error instanceof DOMException && error.name === "QuotaExceededError";
      this.tell({ type: "unwritten", ids, full });
    }
  }

  private async erase(ids: readonly string[]): Promise<void> {
    try {
      const transaction = (await database()).transaction("entries", "readwrite");
      for (const id of ids) void transaction.store.delete(id);
      await transaction.done;
      this.tell({ type: "erased", ids });
      this.news?.postMessage({ about: "entries" } satisfies News);
    } catch {
      // Still in the database, and known to be gone: sent again by a later page, in vain.
    }
  }

  private async send(entries: readonly Entry[]): Promise<void> {
    const ids = entries.map((one) => one.id);
    const act = entries[0]?.act;
    try {
      const confirmed = await deliver(entries);
      if (confirmed) this.edge?.onConfirmed(confirmed);
      if (act?.kind === "engine" || act?.kind === "begin") this.edge?.onAdded();
      this.tell({ type: "delivered", ids });
      this.news?.postMessage({ about: "entries", inspection: act && inspectionOf(act) } satisfies News);
    } catch (error) {
      this.tell({ type: "failed", ids, failure: failure(error) });
    }
  }

  /** What the database holds; what pages that are gone have left is this page's from now on. */
  private async read(asleepMs = Infinity): Promise<void> {
    try {
      const alive = await alivePages();
      const transaction = (await database()).transaction("entries", "readwrite");
      const stored = await transaction.store.getAll();
      const entries = stored.map((entry): Entry => {
        const old = Date.now() - entry.order > asleepMs;
        if (entry.tab === this.state.tab || (alive?.has(entry.tab) && !old)) return entry;
        const taken = { ...entry, tab: this.state.tab };
        void transaction.store.put(taken);
        return taken;
      });
      await transaction.done;
      this.tell({ type: "read", entries });
    } catch {
      // Without its database the page works from what it knows.
      this.tell({ type: "read", entries: [] });
    }
  }

  private async hear(news: News): Promise<void> {
    if (news.about === "session") {
      this.edge?.askSession();
      return;
    }
    // Fetched first, so that nothing is missing from the screen in between.
    if (news.inspection) await this.edge?.onElsewhere(news.inspection);
    await this.read();
  }

  /** Ask the browser not to clear away what waits, once somebody has entered something. */
  private askToPersist(): void {
    if (this.asked) return;
    this.asked = true;
    void navigator.storage?.persist?.().catch(() => false);
  }
}

/** Ids of the pages that are there; undefined where the browser cannot say. */
async function alivePages(): Promise<ReadonlySet<string> | undefined> {
  if (!("locks" in navigator)) return undefined;
  const { held = [], pending = [] } = await navigator.locks.query();
  const names = [...held, ...pending].map((one) => one.name ?? "");
  return new Set(names.filter((name) => name.startsWith(TABS)).map((name) => name.slice(TABS.length)));
}

/** The queue of this page. */
export const queue = new Queue();
