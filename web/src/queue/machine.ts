/**
 * What was entered on this device and is on its way to the log, as a state machine.
 *
 * Pure: a state and an event make the next state and what is to be done about it. The edge
 * (runner.ts) does it and tells what came of it by further events. Every entry is at any moment
 * exactly one of: in the log (gone from here), waiting here, set aside here with a reason. See
 * docs/architecture.md for the diagram, machine.test.ts for the histories it is held to.
 */
import { t } from "../language";
import { inspectionOf, senderOf, type Author, type Entry, type Reason } from "./entry";

/** Whether the device's database has an entry: only then does it outlive the page. */
export type Kept = "no" | "writing" | "yes";

export interface Held {
  entry: Entry;
  kept: Kept;
  /** How often the server failed on it alone. */
  failures: number;
}

/** How the device's database is. */
export type Storage = "opening" | "open" | "full" | "blocked" | "outdated" | "missing";

export interface State {
  /** This page. */
  tab: string;
  /** Who is signed in; undefined while that is not known. */
  person: Author | null | undefined;
  /** Whether the database has been asked what it holds. */
  ready: boolean;
  storage: Storage;
  /** Everything on this device, in order. */
  held: readonly Held[];
  /** What is under way; words and pictures do not wait for each other. */
  underway: { words: readonly string[]; picture: string | undefined };
  /** Delivered or discarded, and perhaps still in the database. */
  gone: ReadonlySet<string>;
  /** So many of the next are sent one at a time: one of them was refused. */
  alone: number;
  /** Attempts that nobody answered, one after the other. */
  attempts: number;
  /** Whether the next attempt waits for a retry. */
  resting: boolean;
  /** Why the last attempt did not get through. */
  trouble: string | undefined;
}

/** What came of an attempt that did not go through. `status` 0: nobody answered. */
export interface Failure {
  status: number;
  code: string;
  text: string;
}

export type Event =
  | { type: "signed"; person: Author | null }
  | { type: "made"; entries: readonly Entry[] }
  | { type: "read"; entries: readonly Entry[] }
  | { type: "written"; ids: readonly string[] }
  | { type: "unwritten"; ids: readonly string[]; full: boolean }
  | { type: "erased"; ids: readonly string[] }
  | { type: "storage"; storage: Storage }
  | { type: "delivered"; ids: readonly string[] }
  | { type: "failed"; ids: readonly string[]; failure: Failure }
  | { type: "retry"; afresh: boolean }
  | { type: "again"; ids: readonly string[] }
  | { type: "discard"; ids: readonly string[] }
  | { type: "hand"; author: string };

export type Effect =
  | { do: "write"; entries: readonly Entry[] }
  | { do: "erase"; ids: readonly string[] }
  | { do: "send"; entries: readonly Entry[] }
  | { do: "wait"; ms: number }
  | { do: "ask-session" };

export const MOST_AT_ONCE = 100;
const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 8_000;
/** So often may the server fail on one entry alone before the rest go on without it. */
export const MOST_FAILURES = 3;

export function initial(tab: string): State {
  return {
    tab,
    person: undefined,
    ready: false,
    storage: "opening",
    held: [],
    underway: { words: [], picture: undefined },
    gone: new Set(),
    alone: 0,
    attempts: 0,
    resting: false,
    trouble: undefined,
  };
}

/** The next state, and what is to be done. */
export function step(state: State, event: Event): [State, Effect[]] {
  const [next, effects] = take(state, event);
  const [sent, sending] = send(next);
  return [sent, [...effects, ...sending]];
}

