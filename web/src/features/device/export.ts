import { t } from "../../language";
import { today } from "../../storage/today";
import { inspectionOf, type Entry } from "../../queue";

/** Entries as a file that says everything about them; pictures are carried inside it. */
export async function exportEntries(list: readonly Entry[]): Promise<void> {
  const rows = await Promise.all(list.map(row));
  const text = JSON.stringify({ format: "fiacre-entries", version: 1, entries: rows }, null, 2);
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

function encoded(picture: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error(t("The picture cannot be read.")));
    reader.readAsDataURL(picture);
  });
}
