import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { inspectionOf, type Author, type Entry } from "./entry";
import { initial, MOST_FAILURES, step, summary, type Effect, type Event, type Failure, type State } from "./machine";

const ANNA: Author = { id: "anna", name: "Anna", shop: "yard", shopName: "The yard" };
const BO: Author = { id: "bo", name: "Bo", shop: "yard", shopName: "The yard" };
const NUMBERINGS = [[1, 2, 3], [3, 2, 1], [2, 3, 1]];

let made = 0;
function say(author: Author, tab: string, inspection = "i1", numbering = NUMBERINGS[0] ?? []): Entry {
  made += 1;
  const act = { kind: "say" as const, inspection, path: "/cylinders/1/well/oil", value: made, seen: 0, numbering };
  return { id: `e${made}`, order: made, author, device: "d", made: "", tab, title: "", act };
}

function photo(author: Author, tab: string, inspection: string): Entry {
  const picture = { kind: "photo" as const, inspection, path: "/cylinders/1/photos", numbering: [1], picture: new Blob() };
  return { ...say(author, tab), act: picture };
}

/** A machine with its effects collected, for histories written by hand. */
class Page {
  effects: Effect[] = [];
  constructor(public state: State = initial("t1")) {}
  tell(...events: Event[]): this {
    for (const event of events) {
      const [next, effects] = step(this.state, event);
      this.state = next;
      this.effects.push(...effects);
    }
    return this;
  }
  sent(): string[] {
    return this.effects.flatMap((one) => (one.do === "send" ? one.entries.map((entry) => entry.id) : []));
  }
}

function opened(person: Author = ANNA): Page {
  return new Page().tell({ type: "storage", storage: "open" }, { type: "read", entries: [] }, { type: "signed", person });
}

const refused: Failure = { status: 400, code: "signed-off", text: "signed meanwhile" };