function take(state: State, event: Event): [State, Effect[]] {
  switch (event.type) {
    case "signed":
      if (event.person?.id === state.person?.id) return [{ ...state, person: event.person }, []];
      return [{ ...state, person: event.person, attempts: 0, resting: false, trouble: undefined }, []];
    case "made":
      return write(
        { ...state, held: inOrder([...state.held, ...event.entries.map((entry) => fresh(entry))]) },
        event.entries,
      );
    case "read":
      return [read(state, event.entries), []];
    case "written":
      return [written(mark(state, event.ids, "yes")), []];
    case "unwritten":
      return [{ ...mark(state, event.ids, "no"), storage: event.full ? "full" : state.storage }, []];
    case "erased": {
      const erased = new Set(event.ids);
      const gone = new Set([...state.gone].filter((id) => !erased.has(id)));
      // There is room again, perhaps.
      return state.storage === "full" ? rewrite({ ...state, gone }) : [{ ...state, gone }, []];
    }
    case "storage":
      if (event.storage === "open") return rewrite({ ...state, storage: "open" });
      return [{ ...state, storage: event.storage, ready: state.ready || event.storage === "missing" }, []];
    case "delivered":
      return deliver(state, event.ids);
    case "failed":
      return fail(landed(state, event.ids), event.ids, event.failure);
    case "retry":
      return rewrite({ ...state, resting: false, attempts: event.afresh ? 0 : state.attempts });
    case "again":
      return again(state, event.ids);
    case "discard":
      return remove(state, new Set(event.ids.filter((id) => find(state, id)?.entry.aside)));
    case "hand":
      return hand(state, event.author);
  }
}

// ---------------------------------------------------------------- what the device's database holds

function fresh(entry: Entry): Held {
  return { entry, kept: "no", failures: 0 };
}

function inOrder(held: readonly Held[]): readonly Held[] {
  const sorted = held.every((one, index) => index === 0 || (held[index - 1]?.entry.order ?? 0) <= one.entry.order);
  return sorted ? held : [...held].sort((a, b) => a.entry.order - b.entry.order || (a.entry.id < b.entry.id ? -1 : 1));
}

function find(state: State, id: string): Held | undefined {
  return state.held.find((one) => one.entry.id === id);
}

function mark(state: State, ids: readonly string[], kept: Kept): State {
  const named = new Set(ids);
  return { ...state, held: state.held.map((one) => (named.has(one.entry.id) ? { ...one, kept } : one)) };
}

/** There is room again once everything could be written. */
function written(state: State): State {
  const all = state.storage === "full" && state.held.every((one) => one.kept === "yes");
  return all ? { ...state, storage: "open" } : state;
}

/** Have entries written down, where there is something to write to. */
function write(state: State, entries: readonly Entry[]): [State, Effect[]] {
  if (entries.length === 0 || state.storage === "missing" || state.storage === "outdated") return [state, []];
  const ids = entries.map((one) => one.id);
  return [mark(state, ids, "writing"), [{ do: "write", entries }]];
}

/** What could not be written is tried again. */
function rewrite(state: State): [State, Effect[]] {
  return write(state, state.held.filter((one) => one.kept === "no").map((one) => one.entry));
}

/** What the database holds, other pages' entries included; what it does not have yet stays. */
function read(state: State, entries: readonly Entry[]): State {
  const stored = new Map(entries.filter((one) => !state.gone.has(one.id)).map((one) => [one.id, one]));
  const known = state.held.flatMap((one): Held[] => {
    const now = stored.get(one.entry.id);
    stored.delete(one.entry.id);
    // What is still being written here is newer than what was read.
    if (now) return [one.kept === "yes" ? { ...one, entry: now } : one];
    // Another page delivered it, or a person discarded it there.
    return one.kept === "yes" && !isUnderway(state, one.entry.id) ? [] : [one];
  });
  const added = [...stored.values()].map((entry): Held => ({ entry, kept: "yes", failures: 0 }));
  return { ...state, ready: true, held: inOrder([...known, ...added]) };
}

function remove(state: State, ids: ReadonlySet<string>): [State, Effect[]] {
  if (ids.size === 0) return [state, []];
  const held = state.held.filter((one) => !ids.has(one.entry.id));
  return [{ ...state, held, gone: new Set([...state.gone, ...ids]) }, [{ do: "erase", ids: [...ids] }]];
}

// ------------------------------------------------------------------------------------- sending it

