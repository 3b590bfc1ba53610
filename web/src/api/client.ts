import { t } from "../language";
import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema.generated";

export type Schemas = components["schemas"];
export type Inspection = Schemas["Inspection"];
/** What answers an entry: that it is kept; what is told of it may be asked for later. */
export type EntryAnswer = Schemas["EntryAnswer"];
export type Document = Inspection["document"];
export type Engine = Document["engine"];
export type Assessment = Inspection["assessment"];
export type CylinderAssessment = Assessment["cylinders"][number];
export type Plan = Schemas["Plan"];
/** An entry for the log; what may be said at which path is the server's business. */
export type Said = Omit<Schemas["SaidRequest"], "value" | "numbering" | "keeps" | "again"> & {
  value: unknown;
  numbering: readonly number[];
  keeps?: true;
  again?: true;
};

export interface Problem {
  code: string;
  path: string;
  value: string;
  expected: string;
}

/** A refusal of the server, or the absence of one: `status` 0 means nobody answered. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly problems: readonly Problem[],
  ) {
    super(message);
  }

  /** Worth sending again as it is: nothing was wrong with what was said. */
  get passing(): boolean {
    return this.status === 0 || this.status === 429 || this.status >= 500;
  }
}

/** Whoever has not answered after so long is taken not to. */
const PATIENCE_MS = 30_000;
const PATIENCE_WITH_FILES_MS = 180_000;

const noAnswer = () => new Refused(0, "no-answer", t("The server does not answer."), []);

function cookie(name: string): string {
  const found = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    return request;
  },
};

export const api = createClient<paths>({ baseUrl: window.location.origin });
api.use(withToken);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer, or a Refused that says what is wrong. */
export async function take<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await asked;
  } catch {
    throw noAnswer();
  }
  if (answer.response.ok) return answer.data as T;
  throw refusal(answer.response.status, answer.error);
}

export function refusal(status: number, body: unknown): Refused {
  const said = (typeof body === "object" && body !== null ? body : {}) as Partial<{
    code: string;
    detail: string;
    problems: Problem[];
  }>;
  return new Refused(
    status,
    said.code ?? "refused",
    said.detail ?? t("The server refused this ({{status}}).", { status }),
    said.problems ?? [],
  );
}

/** Send something as it is. The request is on its way when this returns. */
async function send<T>(address: string, body: Blob | string, type: string): Promise<T> {
  let response: Response;
  try {
    response = await fetch(address, {
      method: "POST",
      headers: { "Content-Type": type, "X-CSRFToken": cookie("csrftoken") },
      body,
      signal: AbortSignal.timeout(body instanceof Blob ? PATIENCE_WITH_FILES_MS : PATIENCE_MS),
    });
  } catch {
    if (body instanceof Blob) await readable(body);
    throw noAnswer();
  }
  let answer: unknown;
  try {
    answer = await response.json();
  } catch {
    // A server that dies while it answers has said nothing, whatever its first line was.
    if (response.ok) throw noAnswer();
  }
  if (!response.ok) throw refusal(response.status, answer);
  return answer as T;
}

/** A file that takes the place of the one before. */
export async function upload(address: string, file: File): Promise<void> {
  const headers = { "Content-Type": "application/octet-stream", "X-CSRFToken": cookie("csrftoken") };
  const response = await fetch(address, { method: "PUT", headers, body: file }).catch(() => {
    throw noAnswer();
  });
  if (!response.ok) throw refusal(response.status, await response.json().catch(() => null));
}

/** A file may have gone since it was chosen: then the server is not to blame. */
async function readable(file: Blob): Promise<void> {
  try {
    await file.slice(0, 1).arrayBuffer();
  } catch {
    throw new Refused(400, "unreadable", t("The file cannot be read; it may have been moved."), []);
  }
}

/** Entries for the log, all by one person. Nothing stands between the hand and the network here. */
export function sendObservations(
  inspection: string,
  author: string,
  observations: readonly Said[],
): Promise<EntryAnswer> {
  const body = JSON.stringify({ author: author || undefined, observations });
  return send(`/api/inspections/${inspection}/observations?weigh=later`, body, "application/json");
}

/** An engine that was described here, under the id that it was given here. */
export function addEngine(given: { id: string; author: string; data: Engine }): Promise<Schemas["Engine"]> {
  return send("/api/engines", JSON.stringify(given), "application/json");
}

/** An inspection that was begun here, under the id that it was given here. */
export function beginInspection(given: Schemas["OpenRequest"]): Promise<Inspection> {
  return send("/api/inspections", JSON.stringify(given), "application/json");
}

/** A photo joins a list of the document; the server makes the picture anew. */
export function addPhoto(
  inspection: string,
  picture: Blob,
  said: { client_id: string; author: string; device: string; made: string; path: string; numbering: readonly number[] },
): Promise<EntryAnswer> {
  const asked = new URLSearchParams({ ...said, weigh: "later", numbering: said.numbering.join(",") });
  return send(`/api/inspections/${inspection}/photos?${asked}`, picture, "application/octet-stream");
}

/** The core reads documents, nothing before it. */
export function importDocument(file: Blob): Promise<Inspection> {
  return send("/api/inspections/import", file, "application/json");
}

/** A table of several engines' inspections as it is understood; nothing is recorded. */
export function readHistories(cells: Blob, columns: Taken): Promise<Schemas["Histories"]> {
  return send(`/api/histories?${asked(columns)}`, cells, "application/octet-stream");
}

/** What a table of cells would record; with what each column holds, where the guess is not to stand. */
export function readTable(
  inspection: string,
  cells: Blob,
  columns: Taken,
): Promise<Schemas["Cells"]> {
  return send(`/api/inspections/${inspection}/cells?${asked(columns)}`, cells, "application/octet-stream");
}

/** What each column of a table is taken for. */
type Taken = readonly { holds: string; unit: string }[];

function asked(columns: Taken): URLSearchParams {
  return new URLSearchParams(columns.flatMap(({ holds, unit }) => [["holds", holds], ["unit", unit]]));
}

/** What a trace shows, read by the server; with a mark, which rise is whose. */
export function readTrace(
  inspection: string,
  file: Blob,
  mark: { cylinder: number; second: number } | undefined,
): Promise<Schemas["Trace"]> {
  const asked = mark ? `?cylinder=${mark.cylinder}&second=${mark.second.toFixed(4)}` : "";
  return send(`/api/inspections/${inspection}/trace${asked}`, file, "application/octet-stream");
}