describe("what is entered", () => {
  it("is sent after re-opening, and so is what is typed then", () => {
    const [old, fresh] = [say(ANNA, "t0"), say(ANNA, "t1")];
    const page = new Page().tell({ type: "signed", person: ANNA }, { type: "read", entries: [{ ...old, tab: "t1" }] });
    page.tell({ type: "made", entries: [fresh] }, { type: "delivered", ids: [old.id] });
    expect(page.sent()).toEqual([old.id, fresh.id]);
  });

  it("waits for its author, whoever else signs in", () => {
    const entry = say(ANNA, "t1");
    const page = opened(BO).tell({ type: "read", entries: [entry] });
    expect(page.sent()).toEqual([]);
    expect(summary(page.state).others).toEqual([{ author: ANNA, count: 1 }]);
    page.tell({ type: "signed", person: null }, { type: "signed", person: ANNA });
    expect(page.sent()).toEqual([entry.id]);
  });

  it("of somebody who was shut out is sent by an owner, apart from the owner's own and as its author's", () => {
    const left = [say(ANNA, "t0"), { ...say(ANNA, "t0"), aside: { code: "server-fails", text: "" } }];
    const page = opened(BO).tell({ type: "read", entries: left }, { type: "hand", author: ANNA.id });
    const own = say(BO, "t1");
    page.tell({ type: "made", entries: [own] });
    expect(page.sent()).toEqual(left.map((one) => one.id));
    page.tell({ type: "delivered", ids: left.map((one) => one.id) });
    expect(page.sent()).toEqual([...left, own].map((one) => one.id));
    expect(page.effects.flatMap((one) => (one.do === "send" ? one.entries.map((entry) => entry.author.id) : []))).toEqual(["anna", "anna", "bo"]);
    const elsewhere = { ...say(ANNA, "t0"), author: { ...ANNA, id: "cy", shop: "other" } };
    page.tell({ type: "read", entries: [elsewhere] }, { type: "hand", author: "cy" });
    expect(summary(page.state).others).toHaveLength(1);
  });

  it("is set aside when it is refused for good, and the others go on", () => {
    const [bad, good] = [say(ANNA, "t1"), say(ANNA, "t1")];
    const page = opened().tell({ type: "made", entries: [bad, good] });
    page.tell({ type: "failed", ids: [bad.id, good.id], failure: refused });
    page.tell({ type: "failed", ids: [bad.id], failure: refused }, { type: "delivered", ids: [good.id] });
    expect(page.state.held.map((one) => [one.entry.id, one.entry.aside?.code])).toEqual([[bad.id, "signed-off"]]);
    page.tell({ type: "again", ids: [bad.id] });
    expect(page.sent().filter((id) => id === bad.id)).toHaveLength(3);
  });

  it("does not block the rest when the server fails on it", () => {
    const [poison, good] = [say(ANNA, "t1"), say(ANNA, "t1")];
    const page = opened().tell({ type: "made", entries: [poison, good] });
    const failure = { status: 500, code: "failed", text: "failed" };
    page.tell({ type: "failed", ids: [poison.id, good.id], failure });
    for (let time = 0; time < MOST_FAILURES; time += 1) {
      page.tell({ type: "failed", ids: [poison.id], failure }, { type: "retry", afresh: false });
    }
    expect(page.sent().at(-1)).toBe(good.id);
    expect(page.state.held[0]?.entry.aside?.code).toBe("server-fails");
  });

  it("stays where it is while nobody answers, for as long as it takes", () => {
    const entry = say(ANNA, "t1");
    const page = opened().tell({ type: "made", entries: [entry] });
    for (let time = 0; time < 20; time += 1) {
      page.tell({ type: "failed", ids: [entry.id], failure: { status: 503, code: "away", text: "away" } });
      page.tell({ type: "retry", afresh: false });
    }
    expect(page.state.held[0]?.entry.aside).toBeUndefined();
    const waits = page.effects.flatMap((one) => (one.do === "wait" ? [one.ms] : []));
    expect(waits.slice(0, 3)).toEqual([500, 1000, 2000]);
    expect(Math.max(...waits)).toBe(8000);
  });

  it("waits while nobody is signed in any more, and asks who is there", () => {
    const entry = say(ANNA, "t1");
    const page = opened().tell({ type: "made", entries: [entry] });
    for (const [status, code] of [[401, "not_authenticated"], [409, "another-author"], [403, "csrf"]] as const) {
      page.effects = [];
      page.tell({ type: "failed", ids: [entry.id], failure: { status, code, text: "" } }, { type: "retry", afresh: true });
      expect(page.effects.map((one) => one.do)).toContain("ask-session");
      expect(page.state.held[0]?.entry.aside).toBeUndefined();
    }
  });

  it("goes back to its author where it may not be sent in their name, and stops nobody else", () => {
    const [left, own] = [say(BO, "t1"), say(ANNA, "t1")];
    const page = opened().tell({ type: "read", entries: [left] }, { type: "hand", author: BO.id }, { type: "made", entries: [own] });
    expect(page.sent()).toEqual([left.id]);
    page.tell({ type: "failed", ids: [left.id], failure: { status: 409, code: "another-author", text: "" } });
    expect(page.sent()).toEqual([left.id, own.id]);
    expect(page.state.held[0]?.entry.handed).toBeUndefined();
    expect(summary(page.state).others).toEqual([{ author: BO, count: 1 }]);
  });

  it("does not come back from the database once it was delivered", () => {
    const entry = say(ANNA, "t1");
    const page = opened().tell({ type: "made", entries: [entry] }, { type: "delivered", ids: [entry.id] });
    page.tell({ type: "read", entries: [entry] });
    expect(page.state.held).toEqual([]);
    expect(page.sent()).toEqual([entry.id]);
  });

  it("takes what belongs to it aside with it, and back", () => {
    const begin: Entry = {
      ...say(ANNA, "t1", "new"),
      act: { kind: "begin", inspection: "new", engine: "x", date: "", document: {} as never, plan: {} as never },
    };
    const word = say(ANNA, "t1", "new");
    const page = opened().tell({ type: "made", entries: [begin, word] }, { type: "failed", ids: [begin.id], failure: refused });
    expect(page.state.held.map((one) => one.entry.aside?.code)).toEqual(["signed-off", "depends"]);
    page.tell({ type: "again", ids: [begin.id] }, { type: "delivered", ids: [begin.id] });
    expect(page.sent()).toEqual([begin.id, begin.id, word.id]);
  });

  it("is called kept only once the device has it, and a full device is said and tried again", () => {
    const entry = say(ANNA, "t1");
    const page = opened().tell({ type: "made", entries: [entry] });
    expect(summary(page.state).unwritten).toBe(1);
    page.tell({ type: "unwritten", ids: [entry.id], full: true });
    expect(page.state.storage).toBe("full");
    page.tell({ type: "retry", afresh: false }, { type: "written", ids: [entry.id] });
    expect([page.state.storage, summary(page.state).unwritten]).toEqual(["open", 0]);
  });
});

