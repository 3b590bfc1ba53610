import { describe, expect, it } from "vitest";
import type { Document } from "../../api/client";
import { fromScanTool } from "./pasted";

const document = { engine: { cylinders: 4 }, inspection: { note: "Before." } } as unknown as Document;
const PATH = "/inspection/trouble_codes";

describe("what a scan tool wrote, pasted as it is", () => {
  it("gives its codes once each, its counts by cylinder, and keeps all of it", () => {
    const text = "DTC list (2): P0302 Cylinder 2 misfire; P0171 lean.\nCylinder 2 misfire count: 128\nCyl 3 misfires 4 P0302";
    const entries = fromScanTool(document, PATH, text);
    expect(entries[0]).toEqual([PATH, ["P0302", "P0171"]]);
    expect(entries).toContainEqual(["/tests/misfires/2/count", 128]);
    expect(entries).toContainEqual(["/tests/misfires/3/count", 4]);
    expect(entries.at(-1)).toEqual(["/inspection/note", `Before.\nScan tool: ${text}`]);
  });

  it("leaves what was typed as it was typed, right or wrong", () => {
    expect(fromScanTool(document, PATH, "p0301, p9999")).toEqual([[PATH, ["P0301", "P9999"]]]);
    expect(fromScanTool(document, PATH, " ")).toEqual([[PATH, undefined]]);
  });

  it("invents no cylinder", () => {
    const entries = fromScanTool(document, PATH, "Cylinder 9 misfire count: 12");
    expect(entries.map(([path]) => path)).toEqual(["/inspection/note"]);
  });
});
