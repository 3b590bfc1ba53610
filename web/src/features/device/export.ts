import { t } from "../../language";
import { today } from "../../storage/today";
import { inspectionOf, type Act, type Author, type Entry } from "../../queue";

/** An entry as it stands in a file. */
interface Row {
  client_id: string;
  made: string;
  device: string;
  author: Author;
  title: string;
  said: Act | (Omit<Extract<Act, { kind: "photo" }>, "picture"> & { picture: string });
}

const FORMAT = "fiacre-entries";

/** Entries as a file that says everything about them; pictures are carried inside it. */
export async function exportEntries(list: readonly Entry[]): Promise<void> {
  const rows = await Promise.all(list.map(row));
  const text = JSON.stringify({ format: FORMAT, version: 1, entries: rows }, null, 2);
  const address = URL.createObjectURL(new Blob([text], { type: "application/json" }));
  const link = document.createElement("a");
  link.href = address;
  link.download = `entries-${today()}.json`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 1_000);
}

async function row({ id, made, device, author, title, act, aside }: Entry) {
  const said = act.kind === "photo" ? { ...act, picture: await encoded(act.picture) } : act;
  return { client_id: id, made, device, author, title, inspection: inspectionOf(act), said, set_aside: aside };
}

/** What a file holds that was exported before, on this device or another. */
export async function readEntries(file: File): Promise<Omit<Entry, "order" | "tab">[]> {
  const refused = () => new Error(t("{{file}} is no file of entries that were exported here.", { file: file.name }));
  const told = await file.text().then(JSON.parse).catch(() => undefined);
  if (told?.format !== FORMAT || !Array.isArray(told.entries)) throw refused();
  return Promise.all(
    (told.entries as Row[]).map(async ({ client_id: id, made, device, author, title, said }) => {
      if (!id || !author?.id || !said?.kind) throw refused();
      const act = said.kind === "photo" && typeof said.picture === "string" ? { ...said, picture: await decoded(said.picture) } : (said as Act);
      return { id, made, device, author, title, act, aside: { code: "from-file", text: "" } };
    }),
  );
}

/** A picture as it was encoded; no page fetches, so that no policy stands in its way. */
async function decoded(address: string): Promise<Blob> {
  const [head = "", data = ""] = address.split(",", 2);
  const bytes = Uint8Array.from(atob(data), (sign) => sign.charCodeAt(0));
  return new Blob([bytes], { type: /^data:([^;]+)/.exec(head)?.[1] ?? "image/jpeg" });
}

function encoded(picture: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error(t("The picture cannot be read.")));
    reader.readAsDataURL(picture);
  });
}
