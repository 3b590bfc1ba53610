import { openDB, type DBSchema, type IDBPDatabase } from "idb";

/** An observation on its way, as the browser keeps it. */
export interface Waiting {
  /** Counts up as entries are made here: the order in which they are sent. */
  order?: number;
  inspection: string;
  client_id: string;
  path: string;
  value: unknown;
  device: string;
  /** What was known of the log when it was made. */
  seen: number;
}

/** A photo on its way; it goes into the document once the server has made it anew. */
export interface WaitingPhoto {
  id: string;
  inspection: string;
  /** The list in the document that it joins. */
  path: string;
  picture: Blob;
}

interface Stores extends DBSchema {
  photos: { key: string; value: WaitingPhoto; indexes: { inspection: string } };
  outbox: { key: number; value: Waiting; indexes: { inspection: string } };
  answers: { key: string; value: unknown };
}

let opened: Promise<IDBPDatabase<Stores>> | undefined;

/** The browser's own database: what waits to be sent, and the last answers of the server. */
export function database(): Promise<IDBPDatabase<Stores>> {
  opened ??= openDB<Stores>("fiacre", 3, {
    upgrade(db, from, _to, transaction) {
      if (from < 1) {
        const outbox = db.createObjectStore("outbox", { keyPath: "order", autoIncrement: true });
        outbox.createIndex("inspection", "inspection");
        db.createObjectStore("answers");
      }
      if (from < 2) {
        db.createObjectStore("photos", { keyPath: "id" }).createIndex("inspection", "inspection");
      }
      // Answers from before the way back was recorded have another shape; what waits is kept.
      if (from < 3) void transaction.objectStore("answers").clear();
    },
  });
  return opened;
}