function isUnderway(state: State, id: string): boolean {
  return state.underway.picture === id || state.underway.words.includes(id);
}

/** Send what is next of the words, and of the pictures; nobody's but the signed-in person's own. */
function send(state: State): [State, Effect[]] {
  const { person } = state;
  if (!person || state.resting) return [state, []];
  const mine = state.held
    .map((one) => one.entry)
    .filter((one) => senderOf(one).id === person.id && one.tab === state.tab && !one.aside);
  const effects: Effect[] = [];
  let { underway } = state;
  if (underway.words.length === 0) {
    const words = batch(mine.filter((one) => one.act.kind !== "photo"), state.alone > 0 ? 1 : MOST_AT_ONCE);
    if (words.length > 0) {
      underway = { ...underway, words: words.map((one) => one.id) };
      effects.push({ do: "send", entries: words });
    }
  }
  if (underway.picture === undefined) {
    const picture = mine.find((one, index) => one.act.kind === "photo" && !waitsFor(one, mine.slice(0, index)));
    if (picture) {
      underway = { ...underway, picture: picture.id };
      effects.push({ do: "send", entries: [picture] });
    }
  }
  return [effects.length > 0 ? { ...state, underway } : state, effects];
}

/** A photo goes when everything that was said before it of its inspection is there. */
function waitsFor(picture: Entry, before: readonly Entry[]): boolean {
  const inspection = inspectionOf(picture.act);
  return before.some((one) => one.act.kind === "engine" || inspectionOf(one.act) === inspection);
}

/** The first entries that go in one request: words of one inspection, or one other thing. */
function batch(words: readonly Entry[], most: number): readonly Entry[] {
  const first = words[0];
  if (first?.act.kind !== "say") return words.slice(0, 1);
  const { act, author } = first;
  const end = words.findIndex(
    (one) => one.act.kind !== "say" || one.act.inspection !== act.inspection || one.author.id !== author.id,
  );
  return words.slice(0, Math.min(most, end < 0 ? words.length : end));
}

function landed(state: State, ids: readonly string[]): State {
  const { words, picture } = state.underway;
  return {
    ...state,
    underway: {
      words: words.some((id) => ids.includes(id)) ? [] : words,
      picture: picture !== undefined && ids.includes(picture) ? undefined : picture,
    },
  };
}

function deliver(state: State, ids: readonly string[]): [State, Effect[]] {
  const back = landed(state, ids);
  return remove({ ...back, alone: Math.max(back.alone - 1, 0), attempts: 0, trouble: undefined }, new Set(ids));
}

/** Nothing was wrong with what was sent: nobody answered, or had no time or room for it. */
function passing({ status }: Failure): boolean {
  return [0, 408, 425, 429, 502, 503, 504, 507].includes(status);
}

function fail(state: State, ids: readonly string[], failure: Failure): [State, Effect[]] {
  if (failure.code === "another-author") {
    const handed = new Set(ids.filter((id) => find(state, id)?.entry.handed));
    // Its author may write again, or the person who has it no longer speaks for others: it is the author's as before.
    if (handed.size > 0) return changed(state, handed, (entry) => ({ ...entry, handed: undefined }));
  }
  const session = failure.status === 401 || ["another-author", "csrf"].includes(failure.code);
  if (passing(failure) || session) {
    const [waiting, effects] = later(state, failure);
    return [waiting, session ? [...effects, { do: "ask-session" }] : effects];
  }
  // One of several was refused, so all were: find out which.
  if (ids.length > 1) return [{ ...state, alone: ids.length }, []];
  const [id] = ids;
  const failures = (id === undefined ? 0 : (find(state, id)?.failures ?? 0)) + 1;
  if (id === undefined) return [state, []];
  if (failure.status >= 500 && failures < MOST_FAILURES) {
    const held = state.held.map((one) => (one.entry.id === id ? { ...one, failures } : one));
    return later({ ...state, held }, failure);
  }
  const code = failure.status >= 500 ? "server-fails" : failure.code;
  return setAside({ ...state, alone: Math.max(state.alone - 1, 0), trouble: undefined }, id, { code, text: failure.text });
}

