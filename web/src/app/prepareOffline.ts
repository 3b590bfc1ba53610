import { api, take, type Schemas } from "../api/client";
import { askSheet } from "../features/inspection/useSheet";
import { queue } from "../queue";
import { askOrRecall, keep, kept } from "../storage/kept";

type Row = Schemas["InspectionRow"];

/** So many of the newest inspections are brought onto the device before anybody opens them. */
const MOST = 12;
const PAUSE_MS = 50;
const QUIET_MS = 3_000;
const SHEETS = ["work-order", "board", "refit"] as const;

/** Fetch what pages and steps need without a network; one thing after the other, in idle moments. */
export async function prepareOffline(): Promise<void> {
  // What waits here is asked about when there is no network, and before a worker keeps the pages.
  void import("../features/device/DevicePage").catch(() => undefined);
  const shared: (() => Promise<unknown>)[] = [
    () => askOrRecall("vocabulary", () => take(api.GET("/api/vocabulary"))),
    () => askOrRecall("engine-presets", () => take(api.GET("/api/engine-presets"))),
    () => askOrRecall("engines", () => take(api.GET("/api/engines"))),
    () => askOrRecall("calculators", () => take(api.GET("/api/calculators"))),
    () => askOrRecall("rules", () => take(api.GET("/api/shop/rules"))),
    () => askOrRecall("people", () => take(api.GET("/api/people"))),
    () => askOrRecall("tools", () => take(api.GET("/api/session/tools"))),
  ];
  for (const ask of shared) await inPeace(ask);
  const rows = await askOrRecall("inspections", () => take(api.GET("/api/inspections", {}))).catch(() => [] as Row[]);
  for (const row of rows.slice(0, MOST)) await bring(row);
}

/** An inspection with everything its steps show, where the device has it older than it is. */
async function bring(row: Row): Promise<void> {
  const known = await kept<unknown>(`inspection ${row.id}`);
  if (known && known.at >= Date.parse(row.changed)) return;
  await inPeace(async () => {
    const params = { path: { inspection_id: row.id } };
    await keep(`inspection ${row.id}`, await take(api.GET("/api/inspections/{inspection_id}", { params })));
  });
  for (const sheet of SHEETS) await inPeace(() => askSheet(sheet, row.id));
}

/** A hand at work goes first; what cannot be had now is asked for when it is looked at. */
async function inPeace(ask: () => Promise<unknown>): Promise<void> {
  do await new Promise<void>((resolve) => setTimeout(resolve, PAUSE_MS));
  while (queue.busyWithin(QUIET_MS));
  await ask().catch(() => undefined);
}
