import type { Document, Engine, Plan } from "../api/client";

/** Who entered something. Nobody else ever sends it. */
export interface Author {
  id: string;
  name: string;
  shop: string;
  shopName: string;
}

/** A word for the log: said of the cylinders as they were numbered where it was said. */
export interface Say {
  kind: "say";
  inspection: string;
  path: string;
  /** null takes the field back to "not looked at". */
  value: unknown;
  /** How much of the log was known. */
  seen: number;
  /** The cylinders' first numbers, in the order of the numbers of then. */
  numbering: readonly number[];
  /** What stands at the path is to stand. */
  keeps?: true;
}

/** A photo for a list of the document; the server makes it anew and lets it join. */
export interface Picture {
  kind: "photo";
  inspection: string;
  path: string;
  numbering: readonly number[];
  picture: Blob;
}

/** An engine that was described here. */
export interface AddEngine {
  kind: "engine";
  engine: string;
  data: Engine;
}

/** An inspection that was begun here, as it was then. */
export interface Begin {
  kind: "begin";
  inspection: string;
  engine: string;
  date: string;
  document: Document;
  plan: Plan;
}

export type Act = Say | Picture | AddEngine | Begin;

/** Why an entry was set aside. */
export interface Reason {
  code: string;
  text: string;
}

/** What is no matter of the value that was said, but of when, where or by whom. */
const OF_CIRCUMSTANCE = new Set(["signed-off", "server-fails", "depends", "permission_denied", "not_found", "not-found", "no-author", "from-file"]);

/** Whether saying it otherwise would do. */
export function correctable({ code }: Reason): boolean {
  return !OF_CIRCUMSTANCE.has(code);
}

/** One thing that somebody did on this device and that is on its way to the log. */
export interface Entry {
  /** Made here, so that sending it again changes nothing. */
  id: string;
  /** Counts up on this device: the order in which entries are sent. */
  order: number;
  author: Author;
  /** Who sends it in its author's name: an owner, for somebody who is shut out. */
  handed?: Author | undefined;
  device: string;
  /** When it was made, as this device tells the time. */
  made: string;
  /** The page that sends it; another takes it over once that page is gone. */
  tab: string;
  /** What it belongs to, in words, for lists. */
  title: string;
  act: Act;
  /** Set aside, with the reason; deleted by a person's act alone. */
  aside?: Reason;
  /** A person has it sent once more: what was said since does not give way to it unseen. */
  again?: true;
}

/** Who sends an entry. */
export function senderOf(entry: Entry): Author {
  return entry.handed ?? entry.author;
}

/** The inspection that an act belongs to. */
export function inspectionOf(act: Act): string | undefined {
  return act.kind === "engine" ? undefined : act.inspection;
}
