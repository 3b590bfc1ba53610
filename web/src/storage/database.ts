import { t } from "../language";
import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { Entry } from "../queue/entry";

interface Stores extends DBSchema {
  entries: { key: string; value: Entry };
  answers: { key: string; value: unknown };
}

export type Database = IDBPDatabase<Stores>;

/**
 * How the browser's own database is: `blocked` by an older page that holds it, `outdated` because a
 * newer page wants it otherwise, `missing` where the browser gives none.
 */
export type Availability = "opening" | "open" | "blocked" | "outdated" | "missing";

/** Raised when answers are spelt otherwise: what was kept of the old ones is asked again. */
const VERSION = 5;
let availability: Availability = "opening";
let opened: Promise<Database> | undefined;
const listeners = new Set<(now: Availability) => void>();

function tell(now: Availability): void {
  availability = now;
  for (const listener of listeners) listener(now);
}

/** Be told how the database is, now and whenever that changes. */
export function watchDatabase(listener: (now: Availability) => void): void {
  listeners.add(listener);
  listener(availability);
  void open().catch(() => undefined);
}

function open(): Promise<Database> {
  // Where a browser gives none, even asking for it may throw.
  opened ??= Promise.resolve().then(() => openDB<Stores>("fiacre", VERSION, {
    async upgrade(db, from, _to, transaction) {
      if (!db.objectStoreNames.contains("answers")) db.createObjectStore("answers");
      else await transaction.objectStore("answers").clear();
      if (!db.objectStoreNames.contains("entries")) db.createObjectStore("entries", { keyPath: "id" });
      if (from > 0 && from < 4) await carryOver(db as unknown as IDBPDatabase, transaction.objectStore("entries"));
    },
    blocked: () => tell("blocked"),
    blocking(_current, _blocked, event) {
      (event.target as IDBDatabase).close();
      tell("outdated");
    },
    terminated() {
      opened = undefined;
      tell("opening");
      void open().catch(() => undefined);
    },
  })).then(
    (db) => {
      tell("open");
      return db;
    },
    (error: unknown) => {
      tell("missing");
      throw error;
    },
  );
  return opened;
}

/** What waited before entries had authors: nobody may send it as theirs, and nothing is deleted. */
async function carryOver(db: IDBPDatabase, entries: { put: (entry: Entry) => Promise<unknown> }): Promise<void> {
  const names = ["outbox", "photos"].filter((name) => db.objectStoreNames.contains(name));
  const rows: Record<string, unknown>[] = [];
  for (const name of names) rows.push(...((await db.getAll(name)) as Record<string, unknown>[]));
  for (const [index, row] of rows.entries()) {
    const path = String(row["path"]);
    const inspection = String(row["inspection"]);
    await entries.put({
      id: String(row["client_id"] ?? row["id"]),
      order: index + 1,
      author: { id: "", name: t("somebody, before entries had names"), shop: "", shopName: "" },
      device: String(row["device"] ?? ""),
      made: "",
      tab: "",
      title: "",
      act: row["picture"]
        ? { kind: "photo", inspection, path, numbering: [], picture: row["picture"] as Blob }
        : { kind: "say", inspection, path, value: row["value"] ?? null, seen: Number(row["seen"] ?? 0), numbering: [] },
      aside: { code: "no-author", text: t("It was entered with an older version, which did not note by whom.") },
    });
  }
  for (const name of names) db.deleteObjectStore(name);
}

/** The database, however long it takes. */
export function database(): Promise<Database> {
  return open();
}

/** The database if there is one to be had soon; undefined where it is blocked or missing. */
export async function databaseIfAny(): Promise<Database | undefined> {
  const known = new Promise<undefined>((resolve) => {
    const listen = (now: Availability) => {
      if (now === "opening") return;
      listeners.delete(listen);
      if (now !== "open") resolve(undefined);
    };
    listeners.add(listen);
    listen(availability);
  });
  return Promise.race([open().catch(() => undefined), known]);
}