// ------------------------------------------------------------------------------- random histories

interface Tab {
  name: string;
  state: State;
  effects: Effect[];
  /** Answers on their way back. */
  answers: Event[];
}

interface Logged {
  entry: Entry;
  by: string;
}

/** Devices, people and a server that do whatever they like, one move at a time. */
class World {
  disk = new Map<string, Entry>();
  tabs: Tab[] = [];
  log: Logged[] = [];
  signed = new Set<string>();
  poison = new Set<string>();
  cookie: Author | null = ANNA;
  network = true;
  full = false;
  missing = false;
  numbering = 0;
  typed = new Map<string, Entry>();
  claimed = new Set<string>();
  discarded = new Set<string>();
  retried = new Set<string>();
  names = 0;

  open(): Tab {
    this.names += 1;
    const tab: Tab = { name: `tab${this.names}`, state: initial(`tab${this.names}`), effects: [], answers: [] };
    this.tabs.push(tab);
    this.tell(tab, { type: "storage", storage: this.missing ? "missing" : "open" });
    this.tell(tab, { type: "signed", person: this.cookie });
    this.read(tab);
    return tab;
  }

  /** What runner.ts does: entries of pages that are gone are taken over. */
  read(tab: Tab): void {
    if (tab.state.storage === "missing") return;
    const alive = new Set(this.tabs.map((one) => one.name));
    for (const [id, entry] of this.disk) if (!alive.has(entry.tab)) this.disk.set(id, { ...entry, tab: tab.name });
    this.tell(tab, { type: "read", entries: [...this.disk.values()] });
  }

  tell(tab: Tab, event: Event): void {
    const [next, effects] = step(tab.state, event);
    tab.state = next;
    tab.effects.push(...effects);
    for (const one of next.held) if (one.kept === "yes") this.claimed.add(one.entry.id);
    for (const effect of effects) {
      if (effect.do !== "send") continue;
      for (const entry of effect.entries) {
        expect(entry.author.id, "sent by nobody but its author").toBe(next.person?.id);
        expect(entry.aside, "what is set aside is not sent").toBeUndefined();
      }
    }
  }

  type(tab: Tab, pick: number): void {
    const person = tab.state.person;
    if (!person) return;
    const numbering = NUMBERINGS[this.numbering] ?? [];
    const inspection = `i${pick % 2}`;
    const entry = pick % 5 === 4 ? photo(person, tab.name, inspection) : say(person, tab.name, inspection, numbering);
    this.typed.set(entry.id, entry);
    this.tell(tab, { type: "made", entries: [entry] });
  }

