import { strToU8, zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { unpacked } from "./unpacked";

const packed = (files: Record<string, string>, name = "many.zip") =>
  new File([zipSync(Object.fromEntries(Object.entries(files).map(([path, text]) => [path, strToU8(text)]))).slice()], name);

describe("a packed file", () => {
  it("is its inspections, each by its name", async () => {
    const files = await unpacked(packed({ "a.json": "{}", "b/c.JSON": "[]", "photo.jpg": "x" }));
    expect(files.map((one) => one.name)).toEqual(["a.json", "b/c.JSON"]);
    expect(await files[0]?.text()).toBe("{}");
  });
  it("is, of a shop's archive, what any shop can take in", async () => {
    const files = await unpacked(packed({ "inspections/1.json": "{}", "signed/2.json": "{}", "rows/shop.jsonl": "" }));
    expect(files.map((one) => one.name)).toEqual(["inspections/1.json"]);
  });
  it("leaves out what unpacks to more than an inspection", async () => {
    expect(await unpacked(packed({ "bomb.json": "0".repeat(6_000_000) }))).toEqual([]);
  });
  it("is refused in words where it is none, and another file is itself", async () => {
    await expect(unpacked(new File(["no"], "no.zip"))).rejects.toThrow("no.zip: no ZIP that can be read");
    const plain = new File(["{}"], "one.json");
    expect(await unpacked(plain)).toEqual([plain]);
  });
});