function later(state: State, failure: Failure): [State, Effect[]] {
  const ms = Math.min(FIRST_WAIT_MS * 2 ** state.attempts, LONGEST_WAIT_MS);
  return [{ ...state, attempts: state.attempts + 1, resting: true, trouble: failure.text }, [{ do: "wait", ms }]];
}

// ------------------------------------------------------------------------------------- set aside

/** What cannot be without another: an inspection without its engine, words without theirs. */
function needs(entry: Entry, other: Entry): boolean {
  if (entry.id === other.id || entry.author.id !== other.author.id) return false;
  if (other.act.kind === "engine") return entry.act.kind === "begin" && entry.act.engine === other.act.engine;
  return other.act.kind === "begin" && inspectionOf(entry.act) === other.act.inspection;
}

function withDependents(state: State, ids: readonly string[]): ReadonlySet<string> {
  const found = new Set(ids);
  for (const one of state.held) {
    // In order: an engine comes before its inspection, that before its words.
    if (state.held.some((other) => found.has(other.entry.id) && needs(one.entry, other.entry))) found.add(one.entry.id);
  }
  return found;
}

function changed(state: State, ids: ReadonlySet<string>, change: (entry: Entry) => Entry): [State, Effect[]] {
  const held = state.held.map((one) =>
    ids.has(one.entry.id) ? { ...one, failures: 0, entry: change(one.entry) } : one,
  );
  const entries = held.filter((one) => ids.has(one.entry.id)).map((one) => one.entry);
  return write({ ...state, held }, entries);
}

function setAside(state: State, id: string, reason: Reason): [State, Effect[]] {
  const ids = withDependents(state, [id]);
  return changed(state, ids, (entry) => ({
    ...entry,
    aside: entry.id === id ? reason : { code: "depends", text: t("What it belongs to was not taken: {{text}}", { text: reason.text }) },
  }));
}

/** A person has it tried once more, with what depends on it. */
function again(state: State, ids: readonly string[]): [State, Effect[]] {
  const all = withDependents(state, ids.filter((id) => find(state, id)?.entry.aside));
  return changed({ ...state, resting: false }, all, (entry) => ({ ...entry, tab: state.tab, aside: undefined, again: true as const }));
}

/** The signed-in person sends what somebody else left here; it stays what its author entered. */
function hand(state: State, author: string): [State, Effect[]] {
  const { person } = state;
  if (!person || person.id === author) return [state, []];
  const ids = state.held.map((one) => one.entry).filter((one) => one.author.id === author && one.author.shop === person.shop);
  return changed({ ...state, resting: false }, new Set(ids.map((one) => one.id)), (entry) => ({
    ...entry,
    handed: person,
    tab: state.tab,
    aside: undefined,
  }));
}

// -------------------------------------------------------------------------------- what is said of it

export interface Summary {
  /** On their way, the signed-in person's own. */
  waiting: number;
  /** Of them, those that would be gone with the page. */
  unwritten: number;
  /** Set aside, the signed-in person's own. */
  aside: number;
  /** Locked to others who work on this device. */
  others: readonly { author: Author; count: number }[];
}

export function summary(state: State): Summary {
  const me = state.person?.id;
  const own = state.held.filter((one) => senderOf(one.entry).id === me);
  const others = new Map<string, { author: Author; count: number }>();
  for (const { entry } of state.held) {
    if (senderOf(entry).id === me) continue;
    const known = others.get(entry.author.id);
    others.set(entry.author.id, { author: entry.author, count: (known?.count ?? 0) + 1 });
  }
  const waiting = own.filter((one) => !one.entry.aside);
  return {
    waiting: waiting.length,
    unwritten: waiting.filter((one) => one.kept !== "yes").length,
    aside: own.length - waiting.length,
    others: [...others.values()],
  };
}