  /** Do one thing that a page has asked for. */
  run(tab: Tab, pick: number): void {
    if (tab.answers.length > 0 && pick % 2 === 0) {
      this.tell(tab, tab.answers.shift() as Event);
      return;
    }
    const effect = tab.effects.shift();
    if (!effect) return;
    const ids = "entries" in effect ? effect.entries.map((one) => one.id) : "ids" in effect ? effect.ids : [];
    if (effect.do === "write") {
      if (this.full) tab.answers.push({ type: "unwritten", ids, full: true });
      else {
        for (const entry of effect.entries) this.disk.set(entry.id, entry);
        tab.answers.push({ type: "written", ids });
      }
    } else if (effect.do === "erase") {
      for (const id of ids) this.disk.delete(id);
      tab.answers.push({ type: "erased", ids });
    } else if (effect.do === "wait") tab.answers.push({ type: "retry", afresh: false });
    else if (effect.do === "ask-session") {
      if (this.network) tab.answers.push({ type: "signed", person: this.cookie });
    } else tab.answers.push(this.serve(effect.entries, pick));
  }

  serve(entries: readonly Entry[], pick: number): Event {
    const ids = entries.map((one) => one.id);
    const fail = (status: number, code: string): Event => ({ type: "failed", ids, failure: { status, code, text: code } });
    if (!this.network) return fail(0, "no-answer");
    if (!this.cookie) return fail(401, "not_authenticated");
    if (entries.some((one) => one.author.id !== this.cookie?.id)) return fail(409, "another-author");
    if (ids.some((id) => this.poison.has(id))) return fail(500, "failed");
    if (pick % 11 === 0) return fail(503, "database-away");
    const fresh = entries.filter((one) => !this.log.some((row) => row.entry.id === one.id));
    if (fresh.some((one) => this.signed.has(inspectionOf(one.act) ?? ""))) return fail(400, "signed-off");
    for (const entry of fresh) this.log.push({ entry, by: this.cookie.id });
    // Taken, and the answer may be lost on its way.
    return pick % 7 === 0 ? fail(0, "no-answer") : { type: "delivered", ids };
  }

  kill(tab: Tab): void {
    this.tabs = this.tabs.filter((one) => one !== tab);
    if (this.tabs.length === 0) this.open();
  }

  move(kind: number, pick: number): void {
    const tab = this.tabs[pick % this.tabs.length] ?? this.open();
    const inspection = `i${pick % 2}`;
    const aside = tab.state.held.filter((one) => one.entry.aside && one.entry.author.id === tab.state.person?.id);
    const one = aside[pick % Math.max(aside.length, 1)]?.entry;
    const moves: (() => void)[] = [
      () => this.type(tab, pick),
      () => this.type(tab, pick),
      ...Array.from({ length: 6 }, () => () => this.run(tab, pick)),
      () => void (this.network = !this.network),
      () => void (this.full = pick % 3 === 0),
      () => this.kill(tab),
      () => void (this.tabs.length < 3 && this.open()),
      () => this.read(tab),
      () => this.tell(tab, { type: "retry", afresh: true }),
      () => void (this.signed.has(inspection) ? this.signed.delete(inspection) : this.signed.add(inspection)),
      () => void (this.cookie = pick % 3 === 0 ? null : pick % 3 === 1 ? ANNA : BO),
      () => this.tell(tab, { type: "signed", person: this.cookie }),
      () => void (this.numbering = pick % NUMBERINGS.length),
      () => {
        if (pick % 4 === 0) this.poison.add([...this.typed.keys()].at(-1) ?? "");
      },
      () => {
        if (!one) return;
        this.retried.add(one.id);
        this.tell(tab, { type: "again", ids: [one.id] });
      },
      () => {
        if (!one || pick % 5 !== 0) return;
        this.discarded.add(one.id);
        this.tell(tab, { type: "discard", ids: [one.id] });
      },
    ];
    moves[kind % moves.length]?.();
    this.check();
  }

  /** Nothing that the device was said to have is anywhere but in the log, or here. */
  check(): void {
    const logged = new Set(this.log.map((row) => row.entry.id));
    const here = new Set([...this.disk.keys(), ...this.tabs.flatMap((tab) => tab.state.held.map((one) => one.entry.id))]);
    for (const id of this.claimed) {
      if (!logged.has(id) && !this.discarded.has(id)) expect(here, `${id} is lost`).toContain(id);
    }
  }

  /** Everybody comes back, one after the other, to a network and a server that are well. */
  heal(): void {
    Object.assign(this, { network: true, full: false });
    this.signed.clear();
    this.poison.clear();
    for (const person of [ANNA, BO]) {
      this.cookie = person;
      for (let turn = 1; turn < 200; turn += 1) {
        for (const tab of this.tabs) {
          if (turn % 20 === 1) this.tell(tab, { type: "signed", person });
          if (turn % 20 === 1) this.read(tab);
          if (turn % 20 === 3) this.tell(tab, { type: "retry", afresh: true });
          this.run(tab, 2);
          this.run(tab, 1);
        }
      }
    }
  }

  judge(): void {
    const counted = new Map<string, number>();
    for (const { entry, by } of this.log) {
      const typed = this.typed.get(entry.id);
      counted.set(entry.id, (counted.get(entry.id) ?? 0) + 1);
      expect(by, "under its author's name").toBe(typed?.author.id);
      expect(entry.act, "as it was said, of the cylinder that it was said of").toEqual(typed?.act);
    }
    const here = new Map<string, Entry>();
    for (const entry of this.disk.values()) here.set(entry.id, entry);
    for (const tab of this.tabs) {
      for (const one of tab.state.held) {
        here.set(one.entry.id, one.entry);
        expect(one.entry.aside, "what is left is set aside, with a reason").toBeDefined();
      }
    }
    for (const id of this.typed.keys()) {
      const places = (counted.get(id) ?? 0) + (here.has(id) ? 1 : 0);
      if (this.claimed.has(id) && !this.discarded.has(id)) expect(places, `${id} is in one place`).toBe(1);
      else expect(places, `${id} is in one place at most`).toBeLessThanOrEqual(1);
    }
    const plain = this.log.filter((row) => !this.retried.has(row.entry.id));
    const last = new Map<string, number>();
    for (const { entry } of plain) {
      const line = `${entry.author.id} ${entry.act.kind} ${inspectionOf(entry.act)} ${this.typed.get(entry.id)?.tab}`;
      expect(entry.order, "in order").toBeGreaterThan(last.get(line) ?? 0);
      last.set(line, entry.order);
    }
  }

}

const HISTORIES = Number(import.meta.env["VITE_HISTORIES"] ?? 1000);
const SEED = Number(import.meta.env["VITE_SEED"] ?? Date.now() % 2 ** 31);

describe("a photo", () => {
  it("waits for the words before it, and no word waits for a photo", () => {
    const [first, picture, later] = [say(ANNA, "t1"), photo(ANNA, "t1", "i1"), say(ANNA, "t1")];
    const page = opened().tell({ type: "made", entries: [first, picture] }, { type: "made", entries: [later] });
    expect(page.sent()).toEqual([first.id]);
    page.tell({ type: "delivered", ids: [first.id] });
    expect(page.sent()).toEqual([first.id, later.id, picture.id]);
  });
});

describe("random histories of typing, losing the network, killing, signing in and out", () => {
  it(`end with every entry in one place, under its author, in order (${HISTORIES}, seed ${SEED})`, { timeout: 300_000 }, () => {
    const move = fc.tuple(fc.nat(1000), fc.nat(1000));
    const history = fc.tuple(fc.boolean(), fc.array(move, { minLength: 10, maxLength: 80 }));
    fc.assert(
      fc.property(history, ([missing, moves]) => {
        const world = new World();
        world.missing = missing && moves.length % 5 === 0;
        world.open();
        for (const [kind, pick] of moves) world.move(kind, pick);
        world.heal();
        world.judge();
      }),
      { numRuns: HISTORIES, seed: SEED },
    );
  });
});
